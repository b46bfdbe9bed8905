#include "core/results/details.hpp"

#include <cmath>

#include "core/base/numbers.hpp"
#include "core/base/overloaded.hpp"
#include "core/data/place_text.hpp"
#include "core/geometry/curves/curve_division.hpp"
#include "core/geometry/solids/bodies.hpp"
#include "core/geometry/surfaces/offset_surface.hpp"

namespace plume {
namespace {

using Lines = std::vector<std::string>;

// What is looked through in some ten milliseconds.
constexpr std::size_t most_poles = 40'000, most_corners = 1'000'000, most_curves = 100;

std::string told(double value, Dimension dimension, const Units& units) {
    return quantity_text({value, dimension}, units);
}

std::string direction_text(const char* name, const SplineBasis& basis) {
    return std::to_string(basis.degree) + " along " + name + (basis.closed ? ", closed" : "");
}

std::string smallest_radius(const SplinePatch& patch, const Units& units) {
    double least = std::numeric_limits<double>::infinity();
    for (const int side : {1, -1})
        if (const auto tightest = tightest_on(patch, side)) least = std::min(least, tightest->radius);
    return std::isfinite(least) ? "smallest radius about " + told(least, a_length, units) : "flat";
}

Lines lines_of(const SurfaceSet& set, const Units& units) {
    if (set.patches.size() != 1) return {};
    const SplinePatch& patch = set.patches.front();
    Lines lines{"degree " + direction_text("u", patch.u()) + "; " + direction_text("v", patch.v())};
    if (patch.rational()) lines.emplace_back("rational: its poles have weights");
    if (patch.trimmed())
        lines.push_back(std::to_string(patch.trims().size()) +
                        (patch.trims().size() == 1 ? " trim" : " trims"));
    if (patch.x().size() <= most_poles) lines.push_back(smallest_radius(patch, units));
    return lines;
}

Lines lines_of(const CurveSet& set, const Units& units) {
    if (set.curves.empty() || set.curves.size() > most_curves) return {};
    double length = 0;
    for (const SplineCurve& curve : set.curves) {
        if (curve.x().size() > most_poles / set.curves.size()) return {};
        length += length_of(curve);
    }
    return {told(length, a_length, units) + " long"};
}

Lines lines_of(const SolidSet& set, const Units& units) {
    const BodyFigures figures = figures_of(set);
    std::size_t exact = 0;
    for (const Body& body : set.bodies)
        exact += body.exact() ? 1 : 0;
    return {exact == set.bodies.size() ? "closed and exact"
            : exact == 0               ? "closed meshes"
                                       : "closed, some exact",
            "surface area " + told(figures.area, {2, 0}, units),
            "centroid at " + place_text(figures.centroid, std::sqrt(figures.area), units)};
}

Lines lines_of(const Mesh& mesh) {
    if (mesh.face_count() == 0 || mesh.corner_count() > most_corners) return {};
    const std::size_t open = open_edges(mesh).size();
    if (open == 0) return {"closed"};
    return {grouped_text(static_cast<std::int64_t>(open)) + (open == 1 ? " open edge" : " open edges")};
}

}  // namespace

std::vector<std::string> details_of(const Value& value, const Units& units) {
    return std::visit(
        Overloaded{[](const PointLattice&) { return Lines{}; }, [](const FieldOnPoints&) { return Lines{}; },
                   [](const DirectionsOnPoints&) { return Lines{}; },
                   [](const Placements&) { return Lines{}; }, [](const Attractors&) { return Lines{}; },
                   [](const Mesh& mesh) { return lines_of(mesh); },
                   [&](const SurfaceSet& set) { return lines_of(set, units); },
                   [&](const CurveSet& set) { return lines_of(set, units); },
                   [&](const SolidSet& set) { return lines_of(set, units); },
                   [](const Quantity&) { return Lines{}; }},
        value);
}

}  // namespace plume

#include "core/results/facts.hpp"

#include <algorithm>
#include <cmath>
#include <nlohmann/json.hpp>

#include "core/base/numbers.hpp"
#include "core/base/overloaded.hpp"
#include "core/base/text.hpp"
#include "core/data/delivery.hpp"
#include "core/data/on_points.hpp"
#include "core/data/part_counts.hpp"
#include "core/data/place_text.hpp"
#include "core/geometry/curves/curve_division.hpp"
#include "core/geometry/curves/spline_basis.hpp"
#include "core/geometry/frames/frame_figures.hpp"
#include "core/geometry/measures/bounds.hpp"
#include "core/geometry/solids/bodies.hpp"
#include "core/geometry/surfaces/offset_surface.hpp"
#include "core/geometry/surfaces/patch_evaluator.hpp"
#include "core/measure/statistics.hpp"

namespace plume {
namespace {

using Json = nlohmann::ordered_json;

constexpr std::size_t histogram_bins = 16;

// JSON has no not-a-number; null stands for it.
Json json_of(double value) {
    return std::isfinite(value) ? Json(value) : Json(nullptr);
}

Json json_of(Vec3 v) {
    return Json::array({json_of(v.x), json_of(v.y), json_of(v.z)});
}

Json json_of(const Field& field, const PointLattice& lattice, const Units& units) {
    const Statistics figures = statistics_of(lattice, field.values, histogram_bins);
    const double shown = shown_per_internal(field.dimension, units);
    const auto figure = [&](double value) {
        return figures.count == figures.not_finite ? Json(nullptr) : json_of(value * shown);
    };
    Json json{{"name", field.name},
              {"unit", unit_text(field.dimension, units)},
              {"count", figures.count},
              {"not_finite", figures.not_finite},
              {"least", figure(figures.least)},
              {"most", figure(figures.most)},
              {"mean", figure(figures.mean)},
              {"median", figure(figures.median)}};
    json["histogram"] = figures.histogram;
    return json;
}

void add(Json& json, const PointLattice& lattice, const Units& units) {
    json["arrangement"] = plain_name(lattice.arrangement());
    json["points"] = lattice.point_count();
    json["counts"] = lattice.counts();
    json["bays"] = Json::array({lattice.bays(0), lattice.bays(1), lattice.bays(2)});
    json["closed"] = Json::array({lattice.closed(0), lattice.closed(1), lattice.closed(2)});
    json["gaps"] = lattice.address_count() - lattice.point_count();
    json["fields"] = Json::array();
    for (const Field& field : lattice.fields())
        json["fields"].push_back(json_of(field, lattice, units));
}

// Gaps count: what is not kept grew, too.
void add(Json& json, const Placements& placements, const Units& units) {
    add(json, placements.origins(), units);
    const PartTree* tree = placements.tree().get();
    if (!tree) return;
    json["generations"] = Json::array();
    for (std::size_t at = 0; at < tree->generation_count(); ++at)
        json["generations"].push_back(tree->generations[at + 1] - tree->generations[at]);
    json["next_generation"] = tree->next;
    const std::vector<std::size_t> counts = counts_by_name(*tree);
    for (std::size_t name = 0; name < counts.size(); ++name)
        json["parts"][tree->part_names[name]] = counts[name];
}

// Numbers that stand on no points: of members, faces, vertices.
struct NumbersOf {
    const char* of;
    const std::vector<Field>& fields;
};

// Of the finite ones; nothing where there is none.
std::optional<std::pair<double, double>> range_of(const Column& values) {
    std::optional<std::pair<double, double>> range;
    for (std::size_t at = 0; at < values.size(); ++at) {
        const double value = values[at];
        if (!std::isfinite(value)) continue;
        range = range ? std::pair(std::min(range->first, value), std::max(range->second, value))
                      : std::pair(value, value);
    }
    return range;
}

void add(Json& json, const NumbersOf& numbers, const Units& units) {
    for (const Field& field : numbers.fields) {
        const auto range = range_of(field.values);
        const double shown = shown_per_internal(field.dimension, units);
        json["numbers"].push_back(Json{{"name", field.name},
                                       {"of", numbers.of},
                                       {"unit", unit_text(field.dimension, units)},
                                       {"least", range ? Json(range->first * shown) : Json(nullptr)},
                                       {"most", range ? Json(range->second * shown) : Json(nullptr)}});
    }
}

void add(Json& json, const Mesh& mesh, const Units& units) {
    add(json, NumbersOf{"vertices", mesh.fields()}, units);
    add(json, NumbersOf{"faces", mesh.face_fields()}, units);
    json["faces"] = mesh.face_count();
    json["parts"] = mesh.part_count();
    json["vertices"] = mesh.vertex_count();
    json["area"] = area(mesh);
}

void add(Json& json, const SurfaceSet& set) {
    for (const SplinePatch& patch : set.patches)
        json["patches"].push_back(Json{{"degrees", {patch.u().degree, patch.v().degree}},
                                       {"poles", {patch.u().pole_count(), patch.v().pole_count()}},
                                       {"closed", {patch.u().closed, patch.v().closed}}});
}

void add(Json& json, const CurveSet& set) {
    for (const SplineCurve& curve : set.curves)
        json["curves"].push_back(Json{{"degree", curve.basis().degree},
                                      {"points", curve.basis().nodes.size()},
                                      {"poles", curve.basis().pole_count()},
                                      {"closed", curve.closed()},
                                      {"length", length_of(curve)}});
}

Json json_of(const BodyFigures& figures) {
    return {{"volume", json_of(figures.volume)},
            {"area", json_of(figures.area)},
            {"centroid", json_of(figures.centroid)}};
}

void add(Json& json, const SolidSet& set) {
    json.update(json_of(figures_of(set)));
    for (const Body& body : set.bodies) {
        Json one{{"exact", body.exact()}, {"faces", body.face_count()}};
        one.update(json_of(body.figures()));
        json["bodies"].push_back(std::move(one));
    }
}

void add(Json& json, const BarFrame& frame, const Units& units) {
    add(json, NumbersOf{"members", frame.fields()}, units);
    const FrameFigures figures = figures_of(frame);
    json["members"] = frame.member_count();
    json["nodes"] = frame.node_count();
    for (std::size_t way = 0; way < way_count; ++way)
        if (figures.ways[way] > 0) json["ways"][plain_name(static_cast<Way>(way))] = figures.ways[way];
    json["length"] = {{"total", json_of(figures.total_length)},
                      {"least", json_of(figures.shortest)},
                      {"most", json_of(figures.longest)}};
    json["valence"] = {{"least", figures.least_valence}, {"most", figures.most_valence}};
    json["pieces"] = figures.pieces;
}

void add(Json& json, const DeliveryContent& delivery) {
    json["file"] = delivery.file + delivery.ending;
    for (const GivenResult& given : delivery.results)
        json["gives"].push_back(given.name);
}

void add(Json& json, const Quantity& number, const Units& units) {
    json["value"] = json_of(number.value * shown_per_internal(number.dimension, units));
    json["unit"] = unit_text(number.dimension, units);
}

using FactLines = std::vector<std::string>;

// What is looked through in some ten milliseconds.
constexpr std::size_t most_poles = 40'000, most_corners = 1'000'000, most_curves = 100;

std::string told(double value, Dimension dimension, const Units& units) {
    return quantity_text({value, dimension}, units);
}

std::string direction_text(const char* name, const SplineBasis& basis) {
    return std::to_string(basis.degree) + " along " + name + (basis.closed ? ", closed" : "");
}

// Whether normals in the middles of its spans all look one way, or the other.
bool lies_in_one_plane(const SplinePatch& patch) {
    const PatchEvaluator evaluator(patch);
    std::optional<Vec3> first;
    for (const double v : knot_middles(patch.v()))
        for (const double u : knot_middles(patch.u())) {
            const SurfacePoint at = evaluator.at(u, v);
            const Vec3 normal = unit_or_zero(cross(at.along_u, at.along_v));
            if (!first) first = normal;
            if (std::abs(dot(normal, *first)) < 1 - 1e-9) return false;
        }
    return true;
}

std::string smallest_radius(const SplinePatch& patch, const Units& units) {
    double least = std::numeric_limits<double>::infinity();
    for (const int side : {1, -1})
        if (const auto tightest = tightest_on(patch, side)) least = std::min(least, tightest->radius);
    if (std::isfinite(least)) return "smallest radius about " + told(least, a_length, units);
    return lies_in_one_plane(patch) ? "flat" : "flat between its creases";
}

FactLines lines_of(const Placements& placements) {
    const PartTree* tree = placements.tree().get();
    if (!tree) return {};
    const std::size_t last = tree->generation_count() - 1;
    std::string names;
    const std::vector<std::size_t> counts = counts_by_name(*tree);
    for (std::size_t name = 0; name < counts.size(); ++name)
        names += (name == 0 ? "" : ", ") + grouped_text(static_cast<std::int64_t>(counts[name])) + ' ' +
                 tree->part_names[name];
    return {
        "grown over " + count_text(last, "generation", "generations") + ", the last of " +
            grouped_text(static_cast<std::int64_t>(tree->generations[last + 1] - tree->generations[last])),
        std::move(names)};
}

FactLines lines_of(const SurfaceSet& set, const Units& units) {
    if (set.patches.size() != 1) return {};
    const SplinePatch& patch = set.patches.front();
    FactLines lines{"degree " + direction_text("u", patch.u()) + "; " + direction_text("v", patch.v())};
    if (patch.rational()) lines.emplace_back("rational: its poles have weights");
    if (patch.trimmed())
        lines.push_back(std::to_string(patch.trims().size()) +
                        (patch.trims().size() == 1 ? " trim" : " trims"));
    if (patch.x().size() <= most_poles) lines.push_back(smallest_radius(patch, units));
    return lines;
}

FactLines lines_of(const CurveSet& set, const Units& units) {
    if (set.curves.empty() || set.curves.size() > most_curves) return {};
    double length = 0;
    for (const SplineCurve& curve : set.curves) {
        if (curve.x().size() > most_poles / set.curves.size()) return {};
        length += length_of(curve);
    }
    return {told(length, a_length, units) + " long"};
}

FactLines lines_of(const SolidSet& set, const Units& units) {
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

// "force of members: 1.2 kN … 28.9 kN": of the last one, which colours it. Others are in the table and in
// JSON; all of them would fill the Readings.
void add_last(FactLines& lines, const NumbersOf& numbers, const Units& units) {
    const Field& field = numbers.fields.back();
    if (const auto range = range_of(field.values))
        lines.push_back(field.name + " of " + numbers.of + ": " +
                        range_text(range->first, range->second, field.dimension, units));
}

FactLines lines_of(const BarFrame& frame, const Units& units) {
    if (frame.member_count() > most_corners) return {};
    const FrameFigures figures = figures_of(frame);
    std::string ways;
    for (std::size_t way = 0; way < way_count; ++way)
        if (figures.ways[way] > 0)
            ways += (ways.empty() ? "" : ", ") + grouped_text(static_cast<std::int64_t>(figures.ways[way])) +
                    ' ' + std::string(plain_name(static_cast<Way>(way)));
    FactLines lines{ways,
                    (figures.longest - figures.shortest > 1e-9 * figures.longest
                         ? range_text(figures.shortest, figures.longest, a_length, units) + " long"
                         : told(figures.longest, a_length, units) + " long each") +
                        ", together " + told(figures.total_length, a_length, units),
                    "members at a node: " + (figures.least_valence == figures.most_valence
                                                 ? std::to_string(figures.most_valence)
                                                 : std::to_string(figures.least_valence) + " to " +
                                                       std::to_string(figures.most_valence))};
    if (figures.pieces > 1) lines.push_back("in " + std::to_string(figures.pieces) + " pieces");
    if (!frame.fields().empty()) add_last(lines, {"members", frame.fields()}, units);
    return lines;
}

FactLines lines_of(const Mesh& mesh, const Units& units) {
    if (mesh.face_count() == 0 || mesh.corner_count() > most_corners) return {};
    const std::size_t open = open_edges(mesh).size();
    FactLines lines{open == 0 ? "closed" : count_text(open, "open edge", "open edges")};
    if (!mesh.face_fields().empty())
        add_last(lines, {"faces", mesh.face_fields()}, units);
    else if (!mesh.fields().empty())
        add_last(lines, {"vertices", mesh.fields()}, units);
    return lines;
}

}  // namespace

Json facts_of(const Value& value, const Units& units) {
    Json json{{"kind", key_of(kind_of(value))},
              {"outline", outline_text(value, units)},
              {"bytes", bytes_of(value)}};
    if (const Box box = bounds_of(value); !box.empty())
        json["bounds"] = Json{{"low", json_of(box.low)}, {"high", json_of(box.high)}};
    std::visit(
        Overloaded{[&](const PointLattice& lattice) { add(json, lattice, units); },
                   [&](const OnPoints auto& item) { add(json, item.points, units); },
                   [&](const Placements& item) { add(json, item, units); },
                   [](const Attractors&) {},  // how many they are says the outline
                   [&](const Mesh& mesh) { add(json, mesh, units); },
                   [&](const SurfaceSet& set) { add(json, set); },
                   [&](const CurveSet& set) { add(json, set); }, [&](const SolidSet& set) { add(json, set); },
                   [&](const BarFrame& frame) { add(json, frame, units); },
                   [&](const Quantity& number) { add(json, number, units); },
                   [&](const Delivery& delivery) { add(json, *delivery); }},
        value);
    return json;
}

std::vector<std::string> details_of(const Value& value, const Units& units) {
    return std::visit(
        Overloaded{[](const PointLattice&) { return FactLines{}; },
                   [](const OnPoints auto&) { return FactLines{}; },
                   [](const Placements& item) { return lines_of(item); },
                   [](const Attractors&) { return FactLines{}; },
                   [&](const Mesh& mesh) { return lines_of(mesh, units); },
                   [&](const SurfaceSet& set) { return lines_of(set, units); },
                   [&](const CurveSet& set) { return lines_of(set, units); },
                   [&](const SolidSet& set) { return lines_of(set, units); },
                   [&](const BarFrame& frame) { return lines_of(frame, units); },
                   [](const Quantity&) { return FactLines{}; }, [](const Delivery&) { return FactLines{}; }},
        value);
}

}  // namespace plume

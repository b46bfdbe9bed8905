#include "core/geometry/curves/spline_basis.hpp"
#include "core/geometry/surfaces/even_lengths.hpp"
#include "core/geometry/surfaces/patch_figures.hpp"
#include "core/geometry/surfaces/surface_sampling.hpp"
#include "core/steps/surfaces/surface_support.hpp"

namespace plume {
namespace {

Estimate estimate(const Inputs& in) {
    const double count = (in.number("columns") + 1) * (in.number("rows") + 1);
    return {count * 6 * sizeof(double), count * 1e-6};
}

std::vector<double> stations(const SplineBasis& basis, std::size_t bays) {
    std::vector<double> at;
    for (std::size_t bay = 0; bay < bays + (basis.closed ? 0 : 1); ++bay)
        at.push_back(
            std::lerp(basis.start(), basis.end(), static_cast<double>(bay) / static_cast<double>(bays)));
    return at;
}

Result<Value> make(const Inputs& in, const Run& run) {
    const Result<SplinePatch> only = only_patch(in, "points are placed on one");
    if (!only) return only.error();
    const SplinePatch& patch = *only;
    const bool by_length = in.word("spacing") == "lengths";
    const auto across = by_length ? even_length_parameters(patch, 0, in.count("columns"))
                                  : stations(patch.u(), in.count("columns"));
    const auto up = by_length ? even_length_parameters(patch, 1, in.count("rows"))
                              : stations(patch.v(), in.count("rows"));
    const std::size_t count = across.size() * up.size();
    Doubles x(count), y(count), z(count);
    std::vector<std::uint8_t> present(patch.trimmed() ? count : 0, 1);
    const TrimSides there(patch);
    const auto each = [&](std::size_t i, std::size_t j, const SurfacePoint& point) {
        const std::size_t at = i + across.size() * j;
        x[at] = point.position.x;
        y[at] = point.position.y;
        z[at] = point.position.z;
        if (patch.trimmed()) present[at] = there.hold(across[i], up[j]) ? 1 : 0;
    };
    if (!visit_points(patch, across, up, each, run)) return cancelled_error();
    PointLattice::Parts parts;
    parts.present = std::move(present);
    parts.counts = {across.size(), up.size(), 1};
    parts.closed = {patch.u().closed, patch.v().closed, false};
    parts.x = std::move(x);
    parts.y = std::move(y);
    parts.z = std::move(z);
    Result<PointLattice> lattice = PointLattice::make(std::move(parts));
    if (!lattice) return lattice.error();
    return Value(*std::move(lattice));
}

}  // namespace

StepKind divide_surface() {
    return {
        .key = "lattice.on_surface",
        .verb = "Place points on a surface",
        .synonyms = "divide surface u v grid sample panels",
        .sentence = "Place points on {surface} in {columns} by {rows} bays of {spacing}.",
        .slots = {reference_slot("surface", "Surface", {Kind::surface}),
                  count_slot("columns", "Bays along u", "24", 1), count_slot("rows", "Bays along v", "16", 1),
                  choice_slot("spacing", "Spacing",
                              {{"parameters", "even parameters", "even shares of u and v"},
                               {"lengths", "even lengths", "in the mean of the lines across"}})},
        .results = {Kind::points},
        .result_name = "on_surface",
        .help =
            "A grid of points on a surface, at even steps of its own parameters u and v or at even lengths "
            "along "
            "them. A closed direction of n bays has n points, an open one n + 1.",
        .estimate = estimate,
        .make = make,
    };
}

}  // namespace plume

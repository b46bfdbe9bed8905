#include "core/geometry/surfaces/surface_sampling.hpp"
#include "core/steps/surfaces/surface_grid.hpp"
#include "core/steps/surfaces/surface_support.hpp"

namespace plume {
namespace {

Estimate estimate(const Inputs& in) {
    const double count = grid_count(in);
    return {count * 6 * sizeof(double), count * 1e-6};
}

Result<Value> make(const Inputs& in, const Run& run) {
    const Result<SplinePatch> patch = only_patch(in, "points are placed on one");
    if (!patch) return patch.error();
    const SurfaceGrid grid = grid_on(*patch, in);
    const std::size_t count = grid.u.size() * grid.v.size();
    Doubles x(count), y(count), z(count);
    const auto each = [&](std::size_t i, std::size_t j, const SurfacePoint& point) {
        const std::size_t at = i + grid.u.size() * j;
        x[at] = point.position.x;
        y[at] = point.position.y;
        z[at] = point.position.z;
    };
    if (!visit_points(*patch, grid.u, grid.v, each, run)) return cancelled_error();
    return as_value(points_on(*patch, grid, std::move(x), std::move(y), std::move(z)));
}

}  // namespace

StepKind divide_surface() {
    return {
        .key = "lattice.on_surface",
        .verb = "Place points on a surface",
        .synonyms = "divide surface u v grid sample panels",
        .sentence = std::string("Place points on {surface} ") + surface_grid_words + ".",
        .slots = with_surface_grid({surface_slot()}),
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

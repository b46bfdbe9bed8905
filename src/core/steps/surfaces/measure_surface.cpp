#include "core/base/parallel.hpp"
#include "core/geometry/surfaces/bending.hpp"
#include "core/steps/surfaces/surface_grid.hpp"
#include "core/steps/surfaces/surface_measures.hpp"
#include "core/steps/surfaces/surface_support.hpp"

namespace plume {
namespace {

Estimate estimate(const Inputs& in) {
    double poles = 0;
    for (const SplinePatch& patch : in.held<SurfaceSet>("surface").patches)
        poles += static_cast<double>(patch.x().size());
    const double count = grid_count(in);
    return {count * 12 * sizeof(double) + poles * 64, count * 1e-6};
}

Result<Value> make(const Inputs& in, const Run& run) {
    const Result<SplinePatch> patch = only_patch(in, "one is measured");
    if (!patch) return patch.error();
    const SurfaceGrid grid = grid_on(*patch, in);
    const std::size_t count = grid.u.size() * grid.v.size();
    const std::vector<double> across = widths_around(grid.u, patch->u()),
                              up = widths_around(grid.v, patch->v());
    Doubles x(count), y(count), z(count);
    const PatchEvaluator evaluator(*patch);
    MeasuredPlaces measured{SurfaceMeasure(in), count};
    const auto each = [&](std::size_t i, std::size_t j, const SurfaceBend& bend) {
        const std::size_t at = i + grid.u.size() * j;
        const Vec3& place = bend.point.position;
        x[at] = place.x;
        y[at] = place.y;
        z[at] = place.z;
        const double area = length(cross(bend.point.along_u, bend.point.along_v)) * across[i] * up[j];
        const Bending bending = bending_of(bend);
        measured.set(at,
                     bending.normal == Vec3{}
                         ? bending_at(evaluator, patch->u(), patch->v(), grid.u[i], grid.v[j])
                         : bending,
                     place, area);
    };
    if (!visit_bends(*patch, grid.u, grid.v, each, run)) return cancelled_error();
    const auto points = points_on(*patch, grid, std::move(x), std::move(y), std::move(z));
    if (!points) return points.error();
    return std::move(measured).on(*points, in, run);
}

}  // namespace

StepKind measure_surface() {
    std::vector<SlotSpec> slots =
        with_surface_grid({choice_slot("what", "What", surface_measures()), surface_slot()});
    return {
        .key = "surface.measure",
        .verb = "Measure a surface",
        .synonyms =
            "curvature gaussian mean principal radius slope steepness facing sun normal angle analyse "
            "directions",
        .sentence =
            std::string("Measure {what} of {surface} ") + surface_grid_words + measured_against_words + ".",
        .slots = with_measured_against(std::move(slots)),
        .results = {Kind::field, Kind::directions},
        .result_name = "measured",
        .help =
            "Points on a surface with a number that it has there, exactly: a curvature, a radius, a slope, "
            "an "
            "angle; or with the direction in which it bends most or least. Colour by it, draw its iso-lines, "
            "keep where it is large. Curvatures are above 0 where the surface bends towards its normal.",
        .bears_name = true,
        .estimate = estimate,
        .make = make,
    };
}

}  // namespace plume

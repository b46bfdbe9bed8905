#include "core/geometry/measures/bounds.hpp"
#include "core/geometry/surfaces/offset_surface.hpp"
#include "core/geometry/surfaces/trimming.hpp"
#include "core/steps/curves/curve_support.hpp"
#include "core/steps/surfaces/surface_support.hpp"

namespace plume {
namespace {

// Of the distance, as thickened surfaces are.
constexpr double true_share = 1e-4;

Result<Value> make(const Inputs& in, const Run& run) {
    const double by = in.number("by");
    double deviation = 0;
    Result<Value> made =
        each_patch(in, run, Trims::go_along, [&](const SplinePatch& patch) -> Result<SplinePatch> {
            Result<Offsets> offsets = offsets_of(patch, {offset_by(by)}, true_share * std::abs(by), run);
            if (!offsets) return offsets.error();
            deviation = std::max(deviation, offsets->deviation);
            return with_trims(offsets->at.front(), patch.trims());
        });
    if (made && deviation > 1e-12 * bounds_of(*made).diagonal())
        run.remark(deviation_sentence(deviation, in));
    return made;
}

}  // namespace

StepKind offset_surfaces() {
    return {
        .key = "surface.offset",
        .verb = "Offset a surface",
        .synonyms = "parallel distance thickness inner outer normal",
        .sentence = "Offset {surface} by {by}.",
        .slots = {surface_slot(), length_slot("by", "By", "500 mm")},
        .results = {Kind::surface},
        .result_name = "offset",
        .help =
            "The surface at a distance along its normals; below 0 on the other side. Planes, cylinders, "
            "cones "
            "and spheres are exact, others true to a ten thousandth of the distance; how true is told below.",
        .estimate = [](const Inputs& in) { return surface_poles_estimate(in, 360, 3e-6); },
        .make = make,
    };
}

}  // namespace plume

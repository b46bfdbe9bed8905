#include <algorithm>

#include "core/geometry/surfaces/rebuilt_surface.hpp"
#include "core/steps/curves/curve_support.hpp"
#include "core/steps/surfaces/surface_support.hpp"

namespace plume {
namespace {

Result<Value> make(const Inputs& in, const Run& run) {
    double deviation = 0;
    Result<Value> made =
        each_patch(in, run, Trims::refused, [&](const SplinePatch& patch) -> Result<SplinePatch> {
            auto rebuilt = rebuilt_evenly(patch, in.count("columns"), in.count("rows"), run);
            if (!rebuilt) return rebuilt.error();
            deviation = std::max(deviation, rebuilt->deviation);
            return std::move(rebuilt->patch);
        });
    if (made) run.remark(deviation_sentence(deviation, in));
    return made;
}

Estimate estimate(const Inputs& in) {
    const auto patches = static_cast<double>(in.held<SurfaceSet>("surface").patches.size());
    const double bays = (in.number("columns") + 1) * (in.number("rows") + 1) * patches;
    const Estimate read = surface_poles_estimate(in, 400, 2e-6);
    return {read.bytes + bays * 120, read.seconds + bays * 4e-5};
}

}  // namespace

StepKind rebuild_surface() {
    return {
        .key = "surface.even",
        .verb = "Even out a surface",
        .synonyms = "rebuild reparametrise resample equal lengths smooth fewer poles regular",
        .sentence = "Rebuild {surface} from {columns} by {rows} bays of even lengths.",
        .slots = {surface_slot(), count_slot("columns", "Bays along u", "24", 1),
                  count_slot("rows", "Bays along v", "16", 1)},
        .results = {Kind::surface},
        .result_name = "even",
        .help =
            "The smooth surface through points of another at even lengths along u and v, so that even "
            "parameters are even lengths on it; closed directions stay closed. How far the two are apart at "
            "most is measured and said.",
        .estimate = estimate,
        .make = make,
    };
}

}  // namespace plume

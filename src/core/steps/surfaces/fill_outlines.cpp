#include "core/geometry/surfaces/plane_fill.hpp"
#include "core/steps/curves/curve_support.hpp"

namespace plume {
namespace {

Result<Value> make(const Inputs& in, const Run& run) {
    auto faces = plane_fills(in.held<CurveSet>("curve"), run);
    if (!faces) return about_slot(faces.error(), "curve");
    return Value(SurfaceSet{*std::move(faces)});
}

}  // namespace

StepKind fill_outlines() {
    return {
        .key = "surface.fill",
        .verb = "Fill outlines",
        .synonyms = "flat face plane plate panel holes trimmed region cap",
        .sentence = "Fill {curve} with flat faces.",
        .slots = {curves_slot()},
        .results = {Kind::surface},
        .result_name = "faces",
        .help =
            "Exact flat faces inside closed flat curves. A curve inside of another one of its plane is a "
            "hole in it, one inside of a hole a face again.",
        .estimate = [](const Inputs& in) { return poles_estimate(in, 200, 2e-5); },
        .make = make,
    };
}

}  // namespace plume

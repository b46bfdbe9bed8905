#include "core/base/text.hpp"
#include "core/geometry/frames/frame_faces.hpp"
#include "core/steps/frames/frame_support.hpp"

namespace plume {
namespace {

Result<Value> make(const Inputs& in, const Run& run) {
    auto faces = faces_between(in.held<BarFrame>("frame"), in.count("corners"), run);
    if (!faces) return about_slot(faces.error(), "frame");
    if (faces->left_out > 0)
        run.remark(count_text(faces->left_out, "ring of members is", "rings of members are") +
                   " no face: a rim, or of more corners.");
    return Value(std::move(faces->mesh));
}

}  // namespace

StepKind take_panels() {
    return {
        .key = "mesh.of_frame",
        .verb = "Take faces between members",
        .synonyms = "panels cells fields infill glass cladding frame mesh loops polygons",
        .sentence = "Take the faces between the members of {frame}, of at most {corners} corners.",
        .slots = {frame_slot(), count_slot("corners", "Most corners", "6", 3)},
        .results = {Kind::mesh},
        .result_name = "panels",
        .help =
            "A face for every ring of members that encloses nothing else, as they lie side by side on the "
            "surface the frame follows. Faces turn one way, the highest upwards; rims are none. Members that "
            "cross without a node enclose nothing: split them before. Of two layers take one first.",
        .estimate = [](const Inputs& in) { return frame_estimate(in, 150, 1.5e-6); },
        .make = make,
    };
}

}  // namespace plume

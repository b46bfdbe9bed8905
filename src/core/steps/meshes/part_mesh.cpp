#include "core/geometry/meshes/mesh_pieces.hpp"
#include "core/steps/meshes/mesh_support.hpp"

namespace plume {
namespace {

Result<Value> make(const Inputs& in, const Run& run) {
    const auto mesh = changed_mesh(in, run);
    if (!mesh) return mesh.error();
    return Value(in.word("into") == "faces" ? parted_by_faces(*mesh) : parted_by_pieces(*mesh));
}

}  // namespace

StepKind part_mesh() {
    return {
        .key = "mesh.part",
        .verb = "Part a mesh",
        .synonyms = "split connected components pieces separate faces explode shells pick",
        .sentence = "Part {mesh} into {into}.",
        .slots = {changed_mesh_slot(),
                  choice_slot("into", "Into",
                              {{"pieces", "the pieces that hang together", "by their sides"},
                               {"faces", "its faces", "each can be pointed at, picked and kept"}})},
        .results = {Kind::mesh},
        .result_name = "parted",
        .help =
            "The same mesh in parts that are named, picked and kept each for itself: a part for each piece, "
            "or "
            "one for each face.",
        .estimate = [](const Inputs& in) { return changed_estimate(in, 110, 2e-7); },
        .make = make,
    };
}

}  // namespace plume

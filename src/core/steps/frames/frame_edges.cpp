#include "core/geometry/frames/frame_assembly.hpp"
#include "core/geometry/frames/mesh_edges.hpp"
#include "core/geometry/meshes/face_places.hpp"
#include "core/geometry/meshes/mesh_sides.hpp"
#include "core/geometry/parts/scattered.hpp"
#include "core/steps/meshes/mesh_support.hpp"

namespace plume {
namespace {

// From the middle of every face to those it shares a side with.
BarFrame::Parts across_edges(const Mesh& mesh) {
    const MeshSides sides = sides_of(mesh);
    const std::vector<std::uint32_t> face_of = faces_of_corners(mesh);
    std::vector<Vec3> places;
    for (std::size_t face = 0; face < mesh.face_count(); ++face)
        places.push_back(face_middle(mesh, face));
    BarFrame::Parts parts{scattered(places, mesh.face_fields()), {}};
    for (std::size_t side = 0; side < sides.count(); ++side)
        for (std::uint32_t at = sides.first[side] + 1; at < sides.first[side + 1]; ++at) {
            const std::uint32_t from = face_of[sides.corners[at - 1]], to = face_of[sides.corners[at]];
            if (from != to) parts.members.push_back({from, to});
        }
    return parts;
}

Result<Value> make(const Inputs& in, const Run& run) {
    const auto mesh = changed_mesh(in, run);
    if (!mesh) return mesh.error();
    const std::string& what = in.word("what");
    auto frame = assembled_frame(
        what == "dual" ? across_edges(*mesh) : edges_of(*mesh, what == "rims" ? Edges::open : Edges::all),
        run);
    if (!frame) return about_slot(frame.error(), "mesh");
    return Value(*std::move(frame));
}

}  // namespace

StepKind frame_edges() {
    return {
        .key = "frame.of_mesh",
        .verb = "Frame the edges of a mesh",
        .synonyms = "bars members wireframe geodesic dual sides faces subdivision structure",
        .sentence = "Frame {what} of {mesh}.",
        .slots = {choice_slot("what", "What",
                              {{"edges", "the edges", "a member for every side of its faces"},
                               {"dual", "across the edges", "from the middle of a face to those beside it"},
                               {"rims", "the open edges", "sides that have one face"}}),
                  changed_mesh_slot()},
        .results = {Kind::frame},
        .result_name = "frame",
        .help =
            "Vertices of a mesh become nodes and its edges members, each once however many faces have it; or "
            "middles of faces become nodes. Nodes are numbered as vertices or faces are. Surfaces and bodies "
            "count as meshes of them.",
        .estimate = [](const Inputs& in) { return changed_estimate(in, 90, 1.5e-7); },
        .make = make,
    };
}

}  // namespace plume

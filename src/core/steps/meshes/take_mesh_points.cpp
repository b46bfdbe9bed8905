#include "core/geometry/meshes/face_places.hpp"
#include "core/geometry/meshes/mesh_sides.hpp"
#include "core/geometry/parts/scattered.hpp"
#include "core/steps/meshes/mesh_support.hpp"

namespace plume {
namespace {

PointLattice face_middles(const Mesh& mesh) {
    std::vector<Vec3> places;
    for (std::size_t face = 0; face < mesh.face_count(); ++face)
        places.push_back(face_middle(mesh, face));
    return scattered(places, mesh.face_fields());
}

PointLattice edge_middles(const Mesh& mesh) {
    const MeshSides sides = sides_of(mesh);
    std::vector<Vec3> places;
    for (const auto& [a, b] : sides.ends)
        places.push_back((mesh.vertex(a) + mesh.vertex(b)) * 0.5);
    std::vector<Field> fields;
    for (const Field& field : mesh.fields()) {
        Doubles numbers;
        for (const auto& [a, b] : sides.ends)
            numbers.push_back((field.values[a] + field.values[b]) / 2);
        fields.push_back({field.name, std::move(numbers), field.dimension});
    }
    Doubles lengths;
    for (const auto& [a, b] : sides.ends)
        lengths.push_back(length(mesh.vertex(b) - mesh.vertex(a)));
    std::erase_if(fields, [](const Field& field) { return field.name == "length"; });
    fields.push_back({"length", std::move(lengths), a_length});
    return scattered(places, fields);
}

PointLattice vertices(const Mesh& mesh) {
    std::vector<Vec3> places;
    for (std::size_t vertex = 0; vertex < mesh.vertex_count(); ++vertex)
        places.push_back(mesh.vertex(vertex));
    return scattered(places, mesh.fields());
}

Result<Value> make(const Inputs& in, const Run& run) {
    const auto mesh = changed_mesh(in, run);
    if (!mesh) return mesh.error();
    const std::string& what = in.word("what");
    return Value(what == "faces"   ? face_middles(*mesh)
                 : what == "edges" ? edge_middles(*mesh)
                                   : vertices(*mesh));
}

}  // namespace

StepKind take_mesh_points() {
    return {
        .key = "points.of_mesh",
        .verb = "Take points of a mesh",
        .synonyms = "vertices edges faces centres centers middles extract",
        .sentence = "Take {what} of {mesh} as points.",
        .slots = {choice_slot("what", "What",
                              {{"faces", "the middles of the faces", "with the numbers of the faces"},
                               {"vertices", "the vertices", "with their numbers"},
                               {"edges", "the middles of the edges", "with the field length"}}),
                  changed_mesh_slot()},
        .results = {Kind::points},
        .result_name = "places",
        .help =
            "Points on a mesh, in the order of what they are taken of. Middles of faces that are kept choose "
            "the faces: see Keep faces of a mesh.",
        .estimate =
            [](const Inputs& in) { return changed_estimate(in, in.word("what") == "edges" ? 70 : 14, 1e-7); },
        .make = make,
    };
}

}  // namespace plume

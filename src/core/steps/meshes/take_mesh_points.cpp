#include "core/geometry/meshes/face_places.hpp"
#include "core/geometry/meshes/mesh_sides.hpp"
#include "core/steps/meshes/mesh_support.hpp"

namespace plume {
namespace {

class Places {
public:
    void add(Vec3 place) {
        x_.push_back(place.x);
        y_.push_back(place.y);
        z_.push_back(place.z);
    }
    Result<PointLattice> with(std::vector<Field> fields) && {
        PointLattice::Parts parts;
        parts.arrangement = Arrangement::scatter;
        parts.counts = {x_.size(), 1, 1};
        parts.x = std::move(x_);
        parts.y = std::move(y_);
        parts.z = std::move(z_);
        parts.fields = std::move(fields);
        return PointLattice::make(std::move(parts));
    }

private:
    Doubles x_, y_, z_;
};

Result<PointLattice> face_middles(const Mesh& mesh) {
    Places places;
    for (std::size_t face = 0; face < mesh.face_count(); ++face)
        places.add(face_middle(mesh, face));
    return std::move(places).with(mesh.face_fields());
}

Result<PointLattice> edge_middles(const Mesh& mesh) {
    const MeshSides sides = sides_of(mesh);
    Places places;
    for (const auto& [a, b] : sides.ends)
        places.add((mesh.vertex(a) + mesh.vertex(b)) * 0.5);
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
    return std::move(places).with(std::move(fields));
}

Result<PointLattice> vertices(const Mesh& mesh) {
    Places places;
    for (std::size_t vertex = 0; vertex < mesh.vertex_count(); ++vertex)
        places.add(mesh.vertex(vertex));
    return std::move(places).with(mesh.fields());
}

Result<Value> make(const Inputs& in, const Run& run) {
    const auto mesh = changed_mesh(in, run);
    if (!mesh) return mesh.error();
    const std::string& what = in.word("what");
    return as_value(what == "faces"   ? face_middles(*mesh)
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

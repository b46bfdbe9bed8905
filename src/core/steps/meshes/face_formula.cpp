#include "core/steps/meshes/face_formula.hpp"

#include <cmath>

#include "core/geometry/meshes/face_places.hpp"

namespace plume {
namespace {

// One number a face.
template <class Number>
Doubles each_face(const Mesh& mesh, const Number& number) {
    Doubles numbers(mesh.face_count());
    for (std::size_t face = 0; face < numbers.size(); ++face)
        numbers[face] = number(face);
    return numbers;
}

}  // namespace

FormulaSite site_on_faces(const Mesh& mesh) {
    FormulaSite site;
    site.domain.directions[0] = {mesh.face_count(), 0, static_cast<double>(mesh.face_count()) - 1, false};
    site.direction_names = {"face", "", ""};
    const auto add = [&](const char* name, Dimension dimension, const char* help, const auto& number) {
        add_numbers(site, name, each_face(mesh, number), dimension, help);
    };
    for (const Field& field : mesh.fields())
        add(field.name.c_str(), field.dimension, "number of the vertices, mean of the corners",
            [&](std::size_t face) {
                double sum = 0;
                for (const std::uint32_t corner : mesh.face(face))
                    sum += field.values[corner];
                return sum / static_cast<double>(mesh.face(face).size());
            });
    constexpr std::pair<const char*, double Vec3::*> parts[] = {
        {"x", &Vec3::x}, {"y", &Vec3::y}, {"z", &Vec3::z}};
    for (const auto& [name, part] : parts)
        add(name, a_length, "coordinate of its middle",
            [&, part = part](std::size_t face) { return face_middle(mesh, face).*part; });
    add("area", {2, 0}, "of the face", [&](std::size_t face) { return length(area_vector(mesh, face)); });
    add("corners", plain_number, "of the face",
        [&](std::size_t face) { return static_cast<double>(mesh.face(face).size()); });
    add("face", plain_number, "its number, from 0",
        [](std::size_t face) { return static_cast<double>(face); });
    add("slope", an_angle, "of its normal from Z", [&](std::size_t face) {
        const Vec3 normal = area_vector(mesh, face);
        return std::atan2(std::hypot(normal.x, normal.y), normal.z);
    });
    for (const Field& field : mesh.face_fields())
        add_numbers(site, field.name, field.values, field.dimension, "number of the faces");
    return site;
}

}  // namespace plume

#pragma once
// Parts of a mesh, each alone or as one shape that is moved, turned and stretched along its own axes.

#include <array>
#include <optional>
#include <vector>

#include "core/base/run.hpp"
#include "core/data/mesh.hpp"
#include "core/picture/ramp.hpp"

namespace plume {

// A place of the shape goes to `to` + its rotation of (its coordinates times the scale).
struct SharedPlace {
    Vec3 to;
    std::array<double, 4> rotation;  // a quaternion: x, y, z, w
    std::array<double, 3> scale;
};
struct SharedParts {
    Mesh shape;  // in axes of its own, about its middle
    std::vector<SharedPlace> places;
};
// Nothing where parts are of different shapes, or where one would be off by more than 1e-6 of its size.
// O(corners).
std::optional<SharedParts> shared_parts(const Mesh& mesh, const Run& run);

// A number of faces or vertices that is finite and the same all over a part. Where both have one of a name it
// is that of faces.
struct NumberOfPart {
    const Field* field = nullptr;  // of the mesh
    double value = 0;
};
std::vector<NumberOfPart> numbers_of_part(const Mesh& mesh, std::size_t part);
// Whether a number of that name is among them.
bool tells(const std::vector<NumberOfPart>& numbers, const Field& field);

// A part as a mesh of its own, with what colours it.
struct ColouredPart {
    Mesh mesh;
    std::vector<Rgb> vertex_colours, face_colours;
};
ColouredPart coloured_part(const Mesh& mesh, std::size_t part, const std::vector<Rgb>& vertex_colours,
                           const std::vector<Rgb>& face_colours);

}  // namespace plume

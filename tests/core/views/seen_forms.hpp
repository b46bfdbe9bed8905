#pragma once
// Forms to be looked at.

#include <cmath>
#include <numbers>

#include "core/made_forms.hpp"

namespace plume::test {

inline Mesh cube(Vec3 low, double side) {
    std::vector<Vec3> places;
    for (int corner = 0; corner < 8; ++corner)
        places.push_back(low + Vec3{(corner & 1) != 0 ? side : 0, (corner & 2) != 0 ? side : 0,
                                    (corner & 4) != 0 ? side : 0});
    return mesh_of_faces(
        places, {{0, 2, 3, 1}, {4, 5, 7, 6}, {0, 1, 5, 4}, {2, 6, 7, 3}, {0, 4, 6, 2}, {1, 3, 7, 5}});
}

// Level, about the middle given.
inline Mesh square(Vec3 middle, double side) {
    const double half = side / 2;
    return mesh_of_faces({middle + Vec3{-half, -half, 0}, middle + Vec3{half, -half, 0},
                          middle + Vec3{half, half, 0}, middle + Vec3{-half, half, 0}},
                         {{0, 1, 2, 3}});
}

// Around the Z axis through the middle, its sections circles.
inline Mesh torus(Vec3 middle, double major, double minor, std::uint32_t around, std::uint32_t across) {
    std::vector<Vec3> places;
    std::vector<std::vector<std::uint32_t>> faces;
    for (std::uint32_t i = 0; i < around; ++i)
        for (std::uint32_t j = 0; j < across; ++j) {
            const double a = 2 * std::numbers::pi * i / around, b = 2 * std::numbers::pi * j / across;
            const double r = major + minor * std::cos(b);
            places.push_back(middle + Vec3{r * std::cos(a), r * std::sin(a), minor * std::sin(b)});
            const std::uint32_t next = (i + 1) % around, right = (j + 1) % across;
            faces.push_back({i * across + j, next * across + j, next * across + right, i * across + right});
        }
    return mesh_of_faces(places, faces);
}

}  // namespace plume::test

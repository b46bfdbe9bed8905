#pragma once
// Triangles of polygon faces, concave ones too.
//
// A fan from the first corner where all its triangles turn the way the face does; else by cutting ears
// (Meisters, Polygons have ears, American Mathematical Monthly 82, 1975, doi 10.2307/2319703) in the plane
// across the face's area vector. Always corners - 2 triangles, O(n^2) for a concave face of n corners.

#include <array>
#include <cstdint>
#include <span>
#include <vector>

#include "core/data/mesh.hpp"

namespace plume {

using CornerTriple = std::array<std::uint32_t, 3>;  // numbers of a face's corners, from 0 on

bool is_fan(const Mesh& mesh, std::size_t face);
std::vector<CornerTriple> ears_of(std::span<const Vec3> corners);
std::vector<CornerTriple> ears_of(const Mesh& mesh, std::size_t face);

// Calls `each(a, b, c)` with numbers of the face's corners for every triangle, which turn as the face does.
template <class Each>
void for_each_triangle(const Mesh& mesh, std::size_t face, Each each) {
    const auto count = static_cast<std::uint32_t>(mesh.face(face).size());
    if (count == 3 || is_fan(mesh, face)) {
        for (std::uint32_t corner = 1; corner + 1 < count; ++corner)
            each(0U, corner, corner + 1);
        return;
    }
    for (const auto& [a, b, c] : ears_of(mesh, face))
        each(a, b, c);
}

}  // namespace plume

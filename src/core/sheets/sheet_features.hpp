#pragma once
// Triangles, edges and vertices of a surface, each edge and vertex owned by one of the triangles it stands
// at, so that whoever has pairs of triangles has every pair of features once (S. Curtis, R. Tamstorf, D.
// Manocha: Fast collision detection for deformable models using representative-triangles, 2008).

#include <array>
#include <cstdint>
#include <vector>

#include "core/base/incidence.hpp"

namespace plume {

// Of a triangle along an edge.
struct TriangleSide {
    std::array<std::uint32_t, 2> ends;  // the lower one first
    std::uint32_t triangle = 0, opposite = 0;
};
// In the order of their ends, then of the triangles: those of one edge stand beside each other.
std::vector<TriangleSide> sides_of(const std::vector<std::array<std::uint32_t, 3>>& triangles);

struct SheetFeatures {
    std::vector<std::array<std::uint32_t, 3>> triangles;
    std::vector<std::array<std::uint32_t, 2>> edges;  // those of one triangle stand beside each other
    std::vector<std::uint32_t> first_edge;            // of triangle i: from first_edge[i] to before [i + 1]
    Incidence vertices_of;  // what each triangle owns; vertices without a triangle are owned by none
};

// Of triangles over so many vertices. A thread is one from a to b and b again: an edge.
SheetFeatures features_of(std::vector<std::array<std::uint32_t, 3>> triangles, std::size_t vertex_count);

}  // namespace plume

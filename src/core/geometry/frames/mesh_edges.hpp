#pragma once
// The edges of a mesh as members between its vertices.

#include "core/data/bar_frame.hpp"
#include "core/data/mesh.hpp"

namespace plume {

// open: those that one face has.
enum class Edges { all, open };

// A node for each vertex, with its numbers, and a member for each side of faces, once. O(n log n).
BarFrame::Parts edges_of(const Mesh& mesh, Edges edges);

}  // namespace plume

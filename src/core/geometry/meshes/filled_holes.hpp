#pragma once
// Holes of a mesh closed by triangles of the least area between their corners (Barequet & Sharir, Filling
// gaps in the boundary of a polyhedron, 1995; Liepa, Filling holes in meshes, 2003), by CGAL.

#include "core/base/run.hpp"
#include "core/data/mesh.hpp"

namespace plume {

struct FilledHoles {
    Mesh mesh;               // with the triangles behind its faces, of its last part
    std::size_t filled = 0;  // holes
    std::size_t left = 0;    // longer around than asked for, or without a way to fill them
};
// Holes are rims that come round and are no longer around than that. Numbers of faces are not finite on the
// new ones. Error: cancelled.
Result<FilledHoles> filled_holes(const Mesh& mesh, double longest_around, const Run& run);

}  // namespace plume

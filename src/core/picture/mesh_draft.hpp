#pragma once
// Fewer triangles that look the same from where a whole form is seen.
//
// Vertex clustering (Rossignac & Borrel, Multi-resolution 3D approximations for rendering complex scenes,
// 1993): space is cut into cells, vertices move to the mean of their cell, and of triangles that fall
// together one is kept. Ours keeps a triangle as it was where the cell would swallow it, one for each cell or
// pair of cells, so that posts and wires thinner than a cell do not vanish. O(n).

#include <array>
#include <vector>

#include "core/base/run.hpp"
#include "core/data/mesh.hpp"

namespace plume {

struct DraftTriangle {
    std::array<Vec3, 3> corners;
    std::array<std::uint32_t, 3> vertices;  // of the mesh, for their numbers
    std::uint32_t face = 0;                 // of the mesh, for its normal
};

// At most about `most` triangles; faces are numbers of faces of the mesh whose corners are finite. Error:
// cancelled.
Result<std::vector<DraftTriangle>> draft_of(const Mesh& mesh, const std::vector<std::uint32_t>& faces,
                                            std::size_t most, const Run& run);

// Where the triangles are larger than the surface of the box around the mesh, leaves some, evenly taken, that
// cover a part of it: what lies in many layers behind each other takes time to draw and is not seen.
void thin_layers(std::vector<DraftTriangle>& triangles, const Box& box);

}  // namespace plume

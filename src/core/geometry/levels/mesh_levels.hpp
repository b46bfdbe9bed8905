#pragma once
// Lines on a mesh on which a number at its vertices, linear over its triangles, takes given values.
//
// Each vertex is told how many levels are not above it: whether a level passes between two vertices, and that
// a line which comes to an edge goes on behind it, is then a matter of whole numbers, not of rounding. A
// vertex exactly at a level counts as above it. Segments are put end to end by the edges they end on.
// O(triangles + segments).

#include <cstdint>
#include <span>
#include <vector>

#include "core/base/run.hpp"
#include "core/data/mesh.hpp"

namespace plume {

struct MeshLevels {
    // Line l runs through points[starts[l]] .. points[starts[l + 1] - 1]; a closed one does not repeat its
    // first. By level; the higher side is at the left, seen against the normal of the faces.
    std::vector<Vec3> points;
    std::vector<std::size_t> starts{0};
    std::vector<std::uint32_t> level;  // one a line, its number
    std::vector<std::uint8_t> closed;  // one a line
    std::size_t level_faces = 0;       // that lie in a level as a whole
    std::size_t faces_without = 0;     // left out: a number of theirs is not finite
    std::size_t count() const { return level.size(); }
    std::span<const Vec3> line(std::size_t number) const {
        return std::span(points).subspan(starts[number], starts[number + 1] - starts[number]);
    }
};

// `values` one a vertex; levels increase. Error: cancelled.
Result<MeshLevels> mesh_levels(const Mesh& mesh, std::span<const double> values,
                               std::span<const double> levels, const Run& run);

}  // namespace plume

#pragma once
// What is wrong with a mesh, if it is to be a skin or to bound a volume.

#include <cstdint>
#include <utility>
#include <vector>

#include "core/base/run.hpp"
#include "core/data/mesh.hpp"

namespace plume {

using MeshSide = std::pair<std::uint32_t, std::uint32_t>;  // two vertices
struct MeshFaults {
    std::vector<MeshSide> open;           // of one face alone
    std::vector<MeshSide> branched;       // of more than two faces
    std::vector<MeshSide> crooked;        // two faces run along it the same way
    std::vector<std::uint32_t> slivers;   // faces less high than that share of their longest side
    std::vector<std::uint32_t> crossing;  // faces that other faces cross
    std::size_t not_finite = 0;           // faces with a corner that is not; they are not looked at
};
// O(n log n), but for faces that cross. Error: cancelled.
Result<MeshFaults> faults_of(const Mesh& mesh, double sliver_share, const Run& run);

// Faces of a mesh that cross others beyond what they share (CGAL), in order. Error: cancelled.
Result<std::vector<std::uint32_t>> crossing_faces(const Mesh& mesh, const Run& run);

}  // namespace plume

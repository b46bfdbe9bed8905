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

// Two faces that cross.
struct FaceCrossing {
    std::uint32_t face = 0, other = 0;  // the lower one first
    std::vector<Vec3> line;             // where two triangles of them do; empty where it is a point
    bool closed = false;                // they lie in one plane: the line is around what both cover
};
// All that cross, by their faces, as far as there are at most so many triangles that do: of more the first,
// and `more` is set. Errors: cancelled.
struct FaceCrossings {
    std::vector<FaceCrossing> all;
    bool more = false;
};
Result<FaceCrossings> crossings_of(const Mesh& mesh, std::size_t most, const Run& run);

}  // namespace plume

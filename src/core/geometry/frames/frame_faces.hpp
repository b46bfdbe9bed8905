#pragma once
// The faces that members enclose.

#include "core/base/run.hpp"
#include "core/data/bar_frame.hpp"
#include "core/data/mesh.hpp"

namespace plume {

// Round every node its members are put in order about its normal (node_normals.hpp), and faces are walked
// from member to member, always taking the next one: the faces of a map on a surface (Edmonds, A
// combinatorial representation for polyhedral surfaces, Notices AMS 7, 1960). Those of at most so many
// corners that run anticlockwise about the normals are kept, which leaves out what lies outside of a rim.
// `left_out` counts others of at least three corners, rims included. Vertices are the nodes, without those of
// no face; numbers on nodes come along. Error: empty_input where there is no face; cancelled. O(members log
// valence).
struct FrameFaces {
    Mesh mesh;
    std::size_t left_out = 0;
};
Result<FrameFaces> faces_between(const BarFrame& frame, std::size_t most_corners, const Run& run);

}  // namespace plume

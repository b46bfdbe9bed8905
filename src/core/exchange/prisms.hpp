#pragma once
// Bodies that are an outline pulled along a line: bars, boards, columns.

#include <optional>
#include <vector>

#include "core/data/mesh.hpp"
#include "core/data/placements.hpp"

namespace plume {

// Outlines in the coordinates of a placement, whose up is the way they are pulled.
struct Prism {
    Placement at;
    double length = 0;
    std::vector<Vec3> outline;  // anticlockwise seen from above, z 0
    std::vector<Vec3> hollow;   // within it, or none
};

// Of a part whose vertices are one ring and the same ring further on, or two of them, as bars with sections
// are made: cut square at both ends, true to 1e-9 of its size. O(vertices).
std::optional<Prism> prism_of(const Mesh& mesh, std::size_t part);

}  // namespace plume

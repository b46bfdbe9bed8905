#pragma once
// Plates: parts of a mesh that are flat, with a thickness or without.

#include <cstdint>
#include <optional>
#include <span>
#include <vector>

#include "core/data/mesh.hpp"
#include "core/data/placements.hpp"

namespace plume {

using VertexLoop = std::vector<std::uint32_t>;  // closed; its first vertex is not named again at the end

// The loops around faces, what is of them to the left, each from its lowest vertex on: the one that encloses
// most, by its area vector, first. O(n log n) in the corners.
std::vector<VertexLoop> loops_around(const Mesh& mesh, std::span<const std::size_t> faces);

struct Plate {
    std::vector<std::size_t> faces;  // its larger side, or the first of two that are alike
    std::vector<VertexLoop> loops;   // around these: its outline first, then openings
    // In the plane of that side: its Z axis looks outwards, its Y axis upwards, of what lies level along Y.
    Placement plane;
};
// A part is a plate where every face looks within 20° of one direction, against it, or square to it. Nothing
// where it is none. O(corners of the part).
std::optional<Plate> plate_of(const Mesh& mesh, std::size_t part);

}  // namespace plume

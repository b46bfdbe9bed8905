#pragma once
// Sheets made ring by ring or row by row, as they are crocheted: how many stitches each has says how it is
// curved (D. Henderson, D. Taimina: Crocheting the hyperbolic plane, 2001).

#include <array>
#include <cstdint>
#include <vector>

#include "core/base/error.hpp"

namespace plume {

struct RingPattern {
    std::vector<std::size_t> counts;  // stitches of each ring
    bool closed = true;               // the last stitch of a ring is next to its first
    bool centre = false;              // a vertex within the first ring, the first of all
};

// Vertices ring after ring; triangles between a ring and the one before, those of a ring in its order.
struct RingSheet {
    std::vector<std::array<std::uint32_t, 3>> triangles;
    std::vector<std::uint32_t> ring, stitch;  // of vertices; the centre is ring 0, the first ring then 1
    std::vector<double> share;                // of its ring that lies before it: 0 to 1, 1 only if it is open
};

// Where a ring has more stitches than the one before they are spread evenly; 6, 12, 18 … around a centre is
// the triangular lattice. Errors: too_few_points (less than two rings, or one around a centre; fewer than
// three stitches in a closed one, two in an open one), over_budget (more than 2^31 vertices).
Result<RingSheet> ring_sheet(const RingPattern& pattern);

}  // namespace plume

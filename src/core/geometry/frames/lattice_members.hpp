#pragma once
// Members between the neighbours of a lattice, and across its cells.

#include <vector>

#include "core/data/bar_frame.hpp"

namespace plume {

enum class Diagonals { none, one, other, both, alternating };

struct LatticePattern {
    bool along_i = true, along_j = true, along_k = true;
    // Of the rows along i every so many, from the first; the same of those along j.
    std::size_t every_row = 1, every_column = 1;
    Diagonals diagonals = Diagonals::none;
};

// In the order of the addresses: first those between neighbours (lattice_links.hpp), then diagonals cell by
// cell; one runs from a cell's first corner, the other from its second. Members of a triangular lattice to
// the next row run along j where they keep i, else they are diagonals. Error: wrong_kind for diagonals where
// cells have other than four corners.
struct LatticeMembers {
    std::vector<Member> members;
    bool seam_repeats = false;  // cells on both sides of a seam have the same diagonal
};
Result<LatticeMembers> members_of(const PointLattice& lattice, const LatticePattern& pattern);

}  // namespace plume

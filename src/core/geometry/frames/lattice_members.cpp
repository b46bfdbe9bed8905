#include "core/geometry/frames/lattice_members.hpp"

#include "core/geometry/points/lattice_links.hpp"

namespace plume {
namespace {

std::uint32_t small(std::size_t number) {
    return static_cast<std::uint32_t>(number);
}

// Rows are counted on through the layers of a block.
std::uint32_t row_of(const PointLattice& lattice, Address at) {
    return small(at.j + lattice.counts()[1] * at.k);
}

Way way_between(Address from, Address to) {
    if (from.j == to.j && from.k == to.k) return Way::along_i;
    if (from.k != to.k) return Way::along_k;
    return from.i == to.i ? Way::along_j : Way::diagonal;
}

bool wanted(const LatticePattern& pattern, Way way, Address from) {
    switch (way) {
        case Way::along_i:
            return pattern.along_i && from.j % pattern.every_row == 0;
        case Way::along_k:
            return pattern.along_k;
        default:
            return pattern.along_j && from.i % pattern.every_column == 0;
    }
}

bool runs_first_way(Diagonals diagonals, Address at) {
    if (diagonals == Diagonals::alternating) return (at.i + at.j + at.k) % 2 == 0;
    return diagonals == Diagonals::one;
}

Result<std::vector<Member>> diagonals_of(const PointLattice& lattice, Diagonals diagonals) {
    std::vector<Member> members;
    const LatticeCells cells = cells_of(lattice);
    const auto add = [&](std::size_t from, std::size_t to, Way way, Address at) {
        members.push_back({small(from), small(to), way, row_of(lattice, at)});
    };
    for (std::size_t cell = 0; cell < cells.count(); ++cell) {
        const std::size_t* const corner = cells.corners.data() + cells.first[cell];
        if (cells.first[cell + 1] - cells.first[cell] != 4)
            return Error{ErrorCode::wrong_kind, "", "have no cells of four corners, and no diagonals",
                         "Choose the members along its rows alone, or points of a grid."};
        const Address at = lattice.address(corner[0]);
        const bool both = diagonals == Diagonals::both, first = runs_first_way(diagonals, at);
        if (both || first) add(corner[0], corner[2], Way::diagonal, at);
        if (both || !first) add(corner[1], corner[3], Way::counter, at);
    }
    return members;
}

bool repeats_at_seam(const PointLattice& lattice) {
    for (const int direction : {0, 1, 2})
        if (lattice.closed(direction) && lattice.bays(direction) % 2 == 1) return true;
    return false;
}

}  // namespace

Result<LatticeMembers> members_of(const PointLattice& lattice, const LatticePattern& pattern) {
    LatticeMembers made;
    for_each_link(lattice, [&](std::size_t from, std::size_t to) {
        const Address start = lattice.address(from), end = lattice.address(to);
        const Way way = way_between(start, end);
        if (!wanted(pattern, way, start)) return;
        const std::uint32_t row = way == Way::along_j ? small(start.i) : row_of(lattice, start);
        made.members.push_back({small(from), small(to), way, row});
    });
    if (pattern.diagonals == Diagonals::none) return made;
    auto diagonals = diagonals_of(lattice, pattern.diagonals);
    if (!diagonals) return diagonals.error();
    made.members.insert(made.members.end(), diagonals->begin(), diagonals->end());
    made.seam_repeats = pattern.diagonals == Diagonals::alternating && repeats_at_seam(lattice);
    return made;
}

}  // namespace plume

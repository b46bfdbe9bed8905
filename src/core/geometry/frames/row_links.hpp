#pragma once
// Members from the points of one row to points of another.

#include <functional>
#include <vector>

#include "core/base/run.hpp"
#include "core/data/bar_frame.hpp"

namespace plume {

enum class LinkTurns { forwards, alternating, both };

struct RowLink {
    // How many points further a point goes, by its flat index; of two rows of unequal counts that are matched
    // by share, from its match on.
    std::function<std::ptrdiff_t(std::size_t index)> shift;
    LinkTurns turns = LinkTurns::forwards;  // back in every other row, or in each both ways
    bool wraps = false;                     // beyond the last point comes the first
    std::size_t every = 1;                  // only every so many points of a row, from the first
};

// From every row of a lattice to the one `reach` rows further on, round a closed direction; 0 links a row to
// itself. Gaps link to nothing. Members without shift run along j, others are diagonals.
// Error: cancelled. O(points).
Result<std::vector<Member>> linked_rows(const PointLattice& lattice, std::size_t reach, const RowLink& link,
                                        const Run& run);

// From the points of one lattice to those of another, whose flat indices begin behind its own, both taken as
// rows. `by_share` matches the point as far along its row, else the one of the same number.
std::vector<Member> linked_points(const PointLattice& from, const PointLattice& to, bool by_share,
                                  const RowLink& link);

}  // namespace plume

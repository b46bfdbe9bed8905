#include "core/geometry/points/two_directions.hpp"

namespace plume {

Status check_two_directions(const PointLattice& lattice, std::string_view who) {
    const auto& counts = lattice.counts();
    if (counts[0] < 2 || counts[1] < 2 || counts[2] > 1 || lattice.arrangement() == Arrangement::scatter)
        return Error{ErrorCode::too_few_points, "",
                     std::string(who) + " needs points in two directions; this lattice has " +
                         arrangement_text(lattice),
                     "Give the lattice at least one bay each way."};
    for (const int direction : {0, 1})
        if (lattice.closed(direction) && counts[static_cast<std::size_t>(direction)] < 3)
            return Error{ErrorCode::too_few_points, "", "A closed direction needs at least three points",
                         "Give the closed direction more bays."};
    return Done{};
}

}  // namespace plume

#pragma once
// Parts that keep a distance: which of a new generation would run into an earlier one.
//
// One part after the other, in order, against all that stand: the cells of a grid as wide as the distance, so
// that a question looks into 27 of them. A part's parent and its siblings do not count, since they have to be
// near.

#include <cstdint>
#include <unordered_map>

#include "core/base/run.hpp"
#include "core/growth/population.hpp"

namespace plume {

class KeptApart {
public:
    // All that stand already count, whether or not they keep the distance among themselves.
    KeptApart(double distance, const Population& parts);

    // Clears the entries of those of the last generation that stand in the way, and counts them. Error:
    // cancelled.
    Result<std::size_t> leave_out(const Population& parts, std::vector<std::uint8_t>& kept, const Run& run);

private:
    struct Standing {
        Vec3 place;
        std::uint32_t part;  // PartTree::none of one whose number is not settled yet
        std::uint32_t parent;
    };
    std::uint64_t cell_of(Vec3 place, int x, int y, int z) const;
    bool is_free(Vec3 place, std::uint32_t parent) const;
    void add(Vec3 place, std::uint32_t part, std::uint32_t parent);

    double distance_;
    std::unordered_multimap<std::uint64_t, Standing> cells_;
};

}  // namespace plume

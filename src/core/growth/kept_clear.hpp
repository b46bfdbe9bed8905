#pragma once
// Parts that keep clear of others: which of a new generation would run into an earlier one.
//
// One part after the other, in order, against all that stand.

#include <cstdint>
#include <unordered_map>
#include <vector>

#include "core/base/run.hpp"
#include "core/growth/population.hpp"

namespace plume {

class KeptClear {
public:
    virtual ~KeptClear() = default;

    // Clears the entries of those of the last generation that stand in the way, and counts them. Error:
    // cancelled.
    Result<std::size_t> leave_out(const Population& parts, std::vector<std::uint8_t>& kept, const Run& run);

protected:
    KeptClear() = default;
    KeptClear(const KeptClear&) = default;
    KeptClear& operator=(const KeptClear&) = default;
    // Among those that were added.
    virtual bool is_free(const Population& parts, std::size_t part) const = 0;
    // `number`: the part's own once the generation is settled.
    virtual void add(const Population& parts, std::size_t part, std::uint32_t number) = 0;
    // All that stand already count, whether or not they keep clear of each other.
    void add_all(const Population& parts);
};

// By their distance: the cells of a grid as wide as that, so that a question looks into 27 of them. A part's
// parent and its siblings do not count, since they have to be near.
class KeptApart : public KeptClear {
public:
    KeptApart(double distance, const Population& parts) : distance_(distance) { add_all(parts); }

private:
    struct Standing {
        Vec3 place;
        std::uint32_t part, parent;
    };
    bool is_free(const Population& parts, std::size_t part) const override;
    void add(const Population& parts, std::size_t part, std::uint32_t number) override;
    std::uint64_t cell_of(Vec3 place, int x, int y, int z) const;

    double distance_;
    std::unordered_multimap<std::uint64_t, Standing> cells_;
};

// By their boxes, which stand on the parts' places and may touch: two meet unless one of fifteen axes parts
// them (S. Gottschalk, M. C. Lin, D. Manocha, OBBTree, 1996, doi 10.1145/237170.237244). Boxes lie in grids,
// one for each power of two of their size. A part's parent does not count: what is set against it may reach
// into it.
class KeptBoxes : public KeptClear {
public:
    // shares: of a part's size, along, across and up; above 0.
    KeptBoxes(Vec3 shares, const Population& parts) : shares_(shares) { add_all(parts); }

private:
    struct Box {
        Vec3 centre;
        std::array<Vec3, 3> axes;      // unit
        std::array<double, 3> halves;  // half as long as the box is along them
        double radius;                 // of the sphere around it
        std::uint32_t part = 0;
    };
    struct Level {
        double cell = 1;
        std::vector<std::uint32_t> boxes;
        std::unordered_multimap<std::uint64_t, std::uint32_t> cells;  // by the cell of their centre
    };
    bool is_free(const Population& parts, std::size_t part) const override;
    void add(const Population& parts, std::size_t part, std::uint32_t number) override;
    Box box_of(const Population& parts, std::size_t part) const;
    bool meets_any(const Box& box, const Level& level, std::uint32_t parent) const;
    static bool meet(const Box& a, const Box& b);

    Vec3 shares_;
    std::vector<Box> boxes_;
    std::unordered_map<int, Level> levels_;  // by the power of two that no box of it is larger than
};

}  // namespace plume

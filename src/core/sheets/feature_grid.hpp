#pragma once
// Boxes of features in cells of one size, to be found by place. Whatever is found comes in the order of the
// features within each cell.

#include <cstdint>
#include <vector>

#include "core/data/box.hpp"

namespace plume {

class FeatureGrid {
public:
    void build(const std::vector<Box>& boxes, double cell);

    // Features whose box may meet this one, each once.
    template <class Visit>
    void in(const Box& box, Visit visit) const {
        if (entries_.empty()) return;
        const Cell low = cell_of(box.low), high = cell_of(box.high);
        for (std::int32_t x = low.x; x <= high.x; ++x)
            for (std::int32_t y = low.y; y <= high.y; ++y)
                for (std::int32_t z = low.z; z <= high.z; ++z)
                    visit_cell({x, y, z}, [&](const Entry& entry) {
                        // Told in the first cell that both have.
                        if (std::max(low.x, entry.low.x) == x && std::max(low.y, entry.low.y) == y &&
                            std::max(low.z, entry.low.z) == z)
                            visit(entry.feature);
                    });
    }

private:
    struct Cell {
        std::int32_t x = 0, y = 0, z = 0;
        bool operator==(const Cell&) const = default;
    };
    struct Entry {
        Cell cell, low;  // where it stands, and the first cell of its feature
        std::uint32_t feature = 0;
    };
    Cell cell_of(Vec3 place) const;
    std::size_t bucket_of(Cell cell) const;
    template <class Visit>
    void visit_cell(Cell cell, Visit visit) const {
        const std::size_t bucket = bucket_of(cell);
        for (std::uint32_t at = first_[bucket]; at < first_[bucket + 1]; ++at)
            if (entries_[at].cell == cell) visit(entries_[at]);
    }

    double cell_ = 1;
    std::size_t mask_ = 0;
    std::vector<std::uint32_t> first_;
    std::vector<Entry> entries_;
};

}  // namespace plume

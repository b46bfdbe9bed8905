#pragma once
// Places sorted into cells, for those near each of many.

#include <array>
#include <cstdint>
#include <utility>
#include <vector>

#include "core/data/vec3.hpp"

namespace plume {

// Cells in rows along x, so that three beside each other are one run of what is sorted by key.
class PlaceGrid {
public:
    explicit PlaceGrid(double cell) : cell_(cell) {}

    // O(n log n).
    void sort(const std::vector<Vec3>& places);

    // Calls use(place, others) for the places sorted as [begin, end), with all in the cells around it, itself
    // among them: those no further than a cell is wide, and some more. From one place to the next the nine
    // runs of cells around it only move on.
    template <class Use>
    void each(const std::vector<Vec3>& places, std::size_t begin, std::size_t end, const Use& use) const {
        Runs runs{};
        std::vector<std::uint32_t> others;
        for (std::size_t entry = begin; entry < end; ++entry) {
            const std::uint32_t at = entries_[entry].second;
            gather(places[at], entry == begin, runs, others);
            use(at, others);
        }
    }

private:
    using Entry = std::pair<std::uint64_t, std::uint32_t>;
    using Runs = std::array<std::size_t, 9>;
    std::int64_t cell_of(double coordinate) const;
    void gather(Vec3 place, bool anew, Runs& runs, std::vector<std::uint32_t>& others) const;

    double cell_;
    std::vector<Entry> entries_;
};

// A unit direction for two at one place to part in: spread over a sphere by the golden angle.
Vec3 way_by_number(std::uint32_t number);

}  // namespace plume

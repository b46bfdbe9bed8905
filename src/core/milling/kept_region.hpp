#pragma once
// What of a sheet is kept: within an odd number of its rings.

#include <span>

#include "core/milling/flat_sheets.hpp"
#include "core/milling/near_lines.hpp"

namespace plume {

class KeptRegion {
public:
    explicit KeptRegion(std::span<const CutRing> rings);

    // How far a place keeps off what is kept, less than nothing within it; infinite without rings. Told by
    // the side of the nearest edge, and by what is around the place where that is a corner.
    double clearance(FlatPoint place) const;
    // From any outline.
    double distance_from_outlines(FlatPoint place) const;
    std::vector<std::uint32_t> rings_around(FlatPoint place) const;

private:
    KeptRegion(std::span<const CutRing> rings, const std::vector<FlatEdge>& edges);

    std::vector<bool> is_hole_;  // of each ring
    NearPieces outlines_;
    LineStrips strips_;
};

}  // namespace plume

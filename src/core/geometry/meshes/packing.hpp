#pragma once
// Outlines laid on rectangular sheets, as few as can be found.
//
// By the library libnest2d (no-fit polygons after Cuninghame-Green, Geometry, shoemaking and the Milk Tray
// problem, New Scientist 1677, 1989), one sheet after the other, the largest outline first, each as far down
// and left as it fits. Its no-fit polygons are those of convex shapes: of others the hull is laid. Ours makes
// sure that nothing lies over anything else. The library works on whole numbers, of a 10^8th of a sheet.

#include <optional>
#include <span>
#include <vector>

#include "core/base/run.hpp"
#include "core/geometry/curves/outline.hpp"

namespace plume {

struct StockSheet {
    double width = 1, length = 1;  // along X and along Y, above 0
    double margin = 0;             // that is left free along its rim
    double spacing = 0;            // between outlines
};

// First turned about the origin, then moved, on a sheet whose corner is the origin.
struct LaidOutline {
    std::size_t sheet = 0;
    double turn_rad = 0;
    FlatPoint move;

    FlatPoint place(FlatPoint point) const;
};

// How far an outline goes along X and Y, turned by an angle. It has a corner at least.
struct FlatExtent {
    double width = 0, length = 0;
};
FlatExtent extent_of(const std::vector<FlatPoint>& outline, double turn_rad = 0);

struct Packing {
    std::vector<std::optional<LaidOutline>> laid;  // of each outline; nothing where it is larger than a sheet
    std::size_t sheet_count = 0;
};

// Outlines anticlockwise, three corners at least, each turned by one of the angles. The same on any number of
// threads. About 0.6 ms an outline and angle where a dozen lie on a sheet, growing with these. Error:
// cancelled.
Result<Packing> packed(const std::vector<std::vector<FlatPoint>>& outlines, std::span<const double> turns_rad,
                       const StockSheet& sheet, const Run& run);

}  // namespace plume

#pragma once
// A profile carried along a way.

#include <span>

#include "core/base/run.hpp"
#include "core/data/curve_set.hpp"
#include "core/data/surface_set.hpp"
#include "core/geometry/moves/affine.hpp"

namespace plume {

struct Swept {
    SplinePatch patch;
    double deviation = 0;  // of the profiles in between, the largest that was measured
};
// Smooth through the profile at every second of the stations, u along it; how far those in between are from
// it is measured at some places of each. A closed way ends one station before its first, and has an even
// number of them; an open one an odd number. Errors: those of lofted(); too_few_points with fewer than three
// stations.
Result<Swept> swept(const SplineCurve& profile, std::span<const Affine> stations, bool closed,
                    const Run& run);

}  // namespace plume

#pragma once
// Surfaces that go on beyond their rims.

#include "core/base/run.hpp"
#include "core/data/surface_set.hpp"

namespace plume {

enum class SurfaceExtension {
    straight,  // along straight lines, each as long, that leave the rim as the lines of the surface do
    onwards    // the splines of its last bays go on, so far that they are as long in the mean
};

// Whether a direction ends there: it is not closed, and not drawn together to a tip.
bool has_rim(const SplinePatch& patch, int direction, bool at_end);

struct RimToExtend {
    int direction = 0;  // 0: u, 1: v
    bool at_end = true;
    double by = 1;  // above 0
    SurfaceExtension shape = SurfaceExtension::straight;
};

struct ExtendedSurface {
    SplinePatch patch;
    double deviation = 0;  // of straight ones: how true their new rim is, measured between its knots
    double shortest = 0, longest = 0;  // how far it goes on, over nine lines
};
// What was there stays exactly what it is, with more knots where a straight rim asks for them
// (mapped_curve.hpp); fields stay what they are at the rim, or go on likewise. The parameters go on at the
// speed they have there. Errors: has_gaps where the direction is closed; unlike_arrangement where the rim is
// a tip or the surface stands still at it; out_of_range where splines cannot go on that far; cancelled.
Result<ExtendedSurface> extended(const SplinePatch& patch, const RimToExtend& rim, const Run& run);

}  // namespace plume

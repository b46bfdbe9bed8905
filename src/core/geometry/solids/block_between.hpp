#pragma once
// Bodies between a closed curve and the same curve moved: the block under a distorted roof.

#include "core/base/run.hpp"
#include "core/data/curve_set.hpp"
#include "core/data/solids.hpp"

namespace plume {

enum class BlockFaces {
    flat,    // both curves are flat: exact
    centre,  // triangles about the middle of the curve
    smooth,  // as a skin of soap would hang in it, nearly: each place the mean of those around it
};

// Straight walls from one curve to the other: pole by pole where they have as many of one degree, else
// aligned and made compatible. A flat lower curve has a flat face whatever is chosen. Errors: has_gaps (an
// open curve); unlike_arrangement (flat faces for a curve that is not flat; a curve of which its middle does
// not see every place); those of compatible(), plane_fills() and meshed_body().
Result<Body> block_between(const SplineCurve& lower, const SplineCurve& upper, BlockFaces faces,
                           const Run& run);

}  // namespace plume

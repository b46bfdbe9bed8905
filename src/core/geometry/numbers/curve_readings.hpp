#pragma once
// What a curve is at the place nearest to each point: how far along, how tightly it bends, which way it runs.
// Of several curves the nearest one counts. O(points x curves x log chords).

#include "core/base/run.hpp"
#include "core/data/curve_set.hpp"
#include "core/data/point_lattice.hpp"
#include "core/geometry/numbers/direction_field.hpp"

namespace plume {

// length: from the start of the curve; share: of its length, 0 to 1; curvature: 1 / radius, 0 where it is
// straight; radius: not finite there. Where the curve stands still (a cusp) curvature and radius are not
// numbers.
enum class CurveNumber { length, share, curvature, radius };
// tangent: onwards; normal: towards the centre of the bend; binormal: square to both, right-handed. Unit;
// none where there is none: normal and binormal where the curve is straight, all where it stands still.
enum class CurveDirection { tangent, normal, binormal };

// Errors: empty_input without a curve; cancelled.
Result<Field> curve_numbers(const PointLattice& points, const CurveSet& set, CurveNumber what,
                            const Run& run);
Result<DirectionColumns> curve_directions(const PointLattice& points, const CurveSet& set,
                                          CurveDirection what, const Run& run);

}  // namespace plume

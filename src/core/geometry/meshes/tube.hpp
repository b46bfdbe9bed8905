#pragma once
// A tube along samples of a curve: rings carried by rotation-minimising frames.
//
// Frames: Wang, Juettler, Zheng, Liu, Computation of rotation minimizing frames, ACM Trans. Graph. 27(1),
// 2008, doi 10.1145/1330511.1330513 (double reflection, fourth order). Ours turns the rings of a closed curve
// back by an even share each, so that the last meets the first without a jump. O(samples x sides).

#include <vector>

#include "core/base/run.hpp"
#include "core/data/mesh.hpp"
#include "core/geometry/curves/curve_sampling.hpp"

namespace plume {

// A right-handed frame at each sample: `along` the curve, `side` and `up` across it. All unit.
struct CurveFrame {
    Vec3 along, side, up;
};
// Samples differ from their neighbours. The first side is horizontal where the curve is not vertical.
std::vector<CurveFrame> rotation_minimising_frames(const std::vector<Vec3>& points, bool closed);

enum class TubeEnds { capped, open };

struct TubePlan {
    std::vector<double> radii;  // one per sample, finite and not negative
    std::size_t sides = 12;     // at least 3
    TubeEnds ends = TubeEnds::capped;
};

// Quads between rings of `sides` vertices; caps are one polygon each. Where a radius is 0 the ring is one
// vertex. Watertight when closed or capped. Fields of the samples go to their rings. Errors: too_few_points,
// out_of_range (a negative radius), not_finite, all radii 0.
Result<Mesh> tube(const CurveSamples& samples, const TubePlan& plan, const Run& run);

}  // namespace plume

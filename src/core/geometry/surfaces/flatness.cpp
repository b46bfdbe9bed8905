#include "core/geometry/surfaces/flatness.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/parallel.hpp"
#include "core/geometry/curves/curve_sampling.hpp"

namespace plume {

Result<std::vector<double>> panel_gaps(const Mesh& mesh, const Run& run) {
    constexpr std::size_t faces_per_block = 512;
    std::vector<double> gaps(mesh.face_count());
    const bool finished =
        parallel_blocks(gaps.size(), faces_per_block, run, [&](std::size_t begin, std::size_t end) {
            std::vector<Vec3> corners;
            for (std::size_t face = begin; face < end; ++face) {
                corners.clear();
                for (const std::uint32_t corner : mesh.face(face))
                    corners.push_back(mesh.vertex(corner));
                gaps[face] = best_fit(corners).worst;
            }
        });
    if (!finished) return cancelled_error();
    return gaps;
}

BestFit plane_of(const SplineCurve& curve) {
    return best_fit(sample(curve, usual_tolerance(curve)).points);
}

CurveFlatness flatness_of(const SplineCurve& curve) {
    const BestFit fit = plane_of(curve);
    CurveFlatness flatness{fit.worst, Doubles(curve.x().size())};
    for (std::size_t pole = 0; pole < flatness.pole_gaps.size(); ++pole)
        flatness.pole_gaps[pole] = fit.placement.to_local(curve.pole(pole)).z;
    return flatness;
}

}  // namespace plume

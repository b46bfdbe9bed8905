#include "bench_surfaces.hpp"

#include <cmath>

#include "core/geometry/curves/held_curve.hpp"
#include "core/geometry/surfaces/patch_evaluator.hpp"
#include "core/geometry/surfaces/spline_interpolation.hpp"

namespace plume::bench {

SplinePatch wavy(std::size_t side) {
    Doubles x, y, z;
    for (std::size_t j = 0; j < side; ++j)
        for (std::size_t i = 0; i < side; ++i) {
            x.push_back(36.0 * static_cast<double>(i) / static_cast<double>(side - 1));
            y.push_back(24.0 * static_cast<double>(j) / static_cast<double>(side - 1));
            z.push_back(3 * std::sin(x.back() / 6) * std::cos(y.back() / 5));
        }
    PointLattice::Parts parts;
    parts.counts = {side, side, 1};
    parts.x = std::move(x);
    parts.y = std::move(y);
    parts.z = std::move(z);
    return *interpolate_grid(*PointLattice::make(std::move(parts)), Run());
}

double share_of(std::size_t at, double step) {
    return std::fmod(static_cast<double>(at) * step, 1.0);
}

std::vector<Vec3> strewn(const SplinePatch& patch, std::size_t count) {
    const PatchEvaluator evaluator(patch);
    std::vector<Vec3> places;
    for (std::size_t at = 0; at < count; ++at)
        places.push_back(evaluator
                             .at(patch.u().end() * share_of(at, 0.6180339887),
                                 patch.v().end() * share_of(at, 0.7548776662))
                             .position +
                         Vec3{0, 0, 2 * share_of(at, 0.5698402909) - 1});
    return places;
}

std::vector<SplineCurve> waves_of_200_poles() {
    std::vector<SplineCurve> sections;
    for (int section = 0; section < 20; ++section) {
        std::vector<Vec3> poles;
        for (int pole = 0; pole < 200; ++pole)
            poles.push_back({0.2 * pole, 1.0 * section, std::sin(0.1 * pole + 0.3 * section)});
        sections.push_back(*curve_held_by({std::move(poles), {}, {}, 3, false}));
    }
    return sections;
}

}  // namespace plume::bench

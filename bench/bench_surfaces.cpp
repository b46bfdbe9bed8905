#include "bench_surfaces.hpp"

#include <cmath>

#include "core/geometry/curves/held_curve.hpp"
#include "core/geometry/surfaces/patch_evaluator.hpp"

namespace plume::bench {

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

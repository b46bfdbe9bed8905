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

Mesh triangles_between(std::uint32_t columns, std::uint32_t rows,
                       const std::function<Vec3(std::uint32_t i, std::uint32_t j)>& place) {
    Mesh::Parts parts;
    Doubles x, y, z;
    for (std::uint32_t j = 0; j < rows; ++j)
        for (std::uint32_t i = 0; i < columns; ++i) {
            const Vec3 at = place(i, j);
            x.push_back(at.x);
            y.push_back(at.y);
            z.push_back(at.z);
        }
    for (std::uint32_t j = 0; j + 1 < rows; ++j)
        for (std::uint32_t i = 0; i + 1 < columns; ++i) {
            const std::uint32_t a = i + columns * j, b = a + 1, c = b + columns, d = a + columns;
            for (const std::uint32_t corner : {a, b, c, a, c, d})
                parts.corners.push_back(corner);
            parts.first.push_back(parts.first.back() + 3);
            parts.first.push_back(parts.first.back() + 3);
        }
    parts.x = std::move(x);
    parts.y = std::move(y);
    parts.z = std::move(z);
    return *Mesh::make(std::move(parts));
}

Mesh wave_triangles(std::uint32_t columns, std::uint32_t rows, double apart) {
    return triangles_between(columns, rows, [=](std::uint32_t i, std::uint32_t j) {
        const double x = apart * i, y = apart * j;
        return Vec3{x, y, 3 * std::sin(x / 6) * std::cos(y / 5)};
    });
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

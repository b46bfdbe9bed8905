#include "core/geometry/surfaces/rebuilt_surface.hpp"

#include <algorithm>
#include <numeric>

#include "core/base/parallel.hpp"
#include "core/geometry/curves/spline_basis.hpp"
#include "core/geometry/surfaces/even_lengths.hpp"
#include "core/geometry/surfaces/patch_edit.hpp"
#include "core/geometry/surfaces/spline_interpolation.hpp"
#include "core/geometry/surfaces/surface_sampling.hpp"
#include "core/geometry/surfaces/surface_search.hpp"

namespace plume {
namespace {

SampleLines even_lines(const SplinePatch& patch, int direction, std::size_t bays) {
    return {even_length_parameters(patch, direction, bays), {}};
}

Result<PointLattice> points_of(SurfaceSamples samples) {
    PointLattice::Parts parts;
    parts.counts = {samples.count_u, samples.count_v, 1};
    parts.closed = {samples.closed_u, samples.closed_v, false};
    parts.x = std::move(samples.x);
    parts.y = std::move(samples.y);
    parts.z = std::move(samples.z);
    parts.fields = std::move(samples.fields);
    return PointLattice::make(std::move(parts));
}

// The parameters it was made through and the middles between them.
std::vector<double> halves(const SplineBasis& basis) {
    const std::vector<double> breaks = breaks_of(basis);
    std::vector<double> all;
    for (std::size_t at = 0; at + 1 < breaks.size(); ++at) {
        all.push_back(breaks[at]);
        all.push_back(std::midpoint(breaks[at], breaks[at + 1]));
    }
    all.push_back(breaks.back());
    return all;
}

Result<double> deviation_from(const SplinePatch& patch, const SplinePatch& rebuilt, const Run& run) {
    const SurfaceSearch search(patch);
    const PatchEvaluator evaluator(rebuilt);
    const std::vector<double> u = halves(rebuilt.u()), v = halves(rebuilt.v());
    std::vector<double> rows(v.size(), 0);
    const bool done =
        parallel_blocks(v.size(), 256 / u.size() + 1, run, [&](std::size_t begin, std::size_t end) {
            for (std::size_t row = begin; row < end; ++row)
                for (const double at : u)
                    rows[row] =
                        std::max(rows[row], search.nearest(evaluator.at(at, v[row]).position).distance);
        });
    if (!done) return cancelled_error();
    return std::ranges::max(rows);
}

}  // namespace

Result<RebuiltSurface> rebuilt_evenly(const SplinePatch& patch, std::size_t bays_u, std::size_t bays_v,
                                      const Run& run) {
    auto samples = sample_on(patch, even_lines(patch, 0, bays_u), even_lines(patch, 1, bays_v), run);
    if (!samples) return samples.error();
    const auto points = points_of(*std::move(samples));
    if (!points) return points.error();
    Result<SplinePatch> rebuilt = interpolate_grid(*points, run);
    if (!rebuilt) return rebuilt.error();
    const auto deviation = deviation_from(patch, *rebuilt, run);
    if (!deviation) return deviation.error();
    return RebuiltSurface{*std::move(rebuilt), *deviation};
}

}  // namespace plume

#include "core/steps/moves/moved_points.hpp"

#include <atomic>

#include "core/base/parallel.hpp"
#include "core/geometry/parts/subset.hpp"

namespace plume {

Result<MovedPoints> moved_or_gaps(const PointLattice& points, const PointMove& move, const Run& run) {
    const std::size_t count = points.address_count();
    Doubles x(count, 0.0), y(count, 0.0), z(count, 0.0);
    std::vector<std::uint8_t> there(count, 0);
    std::atomic<std::size_t> gaps = 0;
    const bool done = parallel_blocks(count, 512, run, [&](std::size_t begin, std::size_t end) {
        for (std::size_t index = begin; index < end; ++index) {
            if (!points.present(index)) continue;
            const auto place = move(index, points.point(index));
            if (!place || !is_finite(*place)) {
                ++gaps;
                continue;
            }
            there[index] = 1;
            x[index] = place->x;
            y[index] = place->y;
            z[index] = place->z;
        }
    });
    if (!done) return cancelled_error();
    const PointLattice moved = points.moved(std::move(x), std::move(y), std::move(z));
    return MovedPoints{gaps > 0 ? with_gaps(moved, there) : moved, gaps};
}

}  // namespace plume

#include "core/steps/moves/moved_points.hpp"

#include <atomic>

#include "core/base/parallel.hpp"
#include "core/geometry/parts/subset.hpp"

namespace plume {

Result<MovedPoints> moved_or_gaps(const PointLattice& points, const PointMove& move, const Run& run) {
    const std::size_t count = points.address_count();
    Doubles x(count), y(count), z(count);
    std::vector<std::uint8_t, UninitializedAllocator<std::uint8_t>> there(count);
    std::atomic<std::size_t> gaps = 0;
    const bool done = parallel_blocks(count, 512, run, [&](std::size_t begin, std::size_t end) {
        std::size_t lost = 0;
        for (std::size_t index = begin; index < end; ++index) {
            const bool present = points.present(index);
            std::optional<Vec3> place;
            if (present) place = move(index, points.point(index));
            there[index] = place && is_finite(*place) ? 1 : 0;
            lost += present && there[index] == 0 ? 1 : 0;
            const Vec3 to = there[index] != 0 ? *place : Vec3{};
            x[index] = to.x;
            y[index] = to.y;
            z[index] = to.z;
        }
        gaps += lost;
    });
    if (!done) return cancelled_error();
    const PointLattice moved = points.moved(std::move(x), std::move(y), std::move(z));
    return MovedPoints{gaps > 0 ? with_gaps(moved, {there.begin(), there.end()}) : moved, gaps};
}

}  // namespace plume

#include "core/geometry/moves/push.hpp"

#include <algorithm>

#include "core/base/numbers.hpp"
#include "core/base/parallel.hpp"
#include "core/geometry/parts/address_list.hpp"
#include "core/geometry/points/two_directions.hpp"

namespace plume {
namespace {

Result<Column> shifted(const Column& column, const Column& amounts, double factor, const Run& run) {
    Doubles result(column.size());
    const double *in = column.data(), *by = amounts.data();
    double* const out = result.data();
    const bool finished =
        parallel_blocks(result.size(), usual_block, run, [&](std::size_t begin, std::size_t end) {
            for (std::size_t index = begin; index < end; ++index)
                out[index] = in[index] + by[index] * factor;
        });
    if (!finished) return cancelled_error();
    return Column(std::move(result));
}

Result<PointLattice> pushed_along_normals(const PointLattice& lattice, const Column& amounts, double factor,
                                          const Run& run) {
    Result<Normals> normals = lattice_normals(lattice, run);
    if (!normals) return normals.error();
    remark_missing(*normals, lattice, "stay where they are", run);
    // Out along the normal by the amount: the normals' own memory becomes the new coordinates.
    const auto move = [&](const Column& start, Doubles& direction) {
        return parallel_blocks(direction.size(), usual_block, run, [&](std::size_t begin, std::size_t end) {
            for (std::size_t index = begin; index < end; ++index)
                direction[index] = start[index] + direction[index] * (amounts[index] * factor);
        });
    };
    if (!move(lattice.x(), normals->x) || !move(lattice.y(), normals->y) || !move(lattice.z(), normals->z))
        return cancelled_error();
    return lattice.moved(std::move(normals->x), std::move(normals->y), std::move(normals->z));
}

// The difference between the neighbours of `at` along one direction; zero when there is none.
Vec3 difference(const PointLattice& lattice, Address at, int direction) {
    std::size_t Address::*const part = direction == 0 ? &Address::i : &Address::j;
    const std::size_t count = lattice.counts()[static_cast<std::size_t>(direction)];
    const std::size_t here = at.*part;
    Address before = at, after = at;
    if (here > 0)
        before.*part = here - 1;
    else if (lattice.closed(direction))
        before.*part = count - 1;
    if (here + 1 < count)
        after.*part = here + 1;
    else if (lattice.closed(direction))
        after.*part = 0;
    if (!lattice.present(lattice.index(before))) before = at;
    if (!lattice.present(lattice.index(after))) after = at;
    return lattice.point(lattice.index(after)) - lattice.point(lattice.index(before));
}

}  // namespace

Result<Normals> lattice_normals(const PointLattice& lattice, const Run& run) {
    if (Status status = check_two_directions(lattice, "A push along normals"); !status) return status.error();
    const std::size_t count = lattice.address_count();
    Normals normals{Doubles(count), Doubles(count), Doubles(count)};
    const bool finished = parallel_blocks(count, usual_block, run, [&](std::size_t begin, std::size_t end) {
        for (std::size_t index = begin; index < end; ++index) {
            const Address at = lattice.address(index);
            const Vec3 normal = unit_or_zero(cross(difference(lattice, at, 0), difference(lattice, at, 1)));
            normals.x[index] = normal.x;
            normals.y[index] = normal.y;
            normals.z[index] = normal.z;
        }
    });
    if (!finished) return cancelled_error();
    return normals;
}

void remark_missing(const Normals& normals, const PointLattice& lattice, std::string_view fate,
                    const Run& run) {
    std::size_t count = 0, first = 0;
    for (std::size_t index = lattice.address_count(); index-- > 0;) {
        const bool none = normals.x[index] == 0 && normals.y[index] == 0 && normals.z[index] == 0;
        if (!none || !lattice.present(index)) continue;
        ++count;
        first = index;
    }
    if (count == 0) return;
    run.remark_loss("Points without a normal " + std::string(fate) + ": " +
                    grouped_text(static_cast<std::int64_t>(count)) + ", the first at " +
                    address_text(lattice, first) +
                    ". They have no neighbour along one direction, or their neighbours lie in one line.");
}

Result<PointLattice> pushed(const PointLattice& lattice, const Column& amounts, double factor,
                            PushDirection direction, const Run& run) {
    assert(amounts.size() == lattice.address_count());
    if (direction == PushDirection::along_normal) return pushed_along_normals(lattice, amounts, factor, run);
    const std::array<const Column*, 3> old{&lattice.x(), &lattice.y(), &lattice.z()};
    const auto axis = static_cast<std::size_t>(direction);
    const Result<Column> moved = shifted(*old[axis], amounts, factor, run);
    if (!moved) return moved.error();
    std::array<Column, 3> now{lattice.x(), lattice.y(), lattice.z()};
    now[axis] = *moved;
    return lattice.moved(now[0], now[1], now[2]);
}

Result<PointLattice> pushed_along(const PointLattice& lattice, const Column& amounts, double factor,
                                  const std::array<Column, 3>& directions, const Run& run) {
    const std::array<const Column*, 3> old{&lattice.x(), &lattice.y(), &lattice.z()};
    std::array<Column, 3> now;
    for (std::size_t axis = 0; axis < 3; ++axis) {
        Doubles values(amounts.size());
        const bool finished =
            parallel_blocks(values.size(), usual_block, run, [&](std::size_t begin, std::size_t end) {
                for (std::size_t index = begin; index < end; ++index)
                    values[index] = (*old[axis])[index] + directions[axis][index] * (amounts[index] * factor);
            });
        if (!finished) return cancelled_error();
        now[axis] = std::move(values);
    }
    return lattice.moved(now[0], now[1], now[2]);
}

Result<PointLattice> pushed_towards(const PointLattice& lattice, const Column& amounts, double factor,
                                    Vec3 place, const Run& run) {
    Doubles x(amounts.size()), y(amounts.size()), z(amounts.size());
    const bool finished =
        parallel_blocks(x.size(), usual_block, run, [&](std::size_t begin, std::size_t end) {
            for (std::size_t index = begin; index < end; ++index) {
                const Vec3 from = lattice.point(index), way = place - from;
                const double far = length(way), by = std::min(amounts[index] * factor, far);
                const Vec3 to = far > 0 ? from + way * (by / far) : from;
                x[index] = to.x;
                y[index] = to.y;
                z[index] = to.z;
            }
        });
    if (!finished) return cancelled_error();
    return lattice.moved(std::move(x), std::move(y), std::move(z));
}

}  // namespace plume

#pragma once
// Points that go to places of their own, or nowhere.

#include <functional>
#include <optional>

#include "core/base/run.hpp"
#include "core/data/point_lattice.hpp"

namespace plume {

struct MovedPoints {
    PointLattice points;
    std::size_t gaps = 0;  // points that went nowhere
};
// Where a point goes, by its index; asked on several threads.
using PointMove = std::function<std::optional<Vec3>(std::size_t index, Vec3 point)>;
// What goes nowhere, or to no finite place, becomes a gap. Error: cancelled.
Result<MovedPoints> moved_or_gaps(const PointLattice& points, const PointMove& move, const Run& run);

}  // namespace plume

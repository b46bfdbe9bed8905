#include "core/geometry/parts/scattered.hpp"

#include "core/geometry/parts/subset.hpp"

namespace plume {

PointLattice scattered(const std::vector<Vec3>& places, const std::vector<Field>& fields) {
    PointLattice points = points_at({Arrangement::scatter, {places.size(), 1, 1}, {}}, places);
    for (const Field& field : fields)
        points = points.with_field(field);
    return points;
}

}  // namespace plume

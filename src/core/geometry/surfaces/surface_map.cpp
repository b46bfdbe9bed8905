#include "core/geometry/surfaces/surface_map.hpp"

#include <algorithm>
#include <cmath>

#include "core/geometry/surfaces/patch_edit.hpp"

namespace plume {

SurfaceMap::SurfaceMap(const SplinePatch& patch, const FlatRectangle& rectangle, MapSteps steps,
                       std::size_t places)
    : patch_(patch), rectangle_(rectangle), evaluator_(patch, places) {
    for (const int direction : {0, 1}) {
        const SplineBasis& basis = basis_along(patch, direction);
        Direction& one = directions_[static_cast<std::size_t>(direction)];
        one = {basis.start(),
               basis.end() - basis.start(),
               1 / (direction == 0 ? rectangle.width : rectangle.depth),
               basis.closed,
               {}};
        if (steps == MapSteps::even_lengths) one.lengths.emplace(patch, direction);
    }
}

// Whether a share lies on the surface, then from 0 to 1.
bool SurfaceMap::take_in(const Direction& direction, double& share) {
    constexpr double beside = 1e-9;
    if (direction.closed)
        share -= std::floor(share);
    else if (!(share >= -beside && share <= 1 + beside))
        return false;
    share = share < 0 ? 0 : share > 1 ? 1 : share;
    return share == share;  // NOLINT: not a number lies nowhere
}

double SurfaceMap::parameter_at(const Direction& direction, double share) {
    return direction.lengths ? direction.lengths->parameter_at(share * direction.lengths->total())
                             : direction.start + share * direction.range;
}

std::optional<SurfaceMap::Laid> SurfaceMap::laid(Vec3 place) const {
    const Vec3 flat = rectangle_.at.to_local(place);
    double share_u = flat.x * directions_[0].over_side, share_v = flat.y * directions_[1].over_side;
    if (!take_in(directions_[0], share_u) || !take_in(directions_[1], share_v)) return {};
    const double u = parameter_at(directions_[0], share_u), v = parameter_at(directions_[1], share_v);
    return Laid{flat.z == 0 ? evaluator_.at(u, v).position : evaluator_.raised_at(u, v, flat.z), u, v};
}

SurfaceShares::SurfaceShares(const SplinePatch& patch, MapSteps steps)
    : search_(patch), steps_(steps), lengths_{MeanLength(patch, 0), MeanLength(patch, 1)} {}

std::optional<Vec3> SurfaceShares::shares(Vec3 place) const {
    const PlaceOnSurface on = search_.nearest(place);
    const Vec3 normal = search_.normal(on), off = place - on.place;
    const double height = dot(off, normal);
    if (length(off - normal * height) > 1e-6 * search_.size()) return {};
    const auto share = [&](int direction, double at) {
        const SplineBasis& basis = basis_along(search_.patch(), direction);
        const MeanLength& lengths = lengths_[static_cast<std::size_t>(direction)];
        return steps_ == MapSteps::even_lengths ? lengths.length_at(at) / lengths.total()
                                                : (at - basis.start()) / (basis.end() - basis.start());
    };
    return Vec3{share(0, on.u), share(1, on.v), height};
}

}  // namespace plume

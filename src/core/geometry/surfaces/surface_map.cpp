#include "core/geometry/surfaces/surface_map.hpp"

#include <algorithm>
#include <cmath>

#include "core/geometry/surfaces/patch_edit.hpp"

namespace plume {

SurfaceMap::SurfaceMap(const SplinePatch& patch, const FlatRectangle& rectangle, MapSteps steps)
    : patch_(patch), rectangle_(rectangle), evaluator_(patch) {
    if (steps == MapSteps::even_parameters) return;
    lengths_[0].emplace(patch, 0);
    lengths_[1].emplace(patch, 1);
}

std::optional<double> SurfaceMap::parameter_at(int direction, double share) const {
    constexpr double beside = 1e-9;
    const SplineBasis& basis = basis_along(patch_, direction);
    if (basis.closed)
        share -= std::floor(share);
    else if (!(share >= -beside && share <= 1 + beside))
        return {};
    share = std::clamp(share, 0.0, 1.0);
    const auto& lengths = lengths_[static_cast<std::size_t>(direction)];
    return lengths ? lengths->parameter_at(share * lengths->total())
                   : std::lerp(basis.start(), basis.end(), share);
}

std::optional<SurfaceMap::Laid> SurfaceMap::laid(Vec3 place) const {
    const Vec3 flat = rectangle_.at.to_local(place);
    const auto u = parameter_at(0, flat.x / rectangle_.width), v = parameter_at(1, flat.y / rectangle_.depth);
    if (!u || !v) return {};
    const Vec3 on = evaluator_.at(*u, *v).position;
    if (flat.z == 0) return Laid{on, *u, *v};
    return Laid{on + normal_at(evaluator_, patch_.u(), patch_.v(), *u, *v) * flat.z, *u, *v};
}

}  // namespace plume

#include "core/data/placements.hpp"

namespace plume {
namespace {

bool orthonormal(const Placement& placement) {
    constexpr double slack = 1e-9;
    const auto near = [](double value, double wanted) { return std::abs(value - wanted) <= slack; };
    return near(dot(placement.along, placement.along), 1) &&
           near(dot(placement.across, placement.across), 1) && near(dot(placement.up, placement.up), 1) &&
           near(dot(placement.along, placement.across), 0) && near(dot(placement.along, placement.up), 0) &&
           near(dot(cross(placement.along, placement.across), placement.up), 1);
}

}  // namespace

Placement placement_of(Vec3 origin, Vec3 up, Vec3 along) {
    Placement placement;
    placement.origin = origin;
    const Vec3 z = unit_or_zero(up);
    placement.up = z == Vec3{} ? Vec3{0, 0, 1} : z;
    const auto without_up = [&](Vec3 axis) { return axis - placement.up * dot(axis, placement.up); };
    Vec3 x = without_up(unit_or_zero(along));
    // Less than a ten-thousandth of the axis is left when it is all but parallel to up.
    for (const Vec3 other : {Vec3{1, 0, 0}, Vec3{0, 1, 0}})
        if (length(x) < 1e-4) x = without_up(other);
    placement.along = unit_or_zero(x);
    placement.across = cross(placement.up, placement.along);
    return placement;
}

Result<Placements> Placements::make(const PointLattice& arrangement, std::vector<Placement> placements,
                                    PartTreePointer tree) {
    if (arrangement.point_count() == 0)
        return Error{ErrorCode::empty_input, "", "There is no point to place a placement on",
                     "Keep a point."};
    if (placements.size() != arrangement.address_count())
        return Error{ErrorCode::broken_invariant, "Placements", "need one placement per address", ""};
    if (tree && tree->parents.size() != placements.size())
        return Error{ErrorCode::broken_invariant, "Placements", "need one part of the tree per address", ""};
    Doubles x(placements.size()), y(placements.size()), z(placements.size());
    for (std::size_t index = 0; index < placements.size(); ++index) {
        const Vec3 origin = placements[index].origin;
        x[index] = origin.x;
        y[index] = origin.y;
        z[index] = origin.z;
        if (!arrangement.present(index)) continue;
        if (!is_finite(origin))
            return Error{ErrorCode::not_finite, "", "A placement stands on a point that is not finite",
                         "Mend the coordinates of that point."};
        if (!orthonormal(placements[index]))
            return Error{ErrorCode::broken_invariant, "Placements",
                         "have a placement that is not orthonormal", ""};
    }
    Placements result(arrangement.moved(std::move(x), std::move(y), std::move(z)));
    result.placements_ = std::make_shared<const std::vector<Placement>>(std::move(placements));
    result.tree_ = std::move(tree);
    return result;
}

Placements Placements::with_origins(PointLattice origins) const {
    assert(origins.address_count() == placements_->size());
    Placements result = *this;
    result.origins_ = std::move(origins);
    return result;
}

std::vector<Placement> Placements::present_placements() const {
    std::vector<Placement> placements;
    placements.reserve(origins_.point_count());
    for (std::size_t index = 0; index < placements_->size(); ++index)
        if (origins_.present(index)) placements.push_back(placement(index));
    return placements;
}

}  // namespace plume

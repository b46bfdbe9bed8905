#pragma once
// Affine maps: p goes to x p.x + y p.y + z p.z + shift.

#include <optional>
#include <vector>

#include "core/data/placements.hpp"

namespace plume {

struct Affine {
    Vec3 x{1, 0, 0}, y{0, 1, 0}, z{0, 0, 1}, shift{};

    Vec3 turned(Vec3 d) const { return x * d.x + y * d.y + z * d.z; }
    Vec3 at(Vec3 p) const { return turned(p) + shift; }
    double determinant() const { return dot(cross(x, y), z); }
};

// `second` after `first`.
Affine composed(const Affine& second, const Affine& first);
Affine moved_by(Vec3 by);
// About a line through `origin` along `axis` (need not be unit), anticlockwise seen against the axis.
// Rodrigues' formula.
Affine turned_about(Vec3 origin, Vec3 axis, double angle_rad);
Affine scaled_about(Vec3 origin, Vec3 factors);
// Across the plane through the placement's origin, square to its up.
Affine mirrored_across(const Placement& plane);
// Straight onto the plane through the placement's origin, square to its up.
Affine laid_onto(const Placement& plane);
// What lies in `from` comes to lie in `to` the same way.
Affine between_placements(const Placement& from, const Placement& to);

// Of a map whose determinant is not 0.
Affine inverse_of(const Affine& map);
// That share of the way from where everything is to where the map takes it.
Affine part_of(const Affine& map, double share);
// What takes each of the first places to its second, to a billionth of their size; flat ones keep their
// thickness. Empty: nothing affine does, or what does turns them inside out. As many of both.
std::optional<Affine> affine_between(const std::vector<Vec3>& from, const std::vector<Vec3>& to);

}  // namespace plume

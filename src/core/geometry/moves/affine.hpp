#pragma once
// Affine maps, and whole values moved by them: p goes to x p.x + y p.y + z p.z + shift.

#include <vector>

#include "core/base/run.hpp"
#include "core/data/value.hpp"

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

// The whole value, exactly: splines by their poles, placements turned and made orthonormal again (mirrored
// placements stay right-handed: their across axis is turned round), directions turned, faces of meshes turned
// round by maps that mirror. Weights of attractors and fields stay. Numbers stay what they are. O(n). Error:
// not_finite when the map carries something beyond what a double holds.
Result<Value> transformed(const Value& value, const Affine& map);

// Kinds that transformed() moves: all but numbers.
std::vector<Kind> movable_kinds();

}  // namespace plume

#pragma once
// How a part is moved, turned and bent against the one it comes of.
//
// A part's axes are those of its placement, with across turned round where the part is mirrored: what stands
// to its left then stands to its right. Clauses work one after the other, each in the axes as the ones before
// left them.

#include "core/data/placements.hpp"
#include "core/growth/growth_rules.hpp"

namespace plume {

struct PartPlace {
    Placement placement;  // right-handed and orthonormal
    double side = 1;      // -1 where it is mirrored

    Vec3 across() const { return placement.across * side; }
    Vec3 axis(int which) const { return which == 0 ? placement.along : which == 1 ? across() : placement.up; }
};

void move(PartPlace& part, PartWay way, double distance);
void turn(PartPlace& part, PartWay about, double angle_rad);
void mirror(PartPlace& part, PartWay way);
// Up by this angle nearer to a direction, but not beyond it; by a negative one away from it, but not beyond
// the opposite. Nothing where it already looks that way, or the direction has no length.
void bend(PartPlace& part, Vec3 towards, double angle_rad);
// Mirrored in all three ways, as by a negative size.
void turn_inside_out(PartPlace& part);
// Takes out what rounding did to the axes.
void make_upright(PartPlace& part);

// Motions that are the same for every part, in the axes of the part they begin with.
class FixedMotion {
public:
    void move(PartWay way, double distance) {
        plume::move(local_, way, distance);
        still_ = false;
    }
    void turn(PartWay about, double angle_rad) {
        plume::turn(local_, about, angle_rad);
        still_ = false;
    }
    void mirror(PartWay way) {
        plume::mirror(local_, way);
        still_ = false;
    }
    PartPlace applied(const PartPlace& from) const {
        if (still_) return from;
        const Placement& axes = from.placement;
        const Vec3 across = from.across();
        const auto turned = [&](Vec3 v) { return axes.along * v.x + across * v.y + axes.up * v.z; };
        const Vec3 along = turned(local_.placement.along), up = turned(local_.placement.up);
        return {{axes.origin + turned(local_.placement.origin), along, cross(up, along), up},
                from.side * local_.side};
    }

private:
    PartPlace local_;
    bool still_ = true;
};

}  // namespace plume

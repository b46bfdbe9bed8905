#pragma once
// A symmetric block of three by three: what a place resists, by direction.

#include "core/sheets/lanes.hpp"

namespace plume {

struct StiffnessBlock {
    double xx = 0, yy = 0, zz = 0, xy = 0, yz = 0, zx = 0;

    // So much along an axis: times its length squared.
    void add(double stiffness, Vec3 axis) {
        xx += stiffness * axis.x * axis.x;
        yy += stiffness * axis.y * axis.y;
        zz += stiffness * axis.z * axis.z;
        xy += stiffness * axis.x * axis.y;
        yz += stiffness * axis.y * axis.z;
        zx += stiffness * axis.z * axis.x;
    }
    // In all directions alike.
    void add(double stiffness) {
        xx += stiffness;
        yy += stiffness;
        zz += stiffness;
    }
    Vec3 operator*(Vec3 w) const {
        return {xx * w.x + xy * w.y + zx * w.z, xy * w.x + yy * w.y + yz * w.z,
                zx * w.x + yz * w.y + zz * w.z};
    }
    // Of a positive definite one; zero where it is not.
    StiffnessBlock inverse() const {
        const double x = yy * zz - yz * yz, y = yz * zx - xy * zz, z = xy * yz - yy * zx;
        const double determinant = xx * x + xy * y + zx * z;
        if (!(determinant > 0)) return {};
        const double by = 1 / determinant;
        return {x * by, (xx * zz - zx * zx) * by, (xx * yy - xy * xy) * by,
                y * by, (xy * zx - xx * yz) * by, z * by};
    }
};

// The same in single precision, column by column.
struct BlockLanes {
    Lanes x, y, z;

    BlockLanes() = default;
    explicit BlockLanes(const StiffnessBlock& block)
        : x(Vec3{block.xx, block.xy, block.zx}),
          y(Vec3{block.xy, block.yy, block.yz}),
          z(Vec3{block.zx, block.yz, block.zz}) {}
    Lanes operator*(Lanes way) const { return x * way.of[0] + y * way.of[1] + z * way.of[2]; }
};

}  // namespace plume

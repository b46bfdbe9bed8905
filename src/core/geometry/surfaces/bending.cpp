#include "core/geometry/surfaces/bending.hpp"

#include <algorithm>
#include <cmath>
#include <numeric>

namespace plume {

// The eigenvector of the greater root: of the two ways to write it the one that does not cancel.
Vec3 Bending::along_most() const {
    const Vec3 a = unit_or_zero(axis), b = cross(normal, a);
    const double half = (form.aa - form.bb) / 2;
    const Vec3 along = half >= 0 ? a * (half + apart()) + b * form.ab : a * form.ab + b * (apart() - half);
    const Vec3 direction = unit_or_zero(along);
    return direction == Vec3{} ? a : direction;
}

Bending bending_of(const SurfaceBend& bend) {
    const Vec3 &u = bend.point.along_u, &v = bend.point.along_v;
    const double e = dot(u, u), g = dot(v, v);
    const Vec3 area_vector = cross(u, v);
    const double area = length(area_vector);
    // At a tip one derivative is nothing but rounding, as normal_at() has it.
    if (!(area > 1e-9 * (e + g)) || !std::isfinite(area)) return {};
    const double over_area = 1 / area, over_e = 1 / e;
    const Vec3 normal = area_vector * over_area;
    const double l = dot(bend.bend_uu, normal), m = dot(bend.bend_uv, normal), n = dot(bend.bend_vv, normal);
    // The second fundamental form over the axes a = u / |u| and b, across it: v = (v.a) a + (area / |u|) b.
    const double lean = dot(u, v) * over_e;
    return {normal,
            {l * over_e, (m - lean * l) * over_area,
             (n - 2 * lean * m + lean * lean * l) * e * over_area * over_area},
            u};
}

Bending bending_at(const PatchEvaluator& patch, const SplineBasis& u_basis, const SplineBasis& v_basis,
                   double u, double v) {
    const Bending there = bending_of(patch.bend_at(u, v));
    if (there.normal != Vec3{}) return there;
    const auto inside = [&](double share) {
        const auto moved = [&](double at, const SplineBasis& basis) {
            return std::lerp(at, std::midpoint(basis.start(), basis.end()), share);
        };
        return bending_of(patch.bend_at(moved(u, u_basis), moved(v, v_basis)));
    };
    // Near enough that what comes to something has nearly come to it, far enough to have digits left.
    const Bending near = inside(1e-3), nearer = inside(5e-4);
    const double most = std::max(std::abs(near.least()), std::abs(near.most()));
    const bool settles = std::abs(near.least() - nearer.least()) <= 0.05 * most &&
                         std::abs(near.most() - nearer.most()) <= 0.05 * most &&
                         length(near.normal - nearer.normal) < 0.05;
    if (!settles) return {};
    Bending tip = nearer;
    tip.normal = normal_at(patch, u_basis, v_basis, u, v);
    return tip;
}

Dimension dimension_of(BendingNumber number) {
    switch (number) {
        case BendingNumber::gaussian:
            return {-2, 0};
        case BendingNumber::radius:
            return a_length;
        default:
            return {-1, 0};
    }
}

double number_of(const Bending& bending, BendingNumber number) {
    switch (number) {
        case BendingNumber::gaussian:
            return bending.gaussian();
        case BendingNumber::mean:
            return bending.mean();
        case BendingNumber::most:
            return bending.most();
        case BendingNumber::least:
            return bending.least();
        case BendingNumber::radius:
            break;
    }
    return 1 / std::max(std::abs(bending.least()), std::abs(bending.most()));
}

}  // namespace plume

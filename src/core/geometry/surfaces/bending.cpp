#include "core/geometry/surfaces/bending.hpp"

#include <algorithm>
#include <cmath>
#include <numeric>

namespace plume {

// The greater root of the characteristic equation, and its eigenvector: of the two ways to write it the one
// that does not cancel.
Bending bending_of(const QuadraticForm& form, Vec3 axis_a, Vec3 axis_b) {
    const double half = (form.aa - form.bb) / 2, mean = (form.aa + form.bb) / 2;
    const double apart = std::sqrt(half * half + form.ab * form.ab);
    const Vec3 along = half >= 0 ? axis_a * (half + apart) + axis_b * form.ab
                                 : axis_a * form.ab + axis_b * (apart - half);
    const Vec3 direction = unit_or_zero(along);
    // Where it bends alike all around, any direction is one.
    return {cross(axis_a, axis_b), mean - apart, mean + apart, direction == Vec3{} ? axis_a : direction};
}

Bending bending_of(const SurfaceBend& bend) {
    const Vec3 &u = bend.point.along_u, &v = bend.point.along_v;
    const double e = dot(u, u), g = dot(v, v);
    const Vec3 area_vector = cross(u, v);
    const double area = length(area_vector);
    // At a tip one derivative is nothing but rounding, as normal_at() has it.
    if (!(area > 1e-9 * (e + g)) || !std::isfinite(area)) return {};
    const Vec3 normal = area_vector * (1 / area);
    const double l = dot(bend.bend_uu, normal), m = dot(bend.bend_uv, normal), n = dot(bend.bend_vv, normal);
    // The second fundamental form over the axes a = u / |u| and b, across it: v = (v.a) a + (area / |u|) b.
    const double size = std::sqrt(e), lean = dot(u, v) / e, across = area / size;
    const Vec3 axis_a = u * (1 / size);
    return bending_of({l / e, (m - lean * l) / (size * across),
                       (n - 2 * lean * m + lean * lean * l) / (across * across)},
                      axis_a, cross(normal, axis_a));
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
    const double most = std::max(std::abs(near.least), std::abs(near.most));
    const bool settles = std::abs(near.least - nearer.least) <= 0.05 * most &&
                         std::abs(near.most - nearer.most) <= 0.05 * most &&
                         length(near.normal - nearer.normal) < 0.05;
    return settles ? Bending{normal_at(patch, u_basis, v_basis, u, v), nearer.least, nearer.most,
                             nearer.along_most}
                   : Bending{};
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
            return bending.least * bending.most;
        case BendingNumber::mean:
            return (bending.least + bending.most) / 2;
        case BendingNumber::most:
            return bending.most;
        case BendingNumber::least:
            return bending.least;
        case BendingNumber::radius:
            break;
    }
    return 1 / std::max(std::abs(bending.least), std::abs(bending.most));
}

}  // namespace plume

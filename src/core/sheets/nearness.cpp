#include "core/sheets/nearness.hpp"

#include <algorithm>

#include "core/geometry/meshes/on_triangle.hpp"

namespace plume {
namespace {

Nearest to_triangle(Vec3 p, Vec3 a, Vec3 b, Vec3 c, double wa, double wb, double wc) {
    return {{1, wa, wb, wc}, p - (a * wa + b * wb + c * wc)};
}

// Squares of the sine between two sides.
constexpr double nearly_a_line = 1e-10;

double along(Vec3 p, Vec3 a, Vec3 b) {
    const Vec3 side = b - a;
    const double square = dot(side, side);
    return square > 0 ? std::clamp(dot(p - a, side) / square, 0.0, 1.0) : 0;
}

Nearest nearest_of_sides(Vec3 p, Vec3 a, Vec3 b, Vec3 c) {
    const double ab = along(p, a, b), bc = along(p, b, c), ca = along(p, c, a);
    const Nearest sides[] = {to_triangle(p, a, b, c, 1 - ab, ab, 0), to_triangle(p, a, b, c, 0, 1 - bc, bc),
                             to_triangle(p, a, b, c, ca, 0, 1 - ca)};
    return *std::ranges::min_element(sides, {},
                                     [](const Nearest& side) { return dot(side.apart, side.apart); });
}

}  // namespace

Nearest nearest_of_triangle(Vec3 p, Vec3 a, Vec3 b, Vec3 c) {
    const Vec3 ab = b - a, ac = c - a, across = cross(ab, ac);
    // Of one that is nearly a line the nearest side tells it more truly.
    if (!(dot(across, across) > nearly_a_line * dot(ab, ab) * dot(ac, ac)))
        return nearest_of_sides(p, a, b, c);
    const OnTriangle on = nearest_on_triangle(ab, ac, p - a);
    return to_triangle(p, a, b, c, 1 - on.share_b - on.share_c, on.share_b, on.share_c);
}

Nearest nearest_of_segments(Vec3 a, Vec3 b, Vec3 c, Vec3 d) {
    const Vec3 u = b - a, v = d - c, r = a - c;
    const double uu = dot(u, u), vv = dot(v, v), uv = dot(u, v), ur = dot(u, r), vr = dot(v, r);
    const double square = uu * vv - uv * uv;
    // Parallel ones are as near at many places; one is taken.
    double s = square > 1e-12 * uu * vv ? std::clamp((uv * vr - ur * vv) / square, 0.0, 1.0) : 0;
    double t = vv > 0 ? (uv * s + vr) / vv : 0;
    if (t < 0) {
        t = 0;
        s = uu > 0 ? std::clamp(-ur / uu, 0.0, 1.0) : 0;
    } else if (t > 1) {
        t = 1;
        s = uu > 0 ? std::clamp((uv - ur) / uu, 0.0, 1.0) : 0;
    }
    return {{1 - s, s, 1 - t, t}, (a + u * s) - (c + v * t)};
}

}  // namespace plume

#include "core/sheets/nearness.hpp"

#include <algorithm>

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

double share(double part, double whole) {
    return whole != 0 ? part / whole : 0;
}

}  // namespace

Nearest nearest_of_triangle(Vec3 p, Vec3 a, Vec3 b, Vec3 c) {
    const Vec3 ab = b - a, ac = c - a, ap = p - a;
    const double d1 = dot(ab, ap), d2 = dot(ac, ap);
    if (d1 <= 0 && d2 <= 0) return to_triangle(p, a, b, c, 1, 0, 0);
    const Vec3 bp = p - b;
    const double d3 = dot(ab, bp), d4 = dot(ac, bp);
    if (d3 >= 0 && d4 <= d3) return to_triangle(p, a, b, c, 0, 1, 0);
    const double vc = d1 * d4 - d3 * d2;
    if (vc <= 0 && d1 >= 0 && d3 <= 0) {
        const double v = share(d1, d1 - d3);
        return to_triangle(p, a, b, c, 1 - v, v, 0);
    }
    const Vec3 cp = p - c;
    const double d5 = dot(ab, cp), d6 = dot(ac, cp);
    if (d6 >= 0 && d5 <= d6) return to_triangle(p, a, b, c, 0, 0, 1);
    const double vb = d5 * d2 - d1 * d6;
    if (vb <= 0 && d2 >= 0 && d6 <= 0) {
        const double w = share(d2, d2 - d6);
        return to_triangle(p, a, b, c, 1 - w, 0, w);
    }
    const double va = d3 * d6 - d5 * d4;
    if (va <= 0 && d4 - d3 >= 0 && d5 - d6 >= 0) {
        const double w = share(d4 - d3, (d4 - d3) + (d5 - d6));
        return to_triangle(p, a, b, c, 0, 1 - w, w);
    }
    // Of one that is nearly a line the nearest side tells it more truly.
    const double whole = va + vb + vc;
    if (!(whole > nearly_a_line * dot(ab, ab) * dot(ac, ac))) return nearest_of_sides(p, a, b, c);
    const double v = vb / whole, w = vc / whole;
    return to_triangle(p, a, b, c, 1 - v - w, v, w);
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

#include "core/geometry/meshes/on_triangle.hpp"

namespace plume {

OnTriangle nearest_on_triangle(Vec3 ab, Vec3 ac, Vec3 ap) {
    const double d1 = dot(ab, ap), d2 = dot(ac, ap);
    if (d1 <= 0 && d2 <= 0) return {0, 0, 1};
    const Vec3 bp = ap - ab;
    const double d3 = dot(ab, bp), d4 = dot(ac, bp);
    if (d3 >= 0 && d4 <= d3) return {1, 0, 2};
    const double vc = d1 * d4 - d3 * d2;
    if (vc <= 0 && d1 >= 0 && d3 <= 0) return {d1 / (d1 - d3), 0, 4};
    const Vec3 cp = ap - ac;
    const double d5 = dot(ab, cp), d6 = dot(ac, cp);
    if (d6 >= 0 && d5 <= d6) return {0, 1, 3};
    const double vb = d5 * d2 - d1 * d6;
    if (vb <= 0 && d2 >= 0 && d6 <= 0) return {0, d2 / (d2 - d6), 6};
    const double va = d3 * d6 - d5 * d4;
    if (va <= 0 && d4 - d3 >= 0 && d5 - d6 >= 0) {
        const double share = (d4 - d3) / ((d4 - d3) + (d5 - d6));
        return {1 - share, share, 5};
    }
    const double scale = 1 / (va + vb + vc);
    return {vb * scale, vc * scale, 0};
}

}  // namespace plume

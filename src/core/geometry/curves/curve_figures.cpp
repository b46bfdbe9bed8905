#include "core/geometry/curves/curve_figures.hpp"

#include <algorithm>
#include <cmath>

#include "core/geometry/curves/curve_division.hpp"
#include "core/geometry/curves/curve_sampling.hpp"
#include "core/geometry/curves/spline_basis.hpp"
#include "core/geometry/measures/bounds.hpp"
#include "core/geometry/measures/golden_section.hpp"
#include "core/geometry/measures/quadrature.hpp"

namespace plume {
namespace {

constexpr double agreement = 1e-12;
constexpr int most_halvings = 24;

// The integral over the whole curve of a vector, knot by knot; sizes below `scale` times the agreement count
// as none.
template <class Function>
Vec3 along_curve(const SplineCurve& curve, double scale, const Function& function) {
    const std::vector<double> breaks = breaks_of(curve.basis());
    const auto agreed = [&](Vec3 first, Vec3 second, Vec3 whole) {
        return length(first + second - whole) <= agreement * scale;
    };
    Vec3 sum;
    for (std::size_t piece = 0; piece + 1 < breaks.size(); ++piece)
        sum = sum + halved_integral(function, agreed, breaks[piece], breaks[piece + 1],
                                    gauss_rule(function, breaks[piece], breaks[piece + 1]), most_halvings);
    return sum;
}

double curvature_at(const SplineCurve& curve, double parameter) {
    const double curvature = curvature_of(evaluate_bend(curve, parameter));
    return std::isfinite(curvature) ? curvature : 0;
}

// The largest curvature between two parameters, from the best of even probes on, by golden section.
double tightest_between(const SplineCurve& curve, double from, double to) {
    constexpr int probes = 16;
    const auto at = [&](double probe) { return std::lerp(from, to, probe / probes); };
    double best = 0, most = -1;
    for (int probe = 0; probe <= probes; ++probe) {
        // Just inside: at the knot itself the next piece begins.
        const double inside = probe == 0 ? 1e-9 : probe == probes ? probes - 1e-9 : probe;
        const double curvature = curvature_at(curve, at(inside));
        if (curvature > most) {
            most = curvature;
            best = inside;
        }
    }
    const double found = golden_section(std::max(best - 1, 1e-9), std::min(best + 1, probes - 1e-9), 48,
                                        [&](double probe) { return -curvature_at(curve, at(probe)); });
    return curvature_at(curve, at(found)) > most ? at(found) : at(best);
}

}  // namespace

Vec3 area_vector(const SplineCurve& curve) {
    const Box box = bounds_of(curve);
    const Vec3 centre = box.centre();
    const double size = box.diagonal();
    const auto swept = [&](double t) {
        const CurvePoint at = evaluate(curve, t);
        return cross(at.position - centre, at.along);
    };
    const Vec3 start = start_of(curve) - centre, end = evaluate(curve, curve.basis().end()).position - centre;
    return (along_curve(curve, size * size, swept) + cross(end, start)) * 0.5;
}

Vec3 centroid_of_line(const SplineCurve& curve) {
    const Box box = bounds_of(curve);
    const Vec3 centre = box.centre();
    const double size = box.diagonal();
    const Vec3 moment = along_curve(curve, size * size, [&](double t) {
        const CurvePoint at = evaluate(curve, t);
        return (at.position - centre) * length(at.along);
    });
    return centre + moment * (1 / length_of(curve));
}

Result<Vec3> centroid_of_area(const SplineCurve& curve) {
    const Box box = bounds_of(curve);
    const double size = box.diagonal();
    const Vec3 area = area_vector(curve), normal = unit_or_zero(area);
    if (!(length(area) > 1e-12 * size * size))
        return Error{ErrorCode::too_few_points, "", "The curve encloses no area",
                     "Close it, or choose another."};
    // Triangles between the centre and every piece of the curve: a third of the way out, by their signed
    // areas.
    const Vec3 centre = box.centre();
    const Vec3 moment = along_curve(curve, size * size * size, [&](double t) {
        const CurvePoint at = evaluate(curve, t);
        const Vec3 out = at.position - centre;
        return out * (dot(cross(out, at.along), normal) / 3);
    });
    return centre + moment * (1 / dot(area, normal));
}

std::optional<TightestBend> tightest_bend(const SplineCurve& curve) {
    const std::vector<double> breaks = knot_breaks(curve.basis());
    std::optional<TightestBend> tightest;
    double most = 1e-12 / std::max(bounds_of(curve).diagonal(), 1e-300);
    for (std::size_t piece = 0; piece + 1 < breaks.size(); ++piece) {
        const double at = tightest_between(curve, breaks[piece], breaks[piece + 1]);
        const double curvature = curvature_at(curve, at);
        if (!(curvature > most)) continue;
        most = curvature;
        tightest = {1 / curvature, at, evaluate(curve, at).position};
    }
    return tightest;
}

}  // namespace plume

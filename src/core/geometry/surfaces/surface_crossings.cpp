#include "core/geometry/surfaces/surface_crossings.hpp"

#include <algorithm>
#include <cmath>
#include <numeric>

#include "core/data/place_text.hpp"
#include "core/geometry/curves/curve_edit.hpp"
#include "core/geometry/curves/curve_sampling.hpp"
#include "core/geometry/curves/spline_basis.hpp"
#include "core/geometry/measures/bounds.hpp"
#include "core/geometry/surfaces/patch_edit.hpp"
#include "core/geometry/surfaces/surface_search.hpp"

namespace plume {
namespace {

struct CurveBay {
    double from = 0, to = 0;
    Box box;
};

// Of the size: what is as near is a crossing; what curves run along is nearer for longer.
constexpr double met_share = 1e-12, along_share = 1e-9;
// The sine of the angle between the two below which they touch rather than cross.
constexpr double touching = 2e-5;

struct Met {
    double at = 0;
    bool touches = false;
};

std::vector<CurveBay> bays_of(const SplineCurve& curve) {
    constexpr std::size_t enough = 24;
    const SplineCurve open = changed(curve, opened(curve.basis()));
    const std::size_t spans = knot_breaks(open.basis()).size() - 1;
    const std::vector<double> lines =
        knot_lines(open.basis(), static_cast<int>(std::max<std::size_t>(1, (enough + spans - 1) / spans)));
    std::vector<CurveBay> bays;
    for (std::size_t at = 0; at + 1 < lines.size(); ++at)
        bays.push_back({lines[at], lines[at + 1], poles_box(part_of(open, lines[at], lines[at + 1]))});
    return bays;
}

class Crossings {
public:
    Crossings(const SplineCurve& curve, const SplinePatch& patch, std::vector<Met>& found)
        : curve_(curve),
          search_(patch),
          evaluator_(patch),
          size_(std::max(poles_box(curve).diagonal(), poles_box(patch).diagonal())),
          found_(found) {}

    Status look_along(const CurveBay& bay) {
        Status looked = Done{};
        search_.visit([&](const Box& box) { return looked.ok() && meet(box, bay.box, met_share * size_); },
                      [&](const SurfaceBay& there) {
                          if (looked) looked = look_in(bay, there);
                      });
        return looked;
    }

private:
    static constexpr int most_steps = 60;

    Status look_in(const CurveBay& on_curve, const SurfaceBay& on_patch) {
        const SplineBasis& basis = curve_.basis();
        const double half = (on_curve.to - on_curve.from) / 2;
        const double from = std::max(basis.start(), on_curve.from - half),
                     to = std::min(basis.end(), on_curve.to + half);
        double t = std::midpoint(on_curve.from, on_curve.to),
               u = std::midpoint(on_patch.from_u, on_patch.to_u),
               v = std::midpoint(on_patch.from_v, on_patch.to_v);
        for (int step = 0; step < most_steps; ++step) {
            const CurvePoint on = evaluate(curve_, t);
            const SurfacePoint at = evaluator_.at(u, v);
            const Vec3 apart = on.position - at.position;
            if (length(apart) <= met_share * size_) return take(t, u, v, on, at);
            const Vec3 normal = cross(at.along_u, at.along_v);
            const double facing = dot(normal, on.along);
            const double whole = length(normal) * length(on.along);
            const double area = dot(normal, normal);
            if (!(area > 0)) break;
            // Side by side, only the place on the surface is looked for.
            const double by = std::abs(facing) > 1e-12 * whole ? -dot(normal, apart) / facing : 0;
            const Vec3 beside = apart + on.along * by;
            const double next_t = std::clamp(t + by, from, to),
                         next_u = std::clamp(u + dot(cross(beside, at.along_v), normal) / area,
                                             on_patch.from_u, on_patch.to_u),
                         next_v = std::clamp(v + dot(cross(at.along_u, beside), normal) / area,
                                             on_patch.from_v, on_patch.to_v);
            if (next_t == t && next_u == u && next_v == v) break;
            t = next_t;
            u = next_u;
            v = next_v;
        }
        // Where it touches, steps become short before it is met as nearly.
        const CurvePoint on = evaluate(curve_, t);
        const SurfacePoint at = evaluator_.at(u, v);
        if (length(on.position - at.position) > along_share * size_) return Done{};
        return take(t, u, v, on, at);
    }

    Status take(double t, double u, double v, const CurvePoint& on, const SurfacePoint& at) {
        if (!search_.holds(u, v)) return Done{};
        const Vec3 normal = unit_or_zero(cross(at.along_u, at.along_v));
        const bool touches = std::abs(dot(normal, unit_or_zero(on.along))) < touching;
        if (touches && runs_along(t))
            return Error{ErrorCode::unlike_arrangement, "",
                         "runs along the surface at " + place_text(on.position),
                         "Move one of them, or pull the curve onto the surface instead."};
        found_.push_back({t, touches});
        return Done{};
    }

    // Whether it is still on the surface a little further.
    bool runs_along(double t) const {
        const SplineBasis& basis = curve_.basis();
        const double little = 1e-3 * (basis.end() - basis.start());
        const auto is_on = [&](double at) {
            return at >= basis.start() && at <= basis.end() &&
                   search_.nearest(evaluate(curve_, at).position).distance <= along_share * size_;
        };
        return is_on(t - little) || is_on(t + little);
    }

    const SplineCurve& curve_;
    SurfaceSearch search_;
    PatchEvaluator evaluator_;
    double size_;
    std::vector<Met>& found_;
};

// In order, each once; the start of a closed curve is its end. Where it touches, the place is as uncertain as
// the root of what the two are apart.
std::vector<double> distinct(std::vector<Met> found, const SplineBasis& basis) {
    const double period = basis.end() - basis.start();
    const auto is_same = [&](const Met& a, const Met& b) {
        return b.at - a.at <= (a.touches && b.touches ? 1e-3 : 1e-7) * period;
    };
    std::ranges::sort(found, {}, &Met::at);
    std::vector<double> kept;
    Met last;
    for (const Met& met : found) {
        if (kept.empty() || !is_same(last, met)) kept.push_back(met.at);
        last = met;
    }
    const bool round =
        basis.closed && kept.size() > 1 && kept.front() + period - kept.back() <= 1e-7 * period;
    if (round) kept.pop_back();
    return kept;
}

}  // namespace

Result<std::vector<double>> crossings_with_surface(const SplineCurve& curve, const SurfaceSet& surface,
                                                   const Run& run) {
    std::vector<Met> found;
    const std::vector<CurveBay> bays = bays_of(curve);
    for (const SplinePatch& patch : surface.patches) {
        Crossings crossings(curve, patch, found);
        for (const CurveBay& bay : bays) {
            if (run.cancelled()) return cancelled_error();
            if (Status looked = crossings.look_along(bay); !looked) return looked.error();
        }
    }
    return distinct(std::move(found), curve.basis());
}

}  // namespace plume

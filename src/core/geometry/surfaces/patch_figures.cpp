#include "core/geometry/surfaces/patch_figures.hpp"

#include <algorithm>
#include <array>
#include <cmath>

#include "core/base/parallel.hpp"
#include "core/geometry/curves/curve_figures.hpp"
#include "core/geometry/curves/curve_sampling.hpp"
#include "core/geometry/curves/spline_basis.hpp"
#include "core/geometry/measures/gauss_points.hpp"
#include "core/geometry/surfaces/patch_edit.hpp"
#include "core/geometry/surfaces/patch_evaluator.hpp"
#include "core/geometry/surfaces/trim_cells.hpp"
#include "core/geometry/surfaces/trimming.hpp"

namespace plume {
namespace {

using Sums = std::array<double, 8>;  // area, volume, moment, second

Sums integrand(const SurfacePoint& at, Vec3 origin) {
    const Vec3 normal = cross(at.along_u, at.along_v), place = at.position - origin;
    return {length(normal),
            dot(place, normal) / 3,
            place.x * place.x * normal.x / 2,
            place.y * place.y * normal.y / 2,
            place.z * place.z * normal.z / 2,
            place.x * place.x * place.x * normal.x / 3,
            place.y * place.y * place.y * normal.y / 3,
            place.z * place.z * place.z * normal.z / 3};
}

void add(Sums& sums, const Sums& more, double weight) {
    for (std::size_t at = 0; at < sums.size(); ++at)
        sums[at] += more[at] * weight;
}

PatchFigures figures_from(const Sums& sums) {
    return {sums[0], sums[1], {sums[2], sums[3], sums[4]}, {sums[5], sums[6], sums[7]}};
}

// Points of a direction and their weights, between neighbouring breaks.
struct Rule {
    std::vector<double> at, weights;
};
Rule rule_between(const std::vector<double>& breaks, const GaussPoints& points, std::size_t parts = 1) {
    Rule rule;
    for (std::size_t bay = 0; bay + 1 < breaks.size(); ++bay) {
        const double width = (breaks[bay + 1] - breaks[bay]) / static_cast<double>(parts);
        for (std::size_t part = 0; part < parts; ++part)
            for (std::size_t point = 0; point < points.at.size(); ++point) {
                rule.at.push_back(breaks[bay] + width * (static_cast<double>(part) + points.at[point]));
                rule.weights.push_back(width * points.weights[point]);
            }
    }
    return rule;
}

// A patch of few bays may bend much in each.
std::size_t parts_of(std::size_t bays) {
    return bays <= 16 ? 2 : 1;
}

// Enough for the moments of a polynomial patch; of patches with very many bays, which bend little in each,
// enough for ten digits.
std::size_t order_of(const SplineBasis& basis, bool rational, std::size_t bays) {
    const auto degree = static_cast<std::size_t>(basis.degree);
    if (bays > 2000) return degree + (rational ? 2 : 0);
    if (bays > 400) return degree + (rational ? 3 : 1);
    return 2 * degree + (rational || bays <= 16 ? 8 : 2);
}

Result<Sums> whole(const SplinePatch& patch, Vec3 origin, const Run& run) {
    const std::vector<double> breaks_u = knot_breaks(patch.u()), breaks_v = knot_breaks(patch.v());
    const std::size_t bays = (breaks_u.size() - 1) * (breaks_v.size() - 1);
    const std::size_t parts = parts_of(bays);
    const Rule u = rule_between(breaks_u, gauss_points(order_of(patch.u(), patch.rational(), bays)), parts);
    const Rule v = rule_between(breaks_v, gauss_points(order_of(patch.v(), patch.rational(), bays)), parts);
    std::vector<Sums> rows(v.at.size(), Sums{});
    const auto each = [&](std::size_t a, std::size_t b, const SurfacePoint& point) {
        add(rows[b], integrand(point, origin), u.weights[a] * v.weights[b]);
    };
    if (!visit_points(patch, u.at, v.at, each, run)) return cancelled_error();
    Sums sums{};
    for (const Sums& row : rows)
        add(sums, row, 1);
    return sums;
}

// Parameters between which the integrand along a trim is smooth.
std::vector<double> smooth_stretches(const SplinePatch& patch, const SplineCurve& trim) {
    std::vector<double> breaks = knot_breaks(trim.basis());
    for (const KnotCrossing& crossing : knot_crossings(patch, trim))
        breaks.push_back(crossing.parameter);
    std::ranges::sort(breaks);
    breaks.erase(std::unique(breaks.begin(), breaks.end()), breaks.end());
    return breaks;
}

// Points between two breaks of a trim: fewer where there are many, which bend little between.
std::size_t order_along(const SplineCurve& trim, std::size_t stretches) {
    if (stretches > 32) return 4;
    return 2 * static_cast<std::size_t>(trim.basis().degree) + (trim.rational() ? 10 : 4);
}

// Integrals over lines of one v, from the left of a trim to it.
class LeftOf {
public:
    LeftOf(const SplinePatch& patch, Vec3 origin)
        : surface_(patch), breaks_(knot_breaks(patch.u())), origin_(origin) {
        const std::size_t bays = (breaks_.size() - 1) * (knot_breaks(patch.v()).size() - 1);
        points_ = gauss_points(order_of(patch.u(), patch.rational(), bays));
        parts_ = parts_of(bays);
        if (!is_parallelogram(patch)) return;
        // Nothing is of a higher degree than three there, which two points integrate exactly.
        points_ = gauss_points(2);
        parts_ = 1;
    }
    Sums between(double left, Vec3 at) const {
        std::vector<double> breaks{left};
        for (const double knot : breaks_)
            if (knot > left && knot < at.x) breaks.push_back(knot);
        breaks.push_back(at.x);
        const Rule rule = rule_between(breaks, points_, parts_);
        const std::vector<SurfacePoint> points =
            surface_.at(rule.at, std::vector<double>(rule.at.size(), at.y));
        Sums sums{};
        for (std::size_t step = 0; step < points.size(); ++step)
            add(sums, integrand(points[step], origin_), rule.weights[step]);
        return sums;
    }

private:
    PatchEvaluator surface_;
    std::vector<double> breaks_;
    Vec3 origin_;
    GaussPoints points_;
    std::size_t parts_ = 1;
};

// Along a trim, what lies left of it times how far it rises (Green's theorem).
Result<Sums> inside_trim(const SplinePatch& patch, const LeftOf& left_of, const SplineCurve& trim,
                         const Run& run) {
    const std::vector<double> breaks = smooth_stretches(patch, trim);
    const Rule along = rule_between(breaks, gauss_points(order_along(trim, breaks.size() - 1)));
    // Any line left of a closed curve will do to begin at.
    const double left = std::ranges::min(trim.x().span());
    std::vector<Sums> parts(along.at.size(), Sums{});
    const bool done = parallel_blocks(parts.size(), 64, run, [&](std::size_t begin, std::size_t end) {
        for (std::size_t at = begin; at < end; ++at) {
            const CurvePoint point = evaluate(trim, along.at[at]);
            if (point.along.y == 0) continue;
            add(parts[at], left_of.between(left, point.position), along.weights[at] * point.along.y);
        }
    });
    if (!done) return cancelled_error();
    Sums sums{};
    for (const Sums& part : parts)
        add(sums, part, 1);
    return sums;
}

Result<Sums> inside_trims(const SplinePatch& patch, Vec3 origin, const Run& run) {
    const LeftOf left_of(patch, origin);
    const std::vector<double> turns = trim_turns(patch);
    Sums sums{};
    for (std::size_t trim = 0; trim < patch.trims().size(); ++trim) {
        const SplineCurve& curve = patch.trims()[trim];
        const bool rim = is_whole_rim(patch, curve);
        const Result<Sums> one = rim ? whole(patch, origin, run) : inside_trim(patch, left_of, curve, run);
        if (!one) return one.error();
        add(sums, *one, rim ? 1 : turns[trim]);
    }
    return sums;
}

}  // namespace

TrimSides::TrimSides(const SplinePatch& patch) {
    for (const SplineCurve& trim : patch.trims())
        loops_.push_back(sample(trim, usual_tolerance(trim)).points);
}

bool TrimSides::is_inside(std::size_t trim, double u, double v) const {
    return is_in_loop(loops_[trim], u, v);
}

bool TrimSides::is_on(double u, double v) const {
    const auto near = [&](Vec3 from, Vec3 to) {
        const Vec3 way = to - from, off = Vec3{u, v, 0} - from;
        const double share = std::clamp(dot(off, way) / std::max(dot(way, way), 1e-300), 0.0, 1.0);
        return length(off - way * share) <= 1e-9 * (length(way) + length(from) + length(to));
    };
    for (const std::vector<Vec3>& loop : loops_)
        for (std::size_t at = 0; at < loop.size(); ++at)
            if (near(loop[at], loop[(at + 1) % loop.size()])) return true;
    return false;
}

bool TrimSides::hold(double u, double v) const {
    if (is_on(u, v)) return true;
    std::size_t around = 0;
    for (std::size_t trim = 0; trim < loops_.size(); ++trim)
        around += is_inside(trim, u, v) ? 1 : 0;
    return loops_.empty() || around % 2 == 1;
}

std::vector<double> trim_turns(const SplinePatch& patch) {
    const TrimSides sides(patch);
    std::vector<double> turns;
    for (std::size_t trim = 0; trim < patch.trims().size(); ++trim) {
        const SplineCurve& curve = patch.trims()[trim];
        const Vec3 place = start_of(curve);
        std::size_t depth = 0;
        for (std::size_t other = 0; other < patch.trims().size(); ++other)
            if (other != trim && sides.is_inside(other, place.x, place.y)) ++depth;
        const double own = area_vector(curve).z > 0 ? 1 : -1;
        turns.push_back(depth % 2 == 0 ? own : -own);
    }
    return turns;
}

Result<PatchFigures> figures_of(const SplinePatch& patch, Vec3 origin, const Run& run) {
    const Result<Sums> sums = patch.trimmed() ? inside_trims(patch, origin, run) : whole(patch, origin, run);
    if (!sums) return sums.error();
    return figures_from(*sums);
}

Result<double> area_of(const SurfaceSet& set, const Run& run) {
    double area = 0;
    for (const SplinePatch& patch : set.patches) {
        const auto one = figures_of(patch, {}, run);
        if (!one) return one.error();
        area += one->area;
    }
    return area;
}

}  // namespace plume

#include "core/geometry/curves/mapped_curve.hpp"

#include <algorithm>
#include <numeric>

#include "core/geometry/curves/curve_edit.hpp"
#include "core/geometry/curves/curve_interpolation.hpp"
#include "core/geometry/curves/curve_rebuild.hpp"
#include "core/geometry/curves/curve_sampling.hpp"
#include "core/geometry/curves/spline_system.hpp"

namespace plume {
namespace {

constexpr int most_rounds = 9;
constexpr std::size_t width = 3;

Result<SplineCurve> through(const SplineBasis& basis, const BandedSolver& solver, const CurvePlace& place) {
    Doubles rows;
    for (const double node : basis.nodes) {
        const auto at = place(node);
        if (!at) return at.error();
        rows.insert(rows.end(), {at->x, at->y, at->z});
    }
    solver.solve(rows.data(), width);
    SplineBasis over = basis;
    over.nodes.clear();
    return SplineCurve::make({std::move(over),
                              channel_of(rows, width, 0),
                              channel_of(rows, width, 1),
                              channel_of(rows, width, 2),
                              {},
                              {}});
}

// How far a curve stands off; the middles at which it is too far are added to `more`.
Result<double> deviation_of(const SplineCurve& curve, const CurvePlace& place, double tolerance,
                            std::vector<double>& more) {
    double worst = 0;
    for (const double middle : knot_middles(curve.basis())) {
        const auto wanted = place(middle);
        if (!wanted) return wanted.error();
        const double apart = length(evaluate(curve, middle).position - *wanted);
        worst = std::max(worst, apart);
        if (apart > tolerance) more.push_back(middle);
    }
    return worst;
}

// The sum of its weights at a parameter, by which its places are divided, as x of a curve.
SplineCurve weight_of(const SplineCurve& curve) {
    const Doubles zeros(curve.x().size(), 0.0);
    return *SplineCurve::make({curve.basis(), curve.weights(), zeros, zeros, {}, {}});
}

constexpr std::size_t most_points = 1'000'000;  // of a polyline
constexpr std::size_t least_bays = 4;           // between two knots

// A bay whose ends stay apart however close their parameters come.
struct Jump {
    Vec3 from, to;
};
Result<Jump> closest_ends(const CurvePlace& map, double from, double to, Vec3 start, Vec3 end) {
    for (double middle = std::midpoint(from, to); from < middle && middle < to;
         middle = std::midpoint(from, to)) {
        const auto at = map(middle);
        if (!at) return at.error();
        const bool first_half = length(*at - start) > length(end - *at);
        (first_half ? to : from) = middle;
        (first_half ? end : start) = *at;
    }
    return Jump{start, end};
}

// The places of a map between two knots, both ends of a jump among them; adds to `points`.
Result<double> add_places(const CurvePlace& map, double from, double to, double tolerance,
                          std::vector<Vec3>& points, const Run& run) {
    const CurveFunction all = [&](const std::vector<double>& parameters) -> Result<std::vector<Vec3>> {
        std::vector<Vec3> places;
        for (const double t : parameters) {
            const auto place = map(t);
            if (!place) return place.error();
            places.push_back(*place);
        }
        return places;
    };
    const auto samples = sample_function(all, from, to, tolerance, least_bays, most_points, run);
    if (!samples) return samples.error();
    double jump = 0;
    for (std::size_t at = 0; at < samples->points.size(); ++at) {
        if (at > 0) {
            const Vec3 start = samples->points[at - 1], end = samples->points[at];
            const double t = samples->parameters[at - 1], next = samples->parameters[at];
            const auto middle = map(std::midpoint(t, next));
            if (!middle) return middle.error();
            // Where places run evenly the middle lies between the ends.
            if (length(*middle - (start + end) * 0.5) > std::max(tolerance, length(end - start) / 8)) {
                const auto found = closest_ends(map, t, next, start, end);
                if (!found) return found.error();
                if (const double apart = length(found->to - found->from); apart > tolerance) {
                    points.insert(points.end(), {found->from, found->to});
                    jump = std::max(jump, apart);
                }
            }
        }
        points.push_back(samples->points[at]);
    }
    return jump;
}

}  // namespace

Result<MappedCurves> mapped_curves(const SplineCurve& curve, std::span<const CurvePlace> maps,
                                   double tolerance_abs, const Run& run) {
    SplineCurve over = raised(changed(curve, opened(curve.basis())), 3);
    for (int round = 0;; ++round) {
        if (run.cancelled()) return cancelled_error();
        const SplineBasis basis = with_nodes_at_means(over.basis());
        const auto solver = collocation(basis, "curve");
        if (!solver) return solver.error();
        MappedCurves made{over, {}, 0};
        std::vector<double> more;
        for (const CurvePlace& map : maps) {
            Result<SplineCurve> one = through(basis, *solver, map);
            if (!one) return one.error();
            const auto apart = deviation_of(*one, map, tolerance_abs, more);
            if (!apart) return apart.error();
            made.deviation = std::max(made.deviation, *apart);
            made.curves.push_back(*std::move(one));
        }
        if (more.empty() || round == most_rounds) {
            if (!curve.closed()) return made;
            made.over = closed_up(made.over);
            for (SplineCurve& one : made.curves)
                one = closed_up(one);
            return made;
        }
        std::ranges::sort(more);
        more.erase(std::unique(more.begin(), more.end()), more.end());
        over = changed(over, refined(over.basis(), more));
    }
}

Result<MappedLine> mapped_line(const SplineCurve& curve, const CurvePlace& map, double tolerance_abs,
                               const Run& run) {
    const std::vector<double> knots = knot_breaks(curve.basis());
    CurvePoints line;
    line.closed = curve.closed();
    double jump = 0;
    for (std::size_t span = 0; span + 1 < knots.size(); ++span) {
        const auto far = add_places(map, knots[span], knots[span + 1], tolerance_abs / 2, line.points, run);
        if (!far) return far.error();
        jump = std::max(jump, *far);
    }
    if (line.closed) line.points.pop_back();
    const auto through = curve_through(std::move(line), CurveShape::straight);
    if (!through) return through.error();
    auto simple = simplified(*through, tolerance_abs / 2, run);
    if (!simple) return simple.error();
    return MappedLine{std::move(simple->curve), jump};
}

Result<CurveImage> image_of(const SplineCurve& curve, const CurvePlace& map, double tolerance_abs,
                            const Run& run) {
    if (!curve.rational()) {
        auto made = mapped_curves(curve, std::span(&map, 1), tolerance_abs, run);
        if (!made) return made.error();
        return CurveImage{made->over, with_fields(made->curves.front(), made->over.fields()),
                          made->deviation};
    }
    // With equal weights the image's places times the weight are a spline over the basis, not the image.
    const SplineCurve weight = weight_of(curve);
    const CurvePlace weighted = [&](double t) -> Result<Vec3> {
        const auto place = map(t);
        if (!place) return place.error();
        return *place * evaluate(weight, t).position.x;
    };
    const double least = *std::ranges::min_element(curve.weights().span());
    auto made = mapped_curves(curve, std::span(&weighted, 1), tolerance_abs * least, run);
    if (!made) return made.error();
    const SplineCurve &over = made->over, &top = made->curves.front();
    std::size_t at = 0;
    Result<SplineCurve> to = with_poles(over, [&](Vec3) {
        const std::size_t pole = at++;
        return top.pole(pole) * (1 / over.weight(pole));
    });
    if (!to) return to.error();
    return CurveImage{over, *std::move(to), made->deviation / least};
}

}  // namespace plume

#include "core/geometry/curves/mapped_curve.hpp"

#include <algorithm>

#include "core/geometry/curves/curve_edit.hpp"
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

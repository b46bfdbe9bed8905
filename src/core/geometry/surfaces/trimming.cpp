#include "core/geometry/surfaces/trimming.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>
#include <numeric>
#include <optional>

#include "core/geometry/curves/curve_crossings.hpp"
#include "core/geometry/curves/curve_edit.hpp"
#include "core/geometry/curves/curve_figures.hpp"
#include "core/geometry/curves/curve_interpolation.hpp"
#include "core/geometry/curves/curve_sampling.hpp"
#include "core/geometry/curves/mapped_curve.hpp"
#include "core/geometry/surfaces/patch_edit.hpp"
#include "core/geometry/surfaces/patch_evaluator.hpp"
#include "core/geometry/surfaces/patch_figures.hpp"
#include "core/geometry/surfaces/trim_loops.hpp"
#include "core/geometry/surfaces/trimmed_domain.hpp"

namespace plume {
namespace {

// A coordinate of the parameters: x of trims runs along u, y along v.
const Column& along(const SplineCurve& loop, int direction) {
    return direction == 0 ? loop.x() : loop.y();
}

// Between the poles of a curve: it reaches no further.
std::pair<double, double> reach(const SplineCurve& curve, int direction) {
    const auto [least, most] = std::ranges::minmax(along(curve, direction).span());
    return {least, most};
}

// A parameter that no curve passes, whole turns aside; the start of the direction where there is none.
double seam_beside(const SplineBasis& basis, const TrimCurves& curves, int direction) {
    const double period = basis.end() - basis.start();
    const auto is_free = [&](double seam) {
        return std::ranges::none_of(curves, [&](const SplineCurve& curve) {
            const auto [low, high] = reach(curve, direction);
            return std::floor((high - seam) / period) != std::floor((low - seam) / period);
        });
    };
    if (is_free(basis.start())) return basis.start();
    constexpr int probes = 256;
    for (int probe = 1; probe < probes; ++probe)
        if (const double seam = basis.start() + period * probe / probes; is_free(seam)) return seam;
    return basis.start();
}

// In pieces where it passes the seam, each turned into the range behind that.
void add_turned(const SplineCurve& curve, int direction, double seam, double period, TrimCurves& turned) {
    const auto [low, high] = reach(curve, direction);
    std::vector<double> cuts;
    for (double at = seam + std::ceil((low - seam) / period) * period; at < high; at += period) {
        const std::vector<double> roots = crossings_with_coordinate(curve, direction, at);
        cuts.insert(cuts.end(), roots.begin(), roots.end());
    }
    for (const SplineCurve& piece : split_at(curve, cuts)) {
        const Vec3 middle =
            evaluate(piece, std::midpoint(piece.basis().start(), piece.basis().end())).position;
        const double at = direction == 0 ? middle.x : middle.y;
        const double by = -std::floor((at - seam) / period) * period;
        turned.push_back(*with_poles(piece, [&](Vec3 pole) {
            return pole + (direction == 0 ? Vec3{by, 0, 0} : Vec3{0, by, 0});
        }));
    }
}

struct Opened {
    SplinePatch patch;
    TrimCurves curves;
};
// A closed direction opened beside the curves, or across them, which are turned into its range.
Opened opened_beside(const SplinePatch& patch, TrimCurves curves) {
    SplinePatch open = patch;
    for (const int direction : {0, 1}) {
        const SplineBasis& basis = basis_along(patch, direction);
        if (!basis.closed) continue;
        const double period = basis.end() - basis.start(), seam = seam_beside(basis, curves, direction);
        open = part_of(open, direction, seam, seam + period);
        TrimCurves turned;
        for (const SplineCurve& curve : curves)
            add_turned(curve, direction, basis_along(open, direction).start(), period, turned);
        curves = std::move(turned);
    }
    return {open, std::move(curves)};
}

SplineCurve rim_of(const SplinePatch& patch) {
    const SplineBasis &u = patch.u(), &v = patch.v();
    CurvePoints corners;
    corners.closed = true;
    corners.points = {
        {u.start(), v.start(), 0}, {u.end(), v.start(), 0}, {u.end(), v.end(), 0}, {u.start(), v.end(), 0}};
    return *curve_through(corners, CurveShape::straight);
}

// Which loops a place of a patch lies in.
class Nesting {
public:
    Nesting(const SplinePatch& patch, const TrimCurves& loops) : sides_(with_trims(patch, loops)) {
        for (const SplineCurve& loop : loops)
            places_.push_back(start_of(loop));
    }
    bool is_inside(std::size_t inner, std::size_t outer) const {
        return inner != outer && sides_.is_inside(outer, places_[inner].x, places_[inner].y);
    }
    // In how many of the loops `begin` to `end`, itself aside.
    std::size_t depth(std::size_t inner, std::size_t begin, std::size_t end) const {
        std::size_t depth = 0;
        for (std::size_t outer = begin; outer < end; ++outer)
            depth += is_inside(inner, outer) ? 1 : 0;
        return depth;
    }

private:
    TrimSides sides_;
    std::vector<Vec3> places_;
};

// A patch for each loop with an even number around it, with the loops directly inside of it.
std::vector<SplinePatch> pieces_within(const SplinePatch& patch, const TrimCurves& loops) {
    const Nesting nesting(patch, loops);
    std::vector<std::size_t> depths;
    for (std::size_t loop = 0; loop < loops.size(); ++loop)
        depths.push_back(nesting.depth(loop, 0, loops.size()));
    std::vector<SplinePatch> pieces;
    for (std::size_t outer = 0; outer < loops.size(); ++outer) {
        if (depths[outer] % 2 == 1) continue;
        TrimCurves trims{loops[outer]};
        for (std::size_t inner = 0; inner < loops.size(); ++inner)
            if (depths[inner] == depths[outer] + 1 && nesting.is_inside(inner, outer))
                trims.push_back(loops[inner]);
        pieces.push_back(with_trims(patch, std::move(trims)));
    }
    return pieces;
}

// As finely as loops are looked at to find whether they cross.
constexpr std::size_t places_round_loops = 64;

}  // namespace

SplinePatch with_trims(const SplinePatch& patch, std::vector<SplineCurve> trims) {
    SplinePatch::Parts parts = patch.parts();
    parts.trims = std::move(trims);
    return *SplinePatch::make(std::move(parts));
}

bool is_whole_rim(const SplinePatch& patch, const SplineCurve& trim) {
    const SplineBasis &u = patch.u(), &v = patch.v();
    const double range_u = u.end() - u.start(), range_v = v.end() - v.start();
    const auto at_end = [](double at, const SplineBasis& basis) {
        const double hardly = 1e-12 * (basis.end() - basis.start());
        return std::abs(at - basis.start()) <= hardly || std::abs(at - basis.end()) <= hardly;
    };
    for (std::size_t pole = 0; pole < trim.x().size(); ++pole)
        if (!at_end(trim.x()[pole], u) && !at_end(trim.y()[pole], v)) return false;
    return std::abs(std::abs(area_vector(trim).z) - range_u * range_v) <= 1e-9 * range_u * range_v;
}

Result<std::vector<SplinePatch>> trimmed(const SplinePatch& patch, const std::vector<Cast>& casts,
                                         TrimSide keep, const Run& run) {
    const Error nothing_left{ErrorCode::empty_input, "", "leaves nothing of the surface",
                             "Keep the other side."};
    TrimCurves all;
    for (const Cast& cast : casts)
        all.insert(all.end(), cast.curves.begin(), cast.curves.end());
    const auto in_cut = [&](double u, double v) {
        return std::ranges::count_if(casts, [&](const Cast& cast) { return cast.holds(u, v); }) % 2 == 1;
    };
    if (all.empty()) {
        if (in_cut(patch.u().start(), patch.v().start()) != (keep == TrimSide::inside)) return nothing_left;
        return std::vector<SplinePatch>{patch};
    }
    const Opened opened = opened_beside(patch, std::move(all));
    const SplinePatch& open = opened.patch;
    const auto kept = bounding_loops(open.trimmed() ? open : with_trims(open, {rim_of(open)}), opened.curves,
                                     in_cut, keep, run);
    if (!kept) return kept.error();
    if (kept->empty()) return nothing_left;
    // Triangles over the loops are made only where none of them cross.
    const SplinePatch laid = with_trims(open, *kept);
    if (const auto domain = trimmed_domain(laid, pieces_round(laid, places_round_loops), {}, {}, run);
        !domain)
        return domain.error();
    return pieces_within(open, *kept);
}

namespace {

// Where a coordinate of a piece without inner knots is a number.
void add_crossings(const SplineCurve& piece, int direction, double number, int smooth,
                   std::vector<KnotCrossing>& crossings) {
    // Hardly beside a knot it is meant to be at it: two would have nothing but rounding between them.
    const double start = piece.basis().start(), end = piece.basis().end();
    const double hardly = 1e-7 * (end - start);
    for (const double root : crossings_with_coordinate(piece, direction, number))
        crossings.push_back({root - start < hardly ? start : end - root < hardly ? end : root, smooth});
}

}  // namespace

std::vector<KnotCrossing> knot_crossings(const SplinePatch& patch, const SplineCurve& trim) {
    std::vector<KnotCrossing> crossings;
    const std::vector<double> breaks = knot_breaks(trim.basis());
    const auto degree = static_cast<std::size_t>(trim.basis().degree);
    for (const int direction : {0, 1}) {
        const SplineBasis& basis = basis_along(patch, direction);
        std::vector<double> knots = knot_breaks(basis);
        knots = {knots.begin() + 1, knots.end() - 1};
        for (std::size_t bay = 0; bay + 1 < breaks.size() && !knots.empty(); ++bay) {
            // Between its poles the piece reaches no further.
            const std::size_t first = span_at(trim.basis(), breaks[bay]) - degree;
            const auto poles = along(trim, direction).span().subspan(first, degree + 1);
            const auto [least, most] = std::ranges::minmax(poles);
            auto knot = std::ranges::upper_bound(knots, least);
            if (knot == knots.end() || *knot >= most) continue;
            const SplineCurve piece = part_of(trim, breaks[bay], breaks[bay + 1]);
            for (; knot != knots.end() && *knot < most; ++knot)
                add_crossings(piece, direction, *knot, basis.degree - multiplicity_at(basis, *knot),
                              crossings);
        }
    }
    return crossings;
}

namespace {

// Of degree 3 or more, with knots where the patches have theirs.
SplineCurve with_knots_of(std::span<const SplinePatch> patches, const SplineCurve& trim) {
    const SplineCurve open = raised(changed(trim, opened(trim.basis())), 3);
    std::vector<double> more;
    for (std::size_t at = 0; at < patches.size(); ++at) {
        const SplinePatch& patch = patches[at];
        const bool same = at > 0 && patch.u().knots == patches[at - 1].u().knots &&
                          patch.v().knots == patches[at - 1].v().knots;
        if (same) continue;
        for (const KnotCrossing& crossing : knot_crossings(patch, open)) {
            const auto stands = static_cast<int>(std::ranges::count(more, crossing.parameter));
            const int wanted = open.basis().degree - std::max(crossing.smooth, 0) - stands;
            more.insert(more.end(), static_cast<std::size_t>(std::max(wanted, 0)), crossing.parameter);
        }
    }
    return closed_up(changed(open, refined(open.basis(), more)));
}

}  // namespace

Result<LiftedTrim> lifted(std::span<const SplinePatch> patches, const SplineCurve& trim, double tolerance_abs,
                          const Run& run) {
    const SplineCurve over = with_knots_of(patches, trim);
    std::vector<CurvePlace> maps;
    for (const SplinePatch& patch : patches)
        maps.emplace_back([&over, evaluator = PatchEvaluator(patch)](double t) -> Result<Vec3> {
            const Vec3 at = evaluate(over, t).position;
            return evaluator.at(at.x, at.y).position;
        });
    auto made = mapped_curves(over, maps, tolerance_abs, run);
    if (!made) return made.error();
    return LiftedTrim{made->over, std::move(made->curves), made->deviation};
}

}  // namespace plume

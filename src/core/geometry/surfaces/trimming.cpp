#include "core/geometry/surfaces/trimming.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>
#include <optional>

#include "core/geometry/curves/curve_edit.hpp"
#include "core/geometry/curves/curve_figures.hpp"
#include "core/geometry/curves/curve_interpolation.hpp"
#include "core/geometry/curves/curve_sampling.hpp"
#include "core/geometry/curves/mapped_curve.hpp"
#include "core/geometry/curves/spline_roots.hpp"
#include "core/geometry/surfaces/patch_edit.hpp"
#include "core/geometry/surfaces/patch_evaluator.hpp"
#include "core/geometry/surfaces/patch_figures.hpp"
#include "core/geometry/surfaces/trimmed_domain.hpp"

namespace plume {
namespace {

using Loops = std::vector<SplineCurve>;

// A coordinate of the parameters: x of trims runs along u, y along v.
const Column& along(const SplineCurve& loop, int direction) {
    return direction == 0 ? loop.x() : loop.y();
}

SplineCurve moved(const SplineCurve& loop, int direction, double by) {
    Doubles numbers(along(loop, direction).span().begin(), along(loop, direction).span().end());
    for (double& number : numbers)
        number += by;
    SplineCurve::Parts parts{loop.basis(), loop.x(), loop.y(), loop.z(), loop.weights(), {}};
    (direction == 0 ? parts.x : parts.y) = std::move(numbers);
    return *SplineCurve::make(std::move(parts));
}

// Between the poles of a loop: it reaches no further.
std::pair<double, double> reach(const SplineCurve& loop, int direction) {
    const auto [least, most] = std::ranges::minmax(along(loop, direction).span());
    return {least, most};
}

// A parameter that no loop passes, whole turns aside.
std::optional<double> free_seam(const SplineBasis& basis, const Loops& loops, int direction) {
    const double period = basis.end() - basis.start();
    const auto is_free = [&](double seam) {
        return std::ranges::none_of(loops, [&](const SplineCurve& loop) {
            const auto [low, high] = reach(loop, direction);
            return std::floor((high - seam) / period) != std::floor((low - seam) / period);
        });
    };
    if (is_free(basis.start())) return basis.start();
    constexpr int probes = 256;
    for (int probe = 1; probe < probes; ++probe)
        if (const double seam = basis.start() + period * probe / probes; is_free(seam)) return seam;
    return {};
}

struct Opened {
    SplinePatch patch;
    Loops loops;
};
// A closed direction opened beside the loops, which are turned into its range.
Result<Opened> opened_beside(const SplinePatch& patch, Loops loops) {
    SplinePatch open = patch;
    for (const int direction : {0, 1}) {
        const SplineBasis& basis = basis_along(patch, direction);
        if (!basis.closed) continue;
        const auto seam = free_seam(basis, loops, direction);
        if (!seam)
            return Error{ErrorCode::unlike_arrangement, "", "leaves nowhere to open the closed surface",
                         "Cut it by fewer outlines, or take a part of it first."};
        const double period = basis.end() - basis.start();
        open = part_of(open, direction, *seam, *seam + period);
        for (SplineCurve& loop : loops) {
            const double start = basis_along(open, direction).start();
            loop =
                moved(loop, direction, -std::floor((reach(loop, direction).first - start) / period) * period);
        }
    }
    return Opened{open, std::move(loops)};
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
    Nesting(const SplinePatch& patch, const Loops& loops) : sides_(with_trims(patch, loops)) {
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

// The loops that bound what is kept: those of the patch inside of the cut's region, or outside of it, and
// those of the cut where the patch is.
Loops bounding(const SplinePatch& patch, const Loops& old, const Loops& cuts, TrimSide keep) {
    Loops all = old;
    all.insert(all.end(), cuts.begin(), cuts.end());
    const Nesting nesting(patch, all);
    Loops kept;
    for (std::size_t loop = 0; loop < all.size(); ++loop) {
        const bool is_old = loop < old.size();
        const bool in_other = is_old ? nesting.depth(loop, old.size(), all.size()) % 2 == 1
                                     : nesting.depth(loop, 0, old.size()) % 2 == 1;
        if (in_other == (!is_old || keep == TrimSide::inside)) kept.push_back(all[loop]);
    }
    return kept;
}

// A patch for each loop with an even number around it, with the loops directly inside of it.
std::vector<SplinePatch> pieces_within(const SplinePatch& patch, const Loops& loops) {
    const Nesting nesting(patch, loops);
    std::vector<std::size_t> depths;
    for (std::size_t loop = 0; loop < loops.size(); ++loop)
        depths.push_back(nesting.depth(loop, 0, loops.size()));
    std::vector<SplinePatch> pieces;
    for (std::size_t outer = 0; outer < loops.size(); ++outer) {
        if (depths[outer] % 2 == 1) continue;
        Loops trims{loops[outer]};
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

Result<std::vector<SplinePatch>> trimmed(const SplinePatch& patch, const std::vector<SplineCurve>& loops,
                                         TrimSide keep, const Run& run) {
    auto opened = opened_beside(patch, loops);
    if (!opened) return opened.error();
    const SplinePatch& open = opened->patch;
    const Loops old = open.trimmed() ? open.trims() : Loops{rim_of(open)};
    Loops all = old;
    all.insert(all.end(), opened->loops.begin(), opened->loops.end());
    // Triangles over all loops are made only where none of them cross.
    const SplinePatch laid = with_trims(open, all);
    if (const auto domain = trimmed_domain(laid, pieces_round(laid, places_round_loops), {}, {}, run);
        !domain)
        return domain.error();
    const Loops kept = bounding(open, old, opened->loops, keep);
    if (kept.empty())
        return Error{ErrorCode::empty_input, "", "leaves nothing of the surface", "Keep the other side."};
    return pieces_within(open, kept);
}

namespace {

// Where a coordinate of a piece without inner knots is a number.
void add_crossings(const SplineCurve& piece, int direction, double number, int smooth,
                   std::vector<KnotCrossing>& crossings) {
    std::vector<double> poles;
    for (std::size_t pole = 0; pole < piece.x().size(); ++pole)
        poles.push_back((along(piece, direction)[pole] - number) * piece.weight(pole));
    // Hardly beside a knot it is meant to be at it: two would have nothing but rounding between them.
    const double start = piece.basis().start(), end = piece.basis().end();
    const double hardly = 1e-7 * (end - start);
    for (const double root : roots_of(piece.basis(), poles))
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

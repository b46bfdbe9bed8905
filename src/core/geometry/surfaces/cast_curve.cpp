#include "core/geometry/surfaces/cast_curve.hpp"

#include <algorithm>
#include <cmath>
#include <numeric>
#include <optional>

#include "core/base/numbers.hpp"
#include "core/data/place_text.hpp"
#include "core/geometry/curves/curve_crossings.hpp"
#include "core/geometry/curves/curve_edit.hpp"
#include "core/geometry/curves/curve_interpolation.hpp"
#include "core/geometry/curves/curve_sampling.hpp"
#include "core/geometry/curves/spline_basis.hpp"
#include "core/geometry/surfaces/patch_edit.hpp"
#include "core/geometry/surfaces/trim_cells.hpp"

namespace plume {
namespace {

// Of the patch's size: how true the curves are.
constexpr double true_share = 1e-7;
constexpr std::size_t most_bays = 4096;
// Of the usual tolerance: how near the polygon is that says what lies inside.
constexpr double finely = 0.01;

Error over_fold(Vec3 place) {
    return {ErrorCode::out_of_range, "", "runs over a fold of the surface near " + place_text(place),
            "Let it pass where the surface is seen from one side, along the direction."};
}

Error along_rim(const SplineCurve& outline) {
    return {ErrorCode::unlike_arrangement, "",
            "runs along a rim of the surface, from " + place_text(start_of(outline)) + " on",
            "Let it reach beyond the rim, or stay inside of it."};
}

// The outline over the parameters, pole by pole: exact, weights and all.
SplineCurve mapped_evenly(const Shadow& shadow, const EvenShadow& even, const SplineCurve& outline) {
    return *with_poles(outline, [&](Vec3 place) {
        const Parameters at = even.parameters(shadow.flat(place));
        return Vec3{at.u, at.v, 0};
    });
}

double along(Vec3 place, int direction) {
    return direction == 0 ? place.x : place.y;
}

// Parameters at which a curve over the parameters of an open patch passes the lines where that ends.
std::vector<double> crossings_with_ends(const SplineCurve& curve, const SplinePatch& patch) {
    std::vector<double> found;
    for (const int direction : {0, 1}) {
        const SplineBasis& basis = basis_along(patch, direction);
        for (const double end : {basis.start(), basis.end()}) {
            const std::vector<double> roots = crossings_with_coordinate(curve, direction, end);
            found.insert(found.end(), roots.begin(), roots.end());
        }
    }
    return found;
}

Vec3 middle_of(const SplineCurve& curve) {
    return evaluate(curve, std::midpoint(curve.basis().start(), curve.basis().end())).position;
}

std::vector<SplineCurve> cast_evenly(const Shadow& shadow, const EvenShadow& even,
                                     const SplineCurve& outline) {
    const SplineCurve mapped = mapped_evenly(shadow, even, outline);
    std::vector<SplineCurve> within;
    for (const SplineCurve& piece : split_at(mapped, crossings_with_ends(mapped, shadow.patch()))) {
        const Vec3 at = middle_of(piece);
        const bool inside = [&] {
            for (const int direction : {0, 1}) {
                const SplineBasis& basis = basis_along(shadow.patch(), direction);
                const double hardly = 1e-9 * (basis.end() - basis.start());
                if (!(along(at, direction) > basis.start() + hardly &&
                      along(at, direction) < basis.end() - hardly))
                    return false;
            }
            return true;
        }();
        if (inside) within.push_back(piece);
    }
    return within;
}

// Follows an outline over the patch.
class Walk {
public:
    Walk(const Shadow& shadow, const SplineCurve& outline) : shadow_(shadow), outline_(outline) {}

    Vec3 place(double t) const { return evaluate(outline_, t).position; }
    // From the parameters under one place of the outline to those under a later one: in one stride where
    // that ends close to where it was aimed, in halves otherwise.
    std::optional<Parameters> onwards(double from, Parameters at, double to, int halvings = 0) const {
        constexpr int most_halvings = 24;
        const Flat start = shadow_.flat(place(from)), end = shadow_.flat(place(to));
        const auto way = shadow_.way(at, {end.x - start.x, end.y - start.y});
        if (way) {
            const Parameters aimed{at.u + way->u, at.v + way->v};
            const auto next = shadow_.place_under(end, aimed);
            const double stride = std::hypot(way->u, way->v);
            if (next && std::hypot(next->u - aimed.u, next->v - aimed.v) <= 0.5 * stride + 1e-12) return next;
        }
        if (halvings == most_halvings) return {};
        const double middle = std::midpoint(from, to);
        const auto half = onwards(from, at, middle, halvings + 1);
        return half ? onwards(middle, *half, to, halvings + 1) : std::nullopt;
    }

    struct Piece {
        SplineCurve curve;
        Parameters end;
    };
    // The cubic over the parameters between two of the outline; over all of it, where it is smooth, closed.
    Result<Piece> piece(double from, double to, Parameters start, bool closed, const Run& run) const {
        const bool straight = outline_.basis().degree == 1;
        for (std::size_t bays = straight ? 4 : 8;; bays *= 2) {
            if (run.cancelled()) return cancelled_error();
            CurvePoints points;
            points.closed = closed;
            Parameters at = start;
            for (std::size_t bay = 0; bay <= bays; ++bay) {
                const double t = std::lerp(from, to, static_cast<double>(bay) / static_cast<double>(bays));
                if (bay > 0) {
                    const auto next = onwards(points.parameters.back(), at, t);
                    if (!next) return over_fold(place(t));
                    at = *next;
                }
                points.parameters.push_back(t);
                if (bay < bays || !closed) points.points.push_back({at.u, at.v, 0});
            }
            if (closed && !returns(start, at)) return piece(from, to, start, false, run);
            Result<SplineCurve> curve = curve_through(points, CurveShape::smooth);
            if (!curve) return curve.error();
            const auto apart = deviation(*curve, points.parameters);
            if ((apart && *apart <= true_share * shadow_.size()) || bays >= most_bays)
                return Piece{*std::move(curve), at};
        }
    }

    bool returns(Parameters start, Parameters end) const {
        return shadow_.same(start, end) && std::abs(start.u - end.u) < 0.5 * range_of(shadow_.patch().u()) &&
               std::abs(start.v - end.v) < 0.5 * range_of(shadow_.patch().v());
    }

private:
    // How far, halfway between its points, a curve stands off in space from where it has to be.
    std::optional<double> deviation(const SplineCurve& curve, const std::vector<double>& parameters) const {
        double worst = 0;
        for (std::size_t bay = 0; bay + 1 < parameters.size(); ++bay) {
            const double t = std::midpoint(parameters[bay], parameters[bay + 1]);
            const Vec3 fitted = evaluate(curve, t).position;
            const auto true_one = shadow_.place_under(shadow_.flat(place(t)), {fitted.x, fitted.y});
            if (!true_one) return {};
            worst = std::max(worst, length(shadow_.place({fitted.x, fitted.y}) - shadow_.place(*true_one)));
        }
        return worst;
    }

    const Shadow& shadow_;
    const SplineCurve& outline_;
};

// Parameters at which an outline is not smooth, those of its ends among them.
std::vector<double> joints_of(const SplineCurve& outline) {
    const SplineBasis& basis = outline.basis();
    std::vector<double> joints;
    for (const double knot : knot_breaks(basis))
        if (multiplicity_at(basis, knot) >= std::max(1, basis.degree - 1)) joints.push_back(knot);
    return joints;
}

// What is walked over: a curve over the parameters, from one place to another.
struct Chain {
    SplineCurve curve;
    Parameters start, end;
};

// From a parameter of the outline to its end, joint by joint.
Result<Chain> chain_from(const Shadow& shadow, const SplineCurve& outline, double from, Parameters start,
                         const Run& run) {
    const Walk walk(shadow, outline);
    std::vector<double> stops = joints_of(outline);
    std::erase_if(stops, [&](double stop) { return stop <= from || stop >= outline.basis().end(); });
    stops.push_back(outline.basis().end());
    std::vector<SplineCurve> pieces;
    Parameters at = start;
    double last = from;
    for (const double stop : stops) {
        auto piece = walk.piece(last, stop, at, false, run);
        if (!piece) return piece.error();
        at = piece->end;
        last = stop;
        pieces.push_back(std::move(piece->curve));
    }
    return Chain{pieces.size() == 1 ? pieces.front() : end_to_end(pieces), start, at};
}

// All of an outline that crosses no rim; open where it runs round the patch.
Result<SplineCurve> cast_from(const Shadow& shadow, const SplineCurve& outline, Parameters start,
                              const Run& run) {
    const Walk walk(shadow, outline);
    const SplineBasis& basis = outline.basis();
    if (joints_of(outline).empty()) {
        auto whole = walk.piece(basis.start(), basis.end(), start, true, run);
        if (!whole) return whole.error();
        if (shadow.same(start, whole->end)) return std::move(whole->curve);
    }
    auto chain = chain_from(shadow, outline, basis.start(), start, run);
    if (!chain) return chain.error();
    if (!shadow.same(start, chain->end)) return over_fold(start_of(outline));
    return walk.returns(start, chain->end) ? closed_up(chain->curve) : chain->curve;
}

// A closed basis of knots that stand once is smooth at its seam too; any other begins at a joint.
SplineCurve begun_at_joint(const SplineCurve& outline) {
    const std::vector<double> joints = joints_of(outline);
    return joints.empty() ? outline : with_seam_at(outline, joints.front());
}

Result<std::vector<SplineCurve>> cast_whole(const Shadow& shadow, const SplineCurve& outline,
                                            const Run& run) {
    const SplineCurve begun = begun_at_joint(outline);
    std::vector<SplineCurve> casts;
    for (const Parameters start : shadow.places_under(shadow.flat(start_of(begun)))) {
        Result<SplineCurve> one = cast_from(shadow, begun, start, run);
        if (!one) return one.error();
        casts.push_back(*std::move(one));
    }
    return casts;
}

// Where the outline passes the shadows of the patch's rims.
Result<std::vector<double>> crossings_with_rims(const Shadow& shadow, const SplineCurve& outline,
                                                const Run& run) {
    const auto flattened = [&](const SplineCurve& curve) {
        return *with_poles(curve, [&](Vec3 place) {
            const Flat at = shadow.flat(place);
            return Vec3{at.x, at.y, 0};
        });
    };
    const SplineCurve flat = flattened(outline);
    const double near = 1e-9 * std::max(shadow.size(), poles_box(flat).diagonal());
    std::vector<double> found;
    for (const int direction : {0, 1}) {
        const SplineBasis& across = basis_along(shadow.patch(), 1 - direction);
        if (across.closed) continue;
        for (const double end : {across.start(), across.end()}) {
            const SplineCurve rim = flattened(iso_curve(shadow.patch(), direction, end));
            if (is_tip(rim, near)) continue;
            const auto crossings = crossings_with_curve(flat, rim, near, run);
            if (!crossings)
                return crossings.error().code == ErrorCode::cancelled ? crossings.error()
                                                                      : along_rim(outline);
            found.insert(found.end(), crossings->begin(), crossings->end());
        }
    }
    return found;
}

// Of a stretch of the outline between two rims: one for each time it meets the patch, walked both ways from
// its middle.
Result<std::vector<Chain>> chains_of(const Shadow& shadow, const SplineCurve& stretch, const Run& run) {
    const SplineCurve back = reversed(stretch);
    const double start = stretch.basis().start(), end = stretch.basis().end(),
                 middle = std::midpoint(start, end);
    std::vector<Chain> chains;
    for (const Parameters at : shadow.places_under(shadow.flat(middle_of(stretch)))) {
        const auto before = chain_from(shadow, back, start + end - middle, at, run);
        if (!before) return before.error();
        const auto behind = chain_from(shadow, stretch, middle, at, run);
        if (!behind) return behind.error();
        const std::array<SplineCurve, 2> both{reversed(before->curve), behind->curve};
        chains.push_back({end_to_end(both), before->end, behind->end});
    }
    return chains;
}

SplineCurve moved(const SplineCurve& curve, Parameters by) {
    return *with_poles(curve, [&](Vec3 at) { return at + Vec3{by.u, by.v, 0}; });
}

// Chains that end inside of the patch, where another part of it has a rim, go on in others.
std::vector<SplineCurve> joined(const Shadow& shadow, std::vector<Chain> chains) {
    std::vector<SplineCurve> curves;
    while (!chains.empty()) {
        Chain whole = std::move(chains.back());
        chains.pop_back();
        const auto goes_on = [&](const Chain& other) {
            return !shadow.is_on_rim(whole.end) && shadow.same(whole.end, other.start);
        };
        const auto comes_from = [&](const Chain& other) {
            return !shadow.is_on_rim(whole.start) && shadow.same(other.end, whole.start);
        };
        for (bool more = true; more;) {
            more = false;
            if (const auto next = std::ranges::find_if(chains, goes_on); next != chains.end()) {
                const Parameters by{whole.end.u - next->start.u, whole.end.v - next->start.v};
                const std::array<SplineCurve, 2> both{whole.curve, moved(next->curve, by)};
                whole = {end_to_end(both), whole.start, {next->end.u + by.u, next->end.v + by.v}};
                chains.erase(next);
                more = true;
            } else if (const auto last = std::ranges::find_if(chains, comes_from); last != chains.end()) {
                const Parameters by{whole.start.u - last->end.u, whole.start.v - last->end.v};
                const std::array<SplineCurve, 2> both{moved(last->curve, by), whole.curve};
                whole = {end_to_end(both), {last->start.u + by.u, last->start.v + by.v}, whole.end};
                chains.erase(last);
                more = true;
            }
        }
        const bool closes =
            !shadow.is_on_rim(whole.end) && Walk(shadow, whole.curve).returns(whole.start, whole.end);
        curves.push_back(closes ? closed_up(whole.curve) : whole.curve);
    }
    return curves;
}

Result<std::vector<SplineCurve>> cast_between_rims(const Shadow& shadow, const SplineCurve& outline,
                                                   const std::vector<double>& crossings, const Run& run) {
    std::vector<Chain> all;
    for (const SplineCurve& stretch : split_at(outline, crossings)) {
        const auto chains = chains_of(shadow, stretch, run);
        if (!chains) return chains.error();
        all.insert(all.end(), chains->begin(), chains->end());
    }
    return joined(shadow, std::move(all));
}

}  // namespace

Error open_outline() {
    return {ErrorCode::has_gaps, "", "is open", "Close it, so that it has an inside."};
}

Result<Cast> cast_onto(const ShadowPointer& shadow, const SplineCurve& outline, const Run& run) {
    if (!outline.closed()) return open_outline();
    std::vector<Vec3> polygon;
    for (const Vec3 place : sample(outline, finely * usual_tolerance(outline)).points)
        polygon.push_back({shadow->flat(place).x, shadow->flat(place).y, 0});
    Cast cast;
    cast.holds = [shadow, polygon = std::move(polygon)](double u, double v) {
        const Flat at = shadow->flat(shadow->place({u, v}));
        return is_in_loop(polygon, at.x, at.y);
    };
    if (const auto even = even_shadow(*shadow)) {
        cast.curves = cast_evenly(*shadow, *even, outline);
        return cast;
    }
    const auto crossings = crossings_with_rims(*shadow, outline, run);
    if (!crossings) return crossings.error();
    auto curves = crossings->empty() ? cast_whole(*shadow, outline, run)
                                     : cast_between_rims(*shadow, outline, *crossings, run);
    if (!curves) return curves.error();
    cast.curves = *std::move(curves);
    return cast;
}

}  // namespace plume

#include "core/geometry/surfaces/cast_curve.hpp"

#include <algorithm>
#include <cmath>
#include <numeric>
#include <optional>

#include "core/base/numbers.hpp"
#include "core/data/place_text.hpp"
#include "core/data/placements.hpp"
#include "core/geometry/curves/curve_edit.hpp"
#include "core/geometry/curves/curve_interpolation.hpp"
#include "core/geometry/curves/curve_sampling.hpp"
#include "core/geometry/curves/spline_system.hpp"
#include "core/geometry/surfaces/patch_edit.hpp"
#include "core/geometry/surfaces/patch_evaluator.hpp"

namespace plume {
namespace {

// Of the patch's size: how true the curves are.
constexpr double true_share = 1e-7;
constexpr std::size_t most_bays = 4096;

// Coordinates in a plane square to the direction.
struct Flat {
    double x = 0, y = 0;
};
struct Parameters {
    double u = 0, v = 0;
};

Error beyond_rim(Vec3 place) {
    return {ErrorCode::out_of_range, "",
            "runs beyond a rim of the surface, or over a fold of it, near " + place_text(place),
            "Let it lie wholly on the surface, as it is seen along the direction."};
}

Error runs_round() {
    return {ErrorCode::out_of_range, "", "runs once round the surface and cuts no piece out of it",
            "Take a part of the surface between two shares instead."};
}

class Shadow {
public:
    Shadow(const SplinePatch& patch, Vec3 direction)
        : patch_(patch), evaluator_(patch), size_(poles_box(patch).diagonal()) {
        const Vec3 along = unit_or_zero(direction);
        first_ = unit_or_zero(cross(along, std::abs(along.z) < 0.9 ? Vec3{0, 0, 1} : Vec3{1, 0, 0}));
        second_ = cross(along, first_);
    }

    const SplinePatch& patch() const { return patch_; }
    double size() const { return size_; }
    Flat flat(Vec3 place) const { return {dot(place, first_), dot(place, second_)}; }
    Vec3 place(Parameters at) const { return inside(at).position; }

    // The way of the parameters that moves the shadow by `by`; nothing where the patch is seen edge on.
    std::optional<Parameters> way(const SurfacePoint& at, Flat by) const {
        const Flat u = flat(at.along_u), v = flat(at.along_v);
        const double area = u.x * v.y - u.y * v.x;
        if (!(std::abs(area) > 1e-9 * length(at.along_u) * length(at.along_v))) return {};
        return Parameters{(by.x * v.y - by.y * v.x) / area, (u.x * by.y - u.y * by.x) / area};
    }
    std::optional<Parameters> way(Parameters at, Flat by) const { return way(inside(at), by); }

    // Newton's steps to the place with this shadow.
    std::optional<Parameters> place_under(Flat wanted, Parameters from) const {
        constexpr int most_steps = 20;
        Parameters at = clamped(from);
        for (int step = 0; step < most_steps; ++step) {
            const SurfacePoint point = inside(at);
            const Flat here = flat(point.position);
            const Flat off{wanted.x - here.x, wanted.y - here.y};
            if (std::hypot(off.x, off.y) <= 1e-13 * size_) return at;
            const auto by = way(point, off);
            if (!by) return {};
            const Parameters next = clamped({at.u + by->u, at.v + by->v});
            const bool stands = next.u == at.u && next.v == at.v;
            at = next;
            if (stands) break;
        }
        const Flat here = flat(place(at));
        if (std::hypot(wanted.x - here.x, wanted.y - here.y) > 1e-10 * size_) return {};
        return at;
    }

    // All places with this shadow, looked for on a grid.
    std::vector<Parameters> places_under(Flat wanted) const {
        const std::vector<double> u = knot_lines(patch_.u(), pieces(patch_.u())),
                                  v = knot_lines(patch_.v(), pieces(patch_.v()));
        const std::vector<Flat> shadows = grid(u, v);
        std::vector<Parameters> found;
        for (std::size_t b = 0; b + 1 < v.size(); ++b)
            for (std::size_t a = 0; a + 1 < u.size(); ++a) {
                const std::size_t corner = a + u.size() * b;
                if (!may_hold(wanted, {shadows[corner], shadows[corner + 1], shadows[corner + u.size()],
                                       shadows[corner + u.size() + 1]}))
                    continue;
                const auto at =
                    place_under(wanted, {std::midpoint(u[a], u[a + 1]), std::midpoint(v[b], v[b + 1])});
                if (at && std::ranges::none_of(found, [&](Parameters other) { return same(*at, other); }))
                    found.push_back(*at);
            }
        return found;
    }

    // The same parameters, whole turns of closed directions aside.
    bool same(Parameters a, Parameters b) const {
        return std::abs(turned(a.u - b.u, patch_.u())) < 1e-6 * range(patch_.u()) &&
               std::abs(turned(a.v - b.v, patch_.v())) < 1e-6 * range(patch_.v());
    }

private:
    static double range(const SplineBasis& basis) { return basis.end() - basis.start(); }
    static double turned(double by, const SplineBasis& basis) {
        return basis.closed ? std::remainder(by, range(basis)) : by;
    }
    static double wrapped(double at, const SplineBasis& basis) {
        if (!basis.closed) return at;
        return at - std::floor((at - basis.start()) / range(basis)) * range(basis);
    }
    static double clamped(double at, const SplineBasis& basis) {
        return basis.closed ? at : std::clamp(at, basis.start(), basis.end());
    }
    Parameters clamped(Parameters at) const { return {clamped(at.u, patch_.u()), clamped(at.v, patch_.v())}; }
    SurfacePoint inside(Parameters at) const {
        return evaluator_.at(wrapped(at.u, patch_.u()), wrapped(at.v, patch_.v()));
    }
    // Enough that no fold hides between two lines that the patch's poles can make.
    static int pieces(const SplineBasis& basis) {
        constexpr std::size_t many = 100;
        return knot_breaks(basis).size() > many ? 1 : basis.degree + 1;
    }
    std::vector<Flat> grid(const std::vector<double>& u, const std::vector<double>& v) const {
        std::vector<Flat> shadows;
        shadows.reserve(u.size() * v.size());
        for (const double at_v : v)
            for (const double at_u : u)
                shadows.push_back(flat(evaluator_.at(at_u, at_v).position));
        return shadows;
    }
    // Whether a bay with these corners, which may bulge, can lie over a place.
    static bool may_hold(Flat wanted, const std::array<Flat, 4>& corners) {
        Flat low = corners[0], high = corners[0];
        for (const Flat corner : corners) {
            low = {std::min(low.x, corner.x), std::min(low.y, corner.y)};
            high = {std::max(high.x, corner.x), std::max(high.y, corner.y)};
        }
        const double margin = 0.3 * std::max(high.x - low.x, high.y - low.y);
        return wanted.x >= low.x - margin && wanted.x <= high.x + margin && wanted.y >= low.y - margin &&
               wanted.y <= high.y + margin;
    }

    const SplinePatch& patch_;
    PatchEvaluator evaluator_;
    double size_;
    Vec3 first_, second_;
};

// Where the shadow of a patch is spaced evenly both ways, parameters are coordinates of it.
struct EvenShadow {
    Flat start, along_u, along_v;  // along: by a parameter of 1
};
std::optional<EvenShadow> even_shadow(const Shadow& shadow) {
    const SplinePatch& patch = shadow.patch();
    if (patch.rational() || patch.u().closed || patch.v().closed) return {};
    const std::vector<double> u = knot_means(patch.u()), v = knot_means(patch.v());
    const auto pole = [&](std::size_t a, std::size_t b) {
        const std::size_t at = a + u.size() * b;
        return shadow.flat({patch.x()[at], patch.y()[at], patch.z()[at]});
    };
    const Flat origin = pole(0, 0), far_u = pole(u.size() - 1, 0), far_v = pole(0, v.size() - 1);
    const double by_u = u.back() - u.front(), by_v = v.back() - v.front();
    EvenShadow even{origin,
                    {(far_u.x - origin.x) / by_u, (far_u.y - origin.y) / by_u},
                    {(far_v.x - origin.x) / by_v, (far_v.y - origin.y) / by_v}};
    even.start = {origin.x - even.along_u.x * u.front() - even.along_v.x * v.front(),
                  origin.y - even.along_u.y * u.front() - even.along_v.y * v.front()};
    for (std::size_t b = 0; b < v.size(); ++b)
        for (std::size_t a = 0; a < u.size(); ++a) {
            const Flat here = pole(a, b);
            const double off_x = even.start.x + even.along_u.x * u[a] + even.along_v.x * v[b] - here.x,
                         off_y = even.start.y + even.along_u.y * u[a] + even.along_v.y * v[b] - here.y;
            if (std::hypot(off_x, off_y) > 1e-12 * shadow.size()) return {};
        }
    const double area = even.along_u.x * even.along_v.y - even.along_u.y * even.along_v.x;
    if (!(std::abs(area) * by_u * by_v > 1e-12 * shadow.size() * shadow.size())) return {};
    return even;
}

// Pole by pole: exact, weights and all.
Result<std::vector<SplineCurve>> cast_evenly(const Shadow& shadow, const EvenShadow& even,
                                             const SplineCurve& outline) {
    const double area = even.along_u.x * even.along_v.y - even.along_u.y * even.along_v.x;
    const auto parameters = [&](Vec3 place) {
        const Flat at = shadow.flat(place);
        const double x = at.x - even.start.x, y = at.y - even.start.y;
        return Parameters{(x * even.along_v.y - y * even.along_v.x) / area,
                          (even.along_u.x * y - even.along_u.y * x) / area};
    };
    const SplineBasis &u = shadow.patch().u(), &v = shadow.patch().v();
    const auto is_inside = [&](Vec3 place) {
        const Parameters at = parameters(place);
        return at.u > u.start() && at.u < u.end() && at.v > v.start() && at.v < v.end();
    };
    const std::vector<Vec3> places = sample(outline, usual_tolerance(outline)).points;
    if (std::ranges::none_of(places, is_inside)) return std::vector<SplineCurve>();
    if (const auto off = std::ranges::find_if_not(places, is_inside); off != places.end())
        return beyond_rim(*off);
    Doubles x, y;
    for (std::size_t pole = 0; pole < outline.x().size(); ++pole) {
        const Parameters at = parameters(outline.pole(pole));
        x.push_back(at.u);
        y.push_back(at.v);
    }
    return std::vector<SplineCurve>{*SplineCurve::make({outline.basis(),
                                                        std::move(x),
                                                        std::move(y),
                                                        Doubles(outline.x().size(), 0.0),
                                                        outline.weights(),
                                                        {}})};
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
                    if (!next) return beyond_rim(place(t));
                    at = *next;
                }
                points.parameters.push_back(t);
                if (bay < bays || !closed) points.points.push_back({at.u, at.v, 0});
            }
            if (closed && !returns(start, at)) return closed_elsewhere(start, at, to);
            Result<SplineCurve> curve = curve_through(points, CurveShape::smooth);
            if (!curve) return curve.error();
            const auto apart = deviation(*curve, points.parameters);
            if ((apart && *apart <= true_share * shadow_.size()) || bays >= most_bays)
                return Piece{*std::move(curve), at};
        }
    }

    bool returns(Parameters start, Parameters end) const {
        return shadow_.same(start, end) && std::abs(start.u - end.u) < 0.5 * range(shadow_.patch().u()) &&
               std::abs(start.v - end.v) < 0.5 * range(shadow_.patch().v());
    }
    Error closed_elsewhere(Parameters start, Parameters end, double t) const {
        return shadow_.same(start, end) ? runs_round() : beyond_rim(place(t));
    }

private:
    static double range(const SplineBasis& basis) { return basis.end() - basis.start(); }
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

Result<SplineCurve> cast_from(const Shadow& shadow, const SplineCurve& outline,
                              const std::vector<double>& joints, Parameters start, const Run& run) {
    const Walk walk(shadow, outline);
    if (joints.empty()) {
        auto whole = walk.piece(outline.basis().start(), outline.basis().end(), start, true, run);
        if (!whole) return whole.error();
        return std::move(whole->curve);
    }
    std::vector<SplineCurve> pieces;
    Parameters at = start;
    for (std::size_t joint = 0; joint + 1 < joints.size(); ++joint) {
        auto piece = walk.piece(joints[joint], joints[joint + 1], at, false, run);
        if (!piece) return piece.error();
        at = piece->end;
        pieces.push_back(std::move(piece->curve));
    }
    if (!walk.returns(start, at)) return walk.closed_elsewhere(start, at, joints.back());
    return closed_up(end_to_end(pieces));
}

// Whether any of it lies over the patch, though its start does not.
std::optional<Vec3> place_over(const Shadow& shadow, const SplineCurve& outline) {
    constexpr int probes = 24;
    for (int probe = 1; probe < probes; ++probe) {
        const Vec3 place = evaluate(outline, std::lerp(outline.basis().start(), outline.basis().end(),
                                                       static_cast<double>(probe) / probes))
                               .position;
        if (!shadow.places_under(shadow.flat(place)).empty()) return place;
    }
    return {};
}

}  // namespace

Result<std::vector<SplineCurve>> cast_onto(const SplinePatch& patch, const SplineCurve& outline,
                                           Vec3 direction, const Run& run) {
    if (!outline.closed())
        return Error{ErrorCode::has_gaps, "", "is open", "Close it, so that it has an inside."};
    const Shadow shadow(patch, direction);
    if (const auto even = even_shadow(shadow)) return cast_evenly(shadow, *even, outline);
    // A closed basis of knots that stand once is smooth at its seam too; any other begins at a joint.
    std::vector<double> joints = joints_of(outline);
    SplineCurve begun = outline;
    if (!joints.empty()) {
        begun = with_seam_at(outline, joints.front());
        joints = joints_of(begun);
    }
    const Vec3 first = start_of(begun);
    const std::vector<Parameters> starts = shadow.places_under(shadow.flat(first));
    if (starts.empty()) {
        if (place_over(shadow, begun)) return beyond_rim(first);
        return std::vector<SplineCurve>();
    }
    std::vector<SplineCurve> casts;
    for (const Parameters start : starts) {
        Result<SplineCurve> one = cast_from(shadow, begun, joints, start, run);
        if (!one) return one.error();
        casts.push_back(*std::move(one));
    }
    return casts;
}

}  // namespace plume

#include "core/geometry/surfaces/traced_curve.hpp"

#include <algorithm>
#include <cmath>
#include <limits>

#include "core/data/place_text.hpp"
#include "core/geometry/curves/curve_edit.hpp"
#include "core/geometry/curves/curve_sampling.hpp"
#include "core/geometry/curves/mapped_curve.hpp"
#include "core/geometry/curves/spline_basis.hpp"
#include "core/geometry/surfaces/trim_cells.hpp"

namespace plume {
namespace {

// Of the domain: how true the curve is.
constexpr double true_share = 1e-7;

Vec3 share_of_domain(const SplinePatch& patch, double u, double v) {
    const auto share = [](double at, const SplineBasis& basis) {
        return (within_turn(at, basis) - basis.start()) / (basis.end() - basis.start());
    };
    return {share(u, patch.u()), share(v, patch.v()), 0};
}

// The nearest places of an outline that lies on a patch, as shares of its parameters: those of neighbours are
// neighbours, across seams too.
class Trace {
public:
    Trace(const SurfaceSearch& search, const SplineCurve& outline)
        : patch_(search.patch()), outline_(outline), search_(search), size_(search.size()) {
        constexpr int pieces = 24;
        times_ = knot_lines(outline.basis(), pieces);
        if (outline.closed()) times_.push_back(outline.basis().end());
        for (const double t : times_) {
            const PlaceOnSurface found = nearest(t);
            farthest_ = std::max(farthest_, found.distance);
            nearest_ = std::min(nearest_, found.distance);
            const Vec3 at = shares_of(found);
            shares_.push_back(shares_.empty() ? at : beside(at, shares_.back()));
            if (found.distance == farthest_) where_ = found.place;
        }
    }
    bool is_far() const { return nearest_ > far_away * size_; }
    bool is_on() const { return farthest_ <= away * size_; }
    Vec3 farthest() const { return where_; }
    bool runs_round() const { return length(shares_.back() - shares_.front()) > 0.5; }

    Vec3 shares_at(double t) const {
        const auto next = std::ranges::upper_bound(times_, t);
        const auto number = static_cast<std::size_t>(next - times_.begin());
        return beside(shares_of(nearest(t)), shares_[std::clamp<std::size_t>(number, 1, shares_.size()) - 1]);
    }
    std::vector<Vec3> polygon() const { return {shares_.begin(), shares_.end() - 1}; }

private:
    // Of the size: what is hardly away lies on it; what is far away everywhere is meant for elsewhere.
    static constexpr double away = 1e-4, far_away = 1e-2;
    PlaceOnSurface nearest(double t) const { return search_.nearest(evaluate(outline_, t).position); }
    Vec3 shares_of(const PlaceOnSurface& found) const {
        const SplineBasis &u = patch_.u(), &v = patch_.v();
        return {(found.u - u.start()) / (u.end() - u.start()), (found.v - v.start()) / (v.end() - v.start()),
                0};
    }
    // A whole turn on, where that is nearer.
    Vec3 beside(Vec3 shares, Vec3 before) const {
        if (patch_.u().closed) shares.x += std::round(before.x - shares.x);
        if (patch_.v().closed) shares.y += std::round(before.y - shares.y);
        return shares;
    }

    const SplinePatch& patch_;
    const SplineCurve& outline_;
    const SurfaceSearch& search_;
    double size_, nearest_ = std::numeric_limits<double>::infinity(), farthest_ = 0;
    Vec3 where_;
    std::vector<double> times_;
    std::vector<Vec3> shares_;
};

}  // namespace

Result<Cast> traced_on(const SurfaceSearch& search, const SplineCurve& outline, const Run& run) {
    if (!outline.closed()) return open_outline();
    const SplinePatch& patch = search.patch();
    const Trace trace(search, outline);
    Cast cast;
    cast.holds = [patch, polygon = trace.polygon()](double u, double v) {
        const Vec3 at = share_of_domain(patch, u, v);
        for (const double turn_u : {0.0, 1.0, -1.0})
            for (const double turn_v : {0.0, 1.0, -1.0})
                if ((turn_u == 0 || patch.u().closed) && (turn_v == 0 || patch.v().closed) &&
                    is_in_loop(polygon, at.x + turn_u, at.y + turn_v))
                    return true;
        return false;
    };
    if (trace.is_far()) {
        cast.holds = [](double, double) { return false; };
        return cast;
    }
    if (!trace.is_on())
        return Error{ErrorCode::out_of_range, "",
                     "does not lie on the surface near " + place_text(trace.farthest()),
                     "Pull it onto the surface first, or cast it along a direction."};
    if (trace.runs_round())
        return Error{ErrorCode::unlike_arrangement, "", "runs once round the surface and has no inside there",
                     "Cast it along a direction instead."};
    const CurvePlace place = [&](double t) -> Result<Vec3> { return trace.shares_at(t); };
    auto made = mapped_curves(outline, std::span(&place, 1), true_share, run);
    if (!made) return made.error();
    const SplineBasis &u = patch.u(), &v = patch.v();
    cast.curves.push_back(*with_poles(made->curves.front(), [&](Vec3 at) {
        return Vec3{u.start() + at.x * (u.end() - u.start()), v.start() + at.y * (v.end() - v.start()), 0};
    }));
    return cast;
}

}  // namespace plume

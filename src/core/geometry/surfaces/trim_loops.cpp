#include "core/geometry/surfaces/trim_loops.hpp"

#include <algorithm>
#include <cmath>
#include <numeric>

#include "core/data/place_text.hpp"
#include "core/geometry/curves/curve_crossings.hpp"
#include "core/geometry/curves/curve_edit.hpp"
#include "core/geometry/curves/curve_sampling.hpp"
#include "core/geometry/curves/spline_basis.hpp"
#include "core/geometry/measures/bounds.hpp"
#include "core/geometry/surfaces/patch_evaluator.hpp"
#include "core/geometry/surfaces/patch_figures.hpp"

namespace plume {
namespace {

// Of the domain: as near as curves meet, how far beside a trim one looks, and as near as ends are one.
constexpr double meeting = 1e-9, beside = 1e-6, one_end = 1e-6;

class Cutting {
public:
    Cutting(const SplinePatch& patch, const TrimCurves& cuts,
            const std::function<bool(double, double)>& in_cut, TrimSide keep, const Run& run)
        : patch_(patch),
          evaluator_(patch),
          sides_(patch),
          turns_(trim_turns(patch)),
          cuts_(cuts),
          in_cut_(in_cut),
          keep_(keep),
          run_(run) {
        for (const SplineCurve& trim : patch.trims())
            trims_.push_back(to_square(trim));
        for (const SplineCurve& cut : cuts)
            square_cuts_.push_back(to_square(cut));
    }

    Result<TrimCurves> make() {
        if (Status split = split_where_they_meet(); !split) return split.error();
        for (std::size_t trim = 0; trim < trims_.size(); ++trim)
            for (const SplineCurve& piece : split_at(patch_.trims()[trim], on_trims_[trim]))
                if (is_bound(piece, turns_[trim])) kept_.push_back(piece);
        for (std::size_t cut = 0; cut < cuts_.size(); ++cut)
            for (const SplineCurve& piece : split_at(cuts_[cut], on_cuts_[cut])) {
                const Vec3 middle = place_in(piece, 0.5);
                if (sides_.hold(middle.x, middle.y)) kept_.push_back(piece);
            }
        return end_to_end_again();
    }

private:
    // Parameters stretched to a square, in which near is as near either way.
    SplineCurve to_square(const SplineCurve& curve) const {
        return *with_poles(curve, [this](Vec3 at) { return to_square(at); });
    }
    Vec3 to_square(Vec3 at) const {
        return {(at.x - patch_.u().start()) / range_of(patch_.u()),
                (at.y - patch_.v().start()) / range_of(patch_.v()), 0};
    }
    static Vec3 place_in(const SplineCurve& curve, double share) {
        return evaluate(curve, std::lerp(curve.basis().start(), curve.basis().end(), share)).position;
    }
    Vec3 on_surface(Vec3 at) const { return evaluator_.at(at.x, at.y).position; }

    Status split_where_they_meet() {
        on_trims_.resize(trims_.size());
        on_cuts_.resize(square_cuts_.size());
        for (std::size_t cut = 0; cut < square_cuts_.size(); ++cut) {
            const Box box = poles_box(square_cuts_[cut]);
            for (std::size_t trim = 0; trim < trims_.size(); ++trim) {
                if (run_.cancelled()) return cancelled_error();
                if (!meet(box, poles_box(trims_[trim]), meeting) || lies_within(box, trim)) continue;
                const auto on_trim = crossings_with_curve(trims_[trim], square_cuts_[cut], meeting, run_);
                const auto on_cut = crossings_with_curve(square_cuts_[cut], trims_[trim], meeting, run_);
                if (!on_trim || !on_cut)
                    return along_each_other(cut, on_trim ? on_cut.error() : on_trim.error());
                on_trims_[trim].insert(on_trims_[trim].end(), on_trim->begin(), on_trim->end());
                on_cuts_[cut].insert(on_cuts_[cut].end(), on_cut->begin(), on_cut->end());
            }
        }
        return Done{};
    }
    // Inside of a trim that is the rim of the whole patch, of which it stays clear.
    bool lies_within(const Box& box, std::size_t trim) const {
        return trims_[trim].basis().degree == 1 && trims_[trim].x().size() == 5 && box.low.x > beside &&
               box.low.y > beside && box.high.x < 1 - beside && box.high.y < 1 - beside;
    }
    Error along_each_other(std::size_t cut, const Error& error) const {
        if (error.code == ErrorCode::cancelled) return error;
        return {
            ErrorCode::unlike_arrangement, "",
            "runs along a rim or an earlier trim near " + place_text(on_surface(place_in(cuts_[cut], 0.5))),
            "Let it cross that, or stay clear of it."};
    }

    // Whether what lies beside a piece of a trim, inside of the patch, is kept.
    bool is_bound(const SplineCurve& piece, double turn) const {
        const SplineBasis& basis = piece.basis();
        const CurvePoint at = evaluate(piece, std::midpoint(basis.start(), basis.end()));
        const double u = range_of(patch_.u()), v = range_of(patch_.v());
        const Vec3 along = unit_or_zero({at.along.x / u, at.along.y / v, 0});
        const Vec3 inwards = Vec3{-along.y * u, along.x * v, 0} * (turn * beside);
        const Vec3 there = at.position + inwards;
        return in_cut_(there.x, there.y) == (keep_ == TrimSide::inside);
    }

    Result<TrimCurves> end_to_end_again() {
        TrimCurves loops;
        while (!kept_.empty()) {
            std::vector<SplineCurve> chain{take(kept_.size() - 1)};
            if (chain.front().closed()) {
                loops.push_back(std::move(chain.front()));
                continue;
            }
            const Vec3 begin = to_square(start_of(chain.front()));
            while (length(to_square(end_of(chain.back())) - begin) > one_end) {
                const auto next = find_next(to_square(end_of(chain.back())));
                if (!next) return touches(end_of(chain.back()));
                SplineCurve piece = take(next->first);
                chain.push_back(next->second ? reversed(piece) : std::move(piece));
            }
            for (SplineCurve& piece : chain)
                piece = over_length(piece);
            loops.push_back(closed_up(end_to_end(chain)));
        }
        return loops;
    }
    SplineCurve take(std::size_t number) {
        SplineCurve piece = std::move(kept_[number]);
        kept_.erase(kept_.begin() + static_cast<std::ptrdiff_t>(number));
        return piece;
    }
    // A piece that begins at a place, or, turned round, ends there.
    std::optional<std::pair<std::size_t, bool>> find_next(Vec3 end) const {
        for (std::size_t number = 0; number < kept_.size(); ++number)
            for (const bool turned : {false, true})
                if (!kept_[number].closed() &&
                    length(to_square(turned ? end_of(kept_[number]) : start_of(kept_[number])) - end) <=
                        one_end)
                    return std::pair(number, turned);
        return {};
    }
    Error touches(Vec3 at) const {
        return {ErrorCode::unlike_arrangement, "",
                "touches a rim, an earlier trim or another outline near " + place_text(on_surface(at)),
                "Let it cross that, or stay clear of it."};
    }

    const SplinePatch& patch_;
    PatchEvaluator evaluator_;
    TrimSides sides_;
    std::vector<double> turns_;
    const TrimCurves& cuts_;
    const std::function<bool(double, double)>& in_cut_;
    TrimSide keep_;
    const Run& run_;
    TrimCurves trims_, square_cuts_;                       // stretched to the square
    std::vector<std::vector<double>> on_trims_, on_cuts_;  // parameters where they meet
    TrimCurves kept_;
};

}  // namespace

Result<TrimCurves> bounding_loops(const SplinePatch& patch, const TrimCurves& cuts,
                                  const std::function<bool(double, double)>& in_cut, TrimSide keep,
                                  const Run& run) {
    return Cutting(patch, cuts, in_cut, keep, run).make();
}

}  // namespace plume

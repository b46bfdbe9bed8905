#include "core/geometry/surfaces/level_lines.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <numeric>
#include <optional>
#include <unordered_map>

#include "core/base/parallel.hpp"
#include "core/geometry/curves/curve_crossings.hpp"
#include "core/geometry/curves/curve_edit.hpp"
#include "core/geometry/curves/curve_interpolation.hpp"
#include "core/geometry/curves/curve_sampling.hpp"
#include "core/geometry/curves/spline_basis.hpp"
#include "core/geometry/surfaces/level_arcs.hpp"
#include "core/geometry/surfaces/patch_edit.hpp"
#include "core/geometry/surfaces/patch_evaluator.hpp"
#include "core/geometry/surfaces/patch_figures.hpp"

namespace plume {
namespace {

constexpr int most_rounds = 10;
constexpr std::size_t nobody = static_cast<std::size_t>(-1);

// A stretch of a line within one bay.
struct Stretch {
    LevelPlace from, to;
};
struct Chain {
    std::vector<Stretch> stretches;
    bool closed = false;
};

double range(const SplineBasis& basis) {
    return basis.end() - basis.start();
}

// Ends of arcs that are at one place; the end of a closed direction is its start.
class Ends {
public:
    Ends(const SplinePatch& patch, const std::vector<LevelArc>& arcs)
        : patch_(patch), partner_(2 * arcs.size(), nobody) {
        std::unordered_multimap<std::uint64_t, std::size_t> waiting;
        for (std::size_t end = 0; end < partner_.size(); ++end) {
            const LevelArc& arc = arcs[end / 2];
            const auto [x, y] = place_of(end % 2 == 0 ? arc.from : arc.to);
            if (!pair_up(x, y, end, waiting)) waiting.emplace(key_of(cell_of(x), cell_of(y)), end);
            places_.emplace_back(x, y);
        }
    }
    std::size_t partner(std::size_t end) const { return partner_[end]; }

private:
    static constexpr double near = 1e-9;  // of the domain
    static std::int64_t cell_of(double share) {
        return static_cast<std::int64_t>(std::floor(share / (4 * near)));
    }
    static std::uint64_t key_of(std::int64_t x, std::int64_t y) {
        return static_cast<std::uint64_t>(x) * 0x9E3779B97F4A7C15ULL ^ static_cast<std::uint64_t>(y);
    }
    std::pair<double, double> place_of(LevelPlace place) const {
        const auto share = [](double at, const SplineBasis& basis) {
            const double of_range = (at - basis.start()) / range(basis);
            return basis.closed && of_range > 1 - near ? of_range - 1 : of_range;
        };
        return {share(place.u, patch_.u()), share(place.v, patch_.v())};
    }
    bool pair_up(double x, double y, std::size_t end,
                 std::unordered_multimap<std::uint64_t, std::size_t>& waiting) {
        for (std::int64_t dx = -1; dx <= 1; ++dx)
            for (std::int64_t dy = -1; dy <= 1; ++dy) {
                const auto [first, last] = waiting.equal_range(key_of(cell_of(x) + dx, cell_of(y) + dy));
                for (auto other = first; other != last; ++other) {
                    const auto [their_x, their_y] = places_[other->second];
                    const bool same_arc = other->second / 2 == end / 2;
                    if (same_arc || std::abs(their_x - x) > near || std::abs(their_y - y) > near) continue;
                    partner_[end] = other->second;
                    partner_[other->second] = end;
                    waiting.erase(other);
                    return true;
                }
            }
        return false;
    }

    const SplinePatch& patch_;
    std::vector<std::size_t> partner_;
    std::vector<std::pair<double, double>> places_;
};

// Arcs end to end, open ones first.
std::vector<Chain> chains_of(const SplinePatch& patch, const std::vector<LevelArc>& arcs) {
    const Ends ends(patch, arcs);
    std::vector<std::uint8_t> used(arcs.size(), 0);
    std::vector<Chain> chains;
    const auto walk = [&](std::size_t end) {
        Chain chain;
        for (; end != nobody && used[end / 2] == 0; end = ends.partner(end ^ 1U)) {
            used[end / 2] = 1;
            const LevelArc& arc = arcs[end / 2];
            chain.stretches.push_back(end % 2 == 0 ? Stretch{arc.from, arc.to} : Stretch{arc.to, arc.from});
        }
        chain.closed = end != nobody;
        chains.push_back(std::move(chain));
    };
    for (std::size_t end = 0; end < 2 * arcs.size(); ++end)
        if (ends.partner(end) == nobody && used[end / 2] == 0) walk(end);
    for (std::size_t arc = 0; arc < arcs.size(); ++arc)
        if (used[arc] == 0) walk(2 * arc);
    return chains;
}

// What a line is made with: the surface, the function and how near is near enough.
class LineMaker {
public:
    LineMaker(const SplinePatch& patch, const SplinePatch& function, double tolerance)
        : patch_(patch),
          evaluator_(patch),
          function_(function),
          sides_(patch),
          creases_{creases_of(patch.u()), creases_of(patch.v())},
          size_(poles_box(patch).diagonal()),
          tolerance_(tolerance) {}

    // What of a chain has a length and is there; adds to the deviation.
    std::vector<SplineCurve> lines(Chain chain, double level, double& deviation) const {
        std::erase_if(chain.stretches, [&](const Stretch& stretch) {
            return length(place(stretch.from) - place(stretch.to)) <= 1e-10 * size_;
        });
        if (chain.stretches.empty()) return {};
        turn_higher_side_left(chain);
        std::vector<SplineCurve> pieces;
        for (const Chain& run : cut_at_creases(std::move(chain))) {
            const auto made = smooth_line(run, level);
            if (!made) continue;
            deviation = std::max(deviation, made->deviation);
            const std::vector<SplineCurve> there = pieces_there(*made);
            pieces.insert(pieces.end(), there.begin(), there.end());
        }
        return joined(std::move(pieces));
    }

private:
    static std::vector<double> creases_of(const SplineBasis& basis) {
        std::vector<double> creases;
        for (const double knot : knot_breaks(basis))
            if (multiplicity_at(basis, knot) >= basis.degree) creases.push_back(knot);
        return creases;
    }
    Vec3 place(LevelPlace at) const { return evaluator_.at(at.u, at.v).position; }

    void turn_higher_side_left(Chain& chain) const {
        const Stretch& one = chain.stretches[chain.stretches.size() / 2];
        const LevelPlace middle{std::midpoint(one.from.u, one.to.u), std::midpoint(one.from.v, one.to.v)};
        const SurfacePoint here = function_.at(middle.u, middle.v);
        // In the parameters the slope points to the higher side; the normal is that of u, v anticlockwise.
        const double left =
            (one.to.u - one.from.u) * here.along_v.x - (one.to.v - one.from.v) * here.along_u.x;
        if (left >= 0) return;
        std::ranges::reverse(chain.stretches);
        for (Stretch& stretch : chain.stretches)
            std::swap(stretch.from, stretch.to);
    }

    bool is_on_crease(LevelPlace at) const {
        const auto is_one = [](double t, const std::vector<double>& creases, const SplineBasis& basis) {
            return std::ranges::any_of(
                creases, [&](double crease) { return std::abs(t - crease) <= 1e-9 * range(basis); });
        };
        return is_one(at.u, creases_[0], patch_.u()) || is_one(at.v, creases_[1], patch_.v());
    }
    std::vector<Chain> cut_at_creases(Chain chain) const {
        if (chain.closed) {
            const auto first = std::ranges::find_if(
                chain.stretches, [&](const Stretch& stretch) { return is_on_crease(stretch.from); });
            if (first == chain.stretches.end()) return {std::move(chain)};
            std::rotate(chain.stretches.begin(), first, chain.stretches.end());
        }
        std::vector<Chain> runs;
        for (const Stretch& stretch : chain.stretches) {
            if (runs.empty() || is_on_crease(stretch.from)) runs.emplace_back();
            runs.back().stretches.push_back(stretch);
        }
        return runs;
    }

    struct Smooth {
        SplineCurve curve;
        std::vector<Stretch> stretches;  // between its nodes
        double deviation = 0;
    };

    // A smooth line as it is inside of trims: cut where its run over the parameters crosses them.
    std::vector<SplineCurve> pieces_there(const Smooth& line) const {
        if (!patch_.trimmed()) return {line.curve};
        const auto over = over_parameters(line);
        if (!over) return {line.curve};
        std::vector<double> cuts;
        for (const SplineCurve& trim : patch_.trims()) {
            const SplineCurve square = *with_poles(trim, [&](Vec3 at) { return to_square({at.x, at.y}); });
            if (const auto found = crossings_with_curve(*over, square, 1e-9, Run()))
                cuts.insert(cuts.end(), found->begin(), found->end());
        }
        std::vector<SplineCurve> there;
        for (const SplineCurve& piece : split_at(line.curve, cuts)) {
            double middle = std::midpoint(piece.basis().start(), piece.basis().end());
            if (middle > over->basis().end()) middle -= range(over->basis());
            const Vec3 at = evaluate(*over, middle).position;
            if (sides_.hold(std::lerp(patch_.u().start(), patch_.u().end(), at.x),
                            std::lerp(patch_.v().start(), patch_.v().end(), at.y)))
                there.push_back(piece);
        }
        return there;
    }
    Vec3 to_square(LevelPlace at) const {
        return {(at.u - patch_.u().start()) / range(patch_.u()),
                (at.v - patch_.v().start()) / range(patch_.v()), 0};
    }
    // With the parameters of the line.
    std::optional<SplineCurve> over_parameters(const Smooth& line) const {
        CurvePoints points;
        points.closed = line.curve.closed();
        points.parameters = breaks_of(line.curve.basis());
        for (const Stretch& stretch : line.stretches)
            points.points.push_back(to_square(stretch.from));
        if (!points.closed) points.points.push_back(to_square(line.stretches.back().to));
        if (points.parameters.size() != line.stretches.size() + 1) return {};
        auto curve = curve_through(std::move(points), CurveShape::smooth);
        return curve ? std::optional(*std::move(curve)) : std::nullopt;
    }

    // Pieces that follow each other are one; the last may go on in the first.
    std::vector<SplineCurve> joined(std::vector<SplineCurve> pieces) const {
        if (pieces.empty() || pieces.front().closed()) return pieces;
        const auto goes_on = [&](const SplineCurve& one, const SplineCurve& next) {
            return length(end_of(one) - start_of(next)) <= 1e-9 * size_;
        };
        const auto apart = std::ranges::adjacent_find(
            pieces, [&](const SplineCurve& one, const SplineCurve& next) { return !goes_on(one, next); });
        // Beginning behind a gap nothing is cut that hangs together.
        if (apart != pieces.end()) std::rotate(pieces.begin(), apart + 1, pieces.end());
        std::vector<std::vector<SplineCurve>> runs;
        for (SplineCurve& piece : pieces) {
            if (runs.empty() || !goes_on(runs.back().back(), piece)) runs.emplace_back();
            runs.back().push_back(std::move(piece));
        }
        std::vector<SplineCurve> lines;
        for (const std::vector<SplineCurve>& run : runs) {
            const SplineCurve whole = run.size() == 1 ? run.front() : end_to_end(run);
            lines.push_back(goes_on(run.back(), run.front()) ? closed_up(whole) : whole);
        }
        return lines;
    }

    // The place of the surface at the level nearest to a place that is hardly off: Newton's steps.
    std::optional<LevelPlace> at_level(LevelPlace at, Vec3 wanted, Vec3 along, double level) const {
        constexpr int most_steps = 8;
        for (int step = 0; step < most_steps; ++step) {
            const SurfacePoint here = evaluator_.at(at.u, at.v), value = function_.at(at.u, at.v);
            const double off = level - value.position.x, ahead = dot(wanted - here.position, along);
            const double fu = value.along_u.x, fv = value.along_v.x, au = dot(here.along_u, along),
                         av = dot(here.along_v, along), area = fu * av - fv * au;
            const double du = (off * av - fv * ahead) / area, dv = (fu * ahead - off * au) / area;
            if (!std::isfinite(du) || !std::isfinite(dv)) return {};
            at.u = std::clamp(at.u + du, patch_.u().start(), patch_.u().end());
            at.v = std::clamp(at.v + dv, patch_.v().start(), patch_.v().end());
            if (std::abs(du) <= 1e-13 * range(patch_.u()) && std::abs(dv) <= 1e-13 * range(patch_.v())) break;
        }
        return at;
    }

    // Through the ends of its stretches, which are halved where it stands off.
    std::optional<Smooth> smooth_line(Chain chain, double level) const {
        for (int round = 0;; ++round) {
            CurvePoints points;
            points.closed = chain.closed && chain.stretches.size() > 2;
            for (const Stretch& stretch : chain.stretches)
                points.points.push_back(place(stretch.from));
            if (!points.closed) points.points.push_back(place(chain.stretches.back().to));
            auto curve = curve_through(std::move(points), CurveShape::smooth);
            if (!curve) return {};
            double deviation = 0;
            std::vector<Stretch> finer = halved_where_off(chain.stretches, *curve, level, deviation);
            if (finer.size() == chain.stretches.size() || round == most_rounds)
                return Smooth{*std::move(curve), std::move(chain.stretches), deviation};
            chain.stretches = std::move(finer);
        }
    }
    std::vector<Stretch> halved_where_off(const std::vector<Stretch>& stretches, const SplineCurve& curve,
                                          double level, double& deviation) const {
        const std::vector<double> at = breaks_of(curve.basis());
        std::vector<Stretch> finer;
        for (std::size_t number = 0; number < stretches.size(); ++number) {
            const Stretch& one = stretches[number];
            finer.push_back(one);
            // Two places at one place are one to the curve: nothing is measured then.
            if (at.size() != stretches.size() + 1) continue;
            const CurvePoint middle = evaluate(curve, std::midpoint(at[number], at[number + 1]));
            const LevelPlace guess{std::midpoint(one.from.u, one.to.u), std::midpoint(one.from.v, one.to.v)};
            const auto beside = at_level(guess, middle.position, unit_or_zero(middle.along), level);
            if (!beside) continue;
            const double apart = length(place(*beside) - middle.position);
            deviation = std::max(deviation, apart);
            if (!(apart > tolerance_)) continue;
            finer.back().to = *beside;
            finer.push_back({*beside, one.to});
        }
        return finer;
    }

    const SplinePatch& patch_;
    PatchEvaluator evaluator_, function_;
    TrimSides sides_;
    std::array<std::vector<double>, 2> creases_;
    double size_, tolerance_;
};

}  // namespace

SplinePatch heights_above(const SplinePatch& patch, const Placement& plane) {
    SplinePatch::Parts parts = patch.parts();
    Doubles heights(patch.x().size());
    for (std::size_t pole = 0; pole < heights.size(); ++pole)
        heights[pole] = plane.to_local({patch.x()[pole], patch.y()[pole], patch.z()[pole]}).z;
    parts.x = std::move(heights);
    parts.y = parts.z = Doubles(patch.x().size(), 0.0);
    parts.fields.clear();
    parts.trims.clear();
    return *SplinePatch::make(std::move(parts));
}

Result<LevelLines> level_lines(const SplinePatch& patch, const SplinePatch& function,
                               std::span<const double> levels, double tolerance_abs, const Run& run) {
    const auto arcs = level_arcs(function, levels, run);
    if (!arcs) return arcs.error();
    const LineMaker maker(patch, function, tolerance_abs);
    std::vector<std::vector<SplineCurve>> lines(levels.size());
    std::vector<double> deviations(levels.size(), 0);
    const bool done = parallel_blocks(levels.size(), 1, run, [&](std::size_t begin, std::size_t end) {
        for (std::size_t level = begin; level < end; ++level)
            for (Chain& chain : chains_of(patch, arcs->of[level])) {
                auto made = maker.lines(std::move(chain), levels[level], deviations[level]);
                lines[level].insert(lines[level].end(), made.begin(), made.end());
            }
    });
    if (!done) return cancelled_error();
    LevelLines all;
    all.level_bays = arcs->level_bays;
    for (std::size_t level = 0; level < levels.size(); ++level) {
        all.deviation = std::max(all.deviation, deviations[level]);
        for (SplineCurve& line : lines[level])
            all.lines.push_back({std::move(line), level});
    }
    return all;
}

}  // namespace plume

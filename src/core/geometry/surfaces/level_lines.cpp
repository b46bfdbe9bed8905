#include "core/geometry/surfaces/level_lines.hpp"

#include <algorithm>
#include <array>
#include <bit>
#include <cmath>
#include <numeric>
#include <optional>

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

constexpr int most_rounds = 24;
constexpr int rounds_before_corners = 4;
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

// Ends of arcs that are at one place; the end of a closed direction is its start. Those that wait for their
// partner lie in a table by the cell of the plane they are in, which is so much larger than what is near that
// the cells beside it hardly ever count.
class Ends {
public:
    Ends(const SplinePatch& patch, const std::vector<LevelArc>& arcs)
        : patch_(patch),
          partner_(2 * arcs.size(), nobody),
          places_(partner_.size()),
          waiting_(std::bit_ceil(2 * partner_.size() + 1), nobody) {
        for (std::size_t end = 0; end < partner_.size(); ++end) {
            const LevelArc& arc = arcs[end / 2];
            places_[end] = place_of(end % 2 == 0 ? arc.from : arc.to);
            if (!pair_up(end)) put(end);
        }
    }
    std::size_t partner(std::size_t end) const { return partner_[end]; }

private:
    static constexpr double near = 1e-9;  // of the domain
    static constexpr double cell_size = 1024 * near;
    struct Place {
        double x = 0, y = 0;
    };
    struct CellAt {
        std::int64_t x = 0, y = 0;
    };

    Place place_of(LevelPlace place) const {
        const auto share = [](double at, const SplineBasis& basis) {
            const double of_range = (at - basis.start()) / range(basis);
            return basis.closed && of_range > 1 - near ? of_range - 1 : of_range;
        };
        return {share(place.u, patch_.u()), share(place.v, patch_.v())};
    }
    static CellAt cell_of(Place place) {
        return {static_cast<std::int64_t>(std::floor(place.x / cell_size)),
                static_cast<std::int64_t>(std::floor(place.y / cell_size))};
    }
    std::size_t slot_of(CellAt cell) const {
        const std::uint64_t mixed = (static_cast<std::uint64_t>(cell.x) * 0x9E3779B97F4A7C15ULL +
                                     static_cast<std::uint64_t>(cell.y)) *
                                    0xC2B2AE3D27D4EB4FULL;
        return static_cast<std::size_t>(mixed >> 32U) & (waiting_.size() - 1);
    }
    std::size_t after(std::size_t slot) const { return (slot + 1) & (waiting_.size() - 1); }

    // What was paired stays in the table, so that what lies behind it is found.
    void put(std::size_t end) {
        std::size_t slot = slot_of(cell_of(places_[end]));
        while (waiting_[slot] != nobody)
            slot = after(slot);
        waiting_[slot] = end;
    }
    bool pair_up(std::size_t end) {
        const Place place = places_[end];
        const CellAt low = cell_of({place.x - near, place.y - near}),
                     high = cell_of({place.x + near, place.y + near});
        for (std::int64_t x = low.x; x <= high.x; ++x)
            for (std::int64_t y = low.y; y <= high.y; ++y)
                for (std::size_t slot = slot_of({x, y}); waiting_[slot] != nobody; slot = after(slot))
                    if (is_partner(waiting_[slot], end)) {
                        partner_[end] = waiting_[slot];
                        partner_[waiting_[slot]] = end;
                        return true;
                    }
        return false;
    }
    bool is_partner(std::size_t other, std::size_t end) const {
        return partner_[other] == nobody && other / 2 != end / 2 &&
               std::abs(places_[other].x - places_[end].x) <= near &&
               std::abs(places_[other].y - places_[end].y) <= near;
    }

    const SplinePatch& patch_;
    std::vector<std::size_t> partner_;
    std::vector<Place> places_;
    std::vector<std::size_t> waiting_;
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
        for (Chain& run : cut_at_creases(std::move(chain)))
            for (const Smooth& made : smooth_lines(std::move(run), level)) {
                deviation = std::max(deviation, made.deviation);
                const std::vector<SplineCurve> there = pieces_there(made);
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
    // Where a stretch begins with which a run does; `starts` is told its number, 0 of an open chain is not
    // asked.
    template <class Starts>
    static std::vector<Chain> cut_where(Chain chain, const Starts& starts) {
        std::vector<std::size_t> firsts;
        for (std::size_t number = chain.closed ? 0 : 1; number < chain.stretches.size(); ++number)
            if (starts(number)) firsts.push_back(number);
        if (firsts.empty()) return {std::move(chain)};
        if (chain.closed)
            std::rotate(chain.stretches.begin(), at(chain, firsts.front()), chain.stretches.end());
        const std::size_t turned = chain.closed ? firsts.front() : 0;
        if (!chain.closed) firsts.insert(firsts.begin(), 0);
        std::vector<Chain> runs;
        for (std::size_t run = 0; run < firsts.size(); ++run) {
            const std::size_t end =
                run + 1 < firsts.size() ? firsts[run + 1] - turned : chain.stretches.size();
            runs.push_back({{at(chain, firsts[run] - turned), at(chain, end)}, false});
        }
        return runs;
    }
    static std::vector<Stretch>::iterator at(Chain& chain, std::size_t number) {
        return chain.stretches.begin() + static_cast<std::ptrdiff_t>(number);
    }
    std::vector<Chain> cut_at_creases(Chain chain) const {
        const std::vector<Stretch> stretches = chain.stretches;
        return cut_where(std::move(chain),
                         [&](std::size_t number) { return is_on_crease(stretches[number].from); });
    }
    // At a saddle that is at the level a line turns at once.
    std::vector<Chain> cut_at_corners(Chain chain) const {
        constexpr double cos_30 = 0.8660254037844386;
        std::vector<Vec3> ways;
        for (const Stretch& stretch : chain.stretches)
            ways.push_back(unit_or_zero(place(stretch.to) - place(stretch.from)));
        return cut_where(std::move(chain), [&](std::size_t number) {
            return dot(ways[number], ways[(number + ways.size() - 1) % ways.size()]) < cos_30;
        });
    }

    // A line with its places over the parameters as fields u and v, unwound where it runs across a seam.
    // A closed line that comes round a closed direction ends elsewhere than it began there: `round` is by how
    // much, and is taken out of the fields evenly.
    struct Smooth {
        SplineCurve curve;
        LevelPlace round;
        double deviation = 0;
    };

    // A smooth line as it is inside of trims: cut where its run over the parameters crosses them.
    std::vector<SplineCurve> pieces_there(const Smooth& line) const {
        const SplineCurve curve = with_fields(line.curve, {});
        if (!patch_.trimmed()) return {curve};
        const SplineCurve over = over_parameters(line);
        std::vector<double> cuts;
        for (const SplineCurve& trim : patch_.trims()) {
            const SplineCurve square = *with_poles(trim, [&](Vec3 at) { return to_square({at.x, at.y}); });
            if (const auto found = crossings_with_curve(over, square, 1e-9, Run()))
                cuts.insert(cuts.end(), found->begin(), found->end());
        }
        std::vector<SplineCurve> there;
        for (const SplineCurve& piece : split_at(curve, cuts)) {
            double middle = std::midpoint(piece.basis().start(), piece.basis().end());
            if (middle > over.basis().end()) middle -= range(over.basis());
            const Vec3 at = evaluate(over, middle).position;
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
    // With the parameters of the line. A trimmed patch has no closed direction.
    SplineCurve over_parameters(const Smooth& line) const {
        const Column &u = line.curve.fields()[0].values, &v = line.curve.fields()[1].values;
        std::size_t pole = 0;
        return *with_poles(with_fields(line.curve, {}), [&](Vec3) {
            const Vec3 at = to_square({u[pole], v[pole]});
            ++pole;
            return at;
        });
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

    // Newton's step from a place that is hardly off to where the surface is at the level, in the plane
    // through a wanted place square to `along`.
    struct LevelStep {
        SurfacePoint here;
        double du = 0, dv = 0;
        // After the step, as far as the surface is flat there.
        Vec3 there() const { return here.position + here.along_u * du + here.along_v * dv; }
    };
    std::optional<LevelStep> step_to_level(LevelPlace at, Vec3 wanted, Vec3 along, double level) const {
        LevelStep step{evaluator_.at(at.u, at.v), 0, 0};
        const SurfacePoint value = function_.at(at.u, at.v);
        const double off = level - value.position.x, ahead = dot(wanted - step.here.position, along);
        const double fu = value.along_u.x, fv = value.along_v.x, au = dot(step.here.along_u, along),
                     av = dot(step.here.along_v, along), area = fu * av - fv * au;
        step.du = (off * av - fv * ahead) / area;
        step.dv = (fu * ahead - off * au) / area;
        return std::isfinite(step.du) && std::isfinite(step.dv) ? std::optional(step) : std::nullopt;
    }
    std::optional<LevelPlace> at_level(LevelPlace at, Vec3 wanted, Vec3 along, double level) const {
        constexpr int most_steps = 8;
        for (int count = 0; count < most_steps; ++count) {
            const auto step = step_to_level(at, wanted, along, level);
            if (!step) return {};
            at.u = std::clamp(at.u + step->du, patch_.u().start(), patch_.u().end());
            at.v = std::clamp(at.v + step->dv, patch_.v().start(), patch_.v().end());
            if (std::abs(step->du) <= 1e-10 * range(patch_.u()) &&
                std::abs(step->dv) <= 1e-10 * range(patch_.v()))
                break;
        }
        return at;
    }

    // Through the ends of its stretches, which are halved where it stands off; what does not come near so has
    // corners.
    std::vector<Smooth> smooth_lines(Chain chain, double level, int round = 0) const {
        for (;; ++round) {
            auto line = through_ends(chain);
            if (!line) return {};
            std::vector<Stretch> finer = halved_where_off(chain.stretches, *line, level);
            if (finer.size() == chain.stretches.size() || round == most_rounds) return {*std::move(line)};
            chain.stretches = std::move(finer);
            if (round != rounds_before_corners) continue;
            std::vector<Chain> runs = cut_at_corners(chain);
            if (runs.size() == 1) continue;
            std::vector<Smooth> lines;
            for (Chain& run : runs)
                for (Smooth& smooth : smooth_lines(std::move(run), level, round + 1))
                    lines.push_back(std::move(smooth));
            return lines;
        }
    }
    std::optional<Smooth> through_ends(const Chain& chain) const {
        CurvePoints points;
        points.closed = chain.closed && chain.stretches.size() > 2;
        const std::size_t count = chain.stretches.size() + (points.closed ? 0 : 1);
        points.points.reserve(count);
        for (const Stretch& stretch : chain.stretches)
            points.points.push_back(place(stretch.from));
        if (!points.closed) points.points.push_back(place(chain.stretches.back().to));
        points.parameters.assign(1, 0);
        for (std::size_t at = 0; at < chain.stretches.size(); ++at)
            points.parameters.push_back(points.parameters.back() +
                                        length(points.points[(at + 1) % count] - points.points[at]));
        const LevelPlace round = add_parameters(chain.stretches, points);
        auto curve = curve_through(std::move(points), CurveShape::smooth);
        if (!curve || curve->fields().size() != 2) return {};
        return Smooth{*std::move(curve), round, 0};
    }
    static LevelPlace add_parameters(const std::vector<Stretch>& stretches, CurvePoints& points) {
        LevelPlace round;
        if (points.closed)
            for (const Stretch& stretch : stretches) {
                round.u += stretch.to.u - stretch.from.u;
                round.v += stretch.to.v - stretch.from.v;
            }
        Doubles u(points.points.size()), v(points.points.size());
        LevelPlace at = stretches.front().from;
        for (std::size_t point = 0; point < u.size(); ++point) {
            const double share = points.parameters[point] / points.parameters.back();
            u[point] = at.u - share * round.u;
            v[point] = at.v - share * round.v;
            if (point == stretches.size()) break;
            at.u += stretches[point].to.u - stretches[point].from.u;
            at.v += stretches[point].to.v - stretches[point].from.v;
        }
        points.fields = {{"u", std::move(u), plain_number}, {"v", std::move(v), plain_number}};
        return round;
    }

    // Where a line is at a parameter, and the place of the surface that is meant.
    struct OnLine {
        CurvePoint point;
        LevelPlace place;
    };
    OnLine on_line(const Smooth& line, double parameter) const {
        const SplineBasis& basis = line.curve.basis();
        const BasisAt shares = basis_at(basis, parameter);
        const double ahead = (parameter - basis.start()) / range(basis);
        OnLine on{{}, {ahead * line.round.u, ahead * line.round.v}};
        const Column &u = line.curve.fields()[0].values, &v = line.curve.fields()[1].values;
        for (std::size_t a = 0; a <= static_cast<std::size_t>(basis.degree); ++a) {
            const std::size_t pole = shares.first + a;
            on.point.position = on.point.position + line.curve.pole(pole) * shares.values[a];
            on.point.along = on.point.along + line.curve.pole(pole) * shares.slopes[a];
            on.place.u += u[pole] * shares.values[a];
            on.place.v += v[pole] * shares.values[a];
        }
        on.place = {inside(on.place.u, patch_.u()), inside(on.place.v, patch_.v())};
        return on;
    }
    static double inside(double at, const SplineBasis& basis) {
        if (basis.closed) at -= range(basis) * std::floor((at - basis.start()) / range(basis));
        return std::clamp(at, basis.start(), basis.end());
    }

    // A place across a seam stands for the one at the seam's other side.
    LevelPlace in_bay_of(const Stretch& stretch, LevelPlace at) const {
        const auto on_side_of = [](double from, double t, const SplineBasis& basis) {
            const double turns = basis.closed ? std::round((from - t) / range(basis)) : 0;
            return std::clamp(t + turns * range(basis), basis.start(), basis.end());
        };
        return {on_side_of(stretch.from.u, at.u, patch_.u()), on_side_of(stretch.from.v, at.v, patch_.v())};
    }

    std::vector<Stretch> halved_where_off(const std::vector<Stretch>& stretches, Smooth& line,
                                          double level) const {
        const std::vector<double> at = breaks_of(line.curve.basis());
        // Two places at one place are one to the curve: nothing is measured then.
        if (at.size() != stretches.size() + 1) return stretches;
        std::vector<Stretch> finer;
        finer.reserve(stretches.size());
        for (std::size_t number = 0; number < stretches.size(); ++number) {
            finer.push_back(stretches[number]);
            const OnLine middle = on_line(line, std::midpoint(at[number], at[number + 1]));
            const Vec3 along = unit_or_zero(middle.point.along);
            const auto step = step_to_level(middle.place, middle.point.position, along, level);
            if (!step) continue;
            const double apart = length(step->there() - middle.point.position);
            line.deviation = std::max(line.deviation, apart);
            if (!(apart > tolerance_)) continue;
            const auto found = at_level(middle.place, middle.point.position, along, level);
            if (!found) continue;
            const LevelPlace there = in_bay_of(stretches[number], *found);
            finer.back().to = there;
            finer.push_back({there, stretches[number].to});
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

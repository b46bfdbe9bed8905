#include "core/geometry/levels/level_lines.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <numeric>
#include <optional>

#include "core/base/parallel.hpp"
#include "core/geometry/curves/curve_crossings.hpp"
#include "core/geometry/curves/curve_edit.hpp"
#include "core/geometry/curves/curve_interpolation.hpp"
#include "core/geometry/curves/curve_sampling.hpp"
#include "core/geometry/curves/spline_basis.hpp"
#include "core/geometry/levels/level_places.hpp"
#include "core/geometry/surfaces/patch_edit.hpp"
#include "core/geometry/surfaces/patch_evaluator.hpp"
#include "core/geometry/surfaces/patch_figures.hpp"

namespace plume {
namespace {

constexpr int most_rounds = 24;
constexpr int rounds_before_corners = 4;
constexpr double least_apart = 1e-10;  // of the size: what is nearer is one place

// What a line is made with: the surface, the function and how near is near enough.
class LineMaker {
public:
    LineMaker(const SplinePatch& patch, const SplinePatch& function, double tolerance)
        : patch_(patch),
          size_(poles_box(patch).diagonal()),
          places_(patch, function, least_apart * size_),
          sides_(patch),
          creases_{creases_of(patch.u()), creases_of(patch.v())},
          tolerance_(tolerance) {}

    // What of a chain has a length and is there; adds to the deviation.
    std::vector<SplineCurve> lines(ArcChain chain, double level, double& deviation) const {
        drop_short_stretches(chain);
        if (chain.stretches.empty()) return {};
        for (Stretch& stretch : chain.stretches) {
            stretch.from = places_.come_to_tip(stretch.from, stretch.to);
            stretch.to = places_.come_to_tip(stretch.to, stretch.from);
        }
        turn_higher_side_left(chain);
        std::vector<SplineCurve> pieces;
        for (ArcChain& run : cut_at_creases_and_tips(std::move(chain)))
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
    Vec3 place(LevelPlace at) const { return places_.place(at); }

    // Where a line passes beside the corner of a bay, its places nearly coincide: rounding would say where it
    // goes from one to the next. What is much shorter than its neighbours is put to one of them, unless a
    // crease lies between; what has no length is left out.
    void drop_short_stretches(ArcChain& chain) const {
        constexpr double much_shorter = 1e-3;
        std::vector<Stretch> kept;
        double before = 0;  // the length of the last one kept
        for (const Stretch& one : chain.stretches) {
            const double size = length(place(one.from) - place(one.to));
            if (size <= least_apart * size_) continue;
            const bool joins =
                !kept.empty() && (size < much_shorter * before || before < much_shorter * size);
            if (joins && !is_on_crease_or_tip(one.from)) {
                kept.back().to = one.to;
                before += size;
            } else {
                kept.push_back(one);
                before = size;
            }
        }
        chain.stretches = std::move(kept);
    }

    void turn_higher_side_left(ArcChain& chain) const {
        const Stretch& one = chain.stretches[chain.stretches.size() / 2];
        const LevelPlace middle{std::midpoint(one.from.u, one.to.u), std::midpoint(one.from.v, one.to.v)};
        const SurfacePoint here = places_.function_at(middle);
        // In the parameters the slope points to the higher side; the normal is that of u, v anticlockwise.
        const double left =
            (one.to.u - one.from.u) * here.along_v.x - (one.to.v - one.from.v) * here.along_u.x;
        if (left >= 0) return;
        std::ranges::reverse(chain.stretches);
        for (Stretch& stretch : chain.stretches)
            std::swap(stretch.from, stretch.to);
    }

    bool is_on_crease_or_tip(LevelPlace at) const {
        const auto is_one = [](double t, const std::vector<double>& creases, const SplineBasis& basis) {
            return std::ranges::any_of(
                creases, [&](double crease) { return std::abs(t - crease) <= 1e-9 * range_of(basis); });
        };
        return is_one(at.u, creases_[0], patch_.u()) || is_one(at.v, creases_[1], patch_.v()) ||
               places_.is_tip(at, 0) || places_.is_tip(at, 1);
    }
    // Where a stretch begins with which a run does; `starts` is told its number, 0 of an open chain is not
    // asked.
    template <class Starts>
    static std::vector<ArcChain> cut_where(ArcChain chain, const Starts& starts) {
        std::vector<std::size_t> firsts;
        for (std::size_t number = chain.closed ? 0 : 1; number < chain.stretches.size(); ++number)
            if (starts(number)) firsts.push_back(number);
        if (firsts.empty()) return {std::move(chain)};
        if (chain.closed)
            std::rotate(chain.stretches.begin(), at(chain, firsts.front()), chain.stretches.end());
        const std::size_t turned = chain.closed ? firsts.front() : 0;
        if (!chain.closed) firsts.insert(firsts.begin(), 0);
        std::vector<ArcChain> runs;
        for (std::size_t run = 0; run < firsts.size(); ++run) {
            const std::size_t end =
                run + 1 < firsts.size() ? firsts[run + 1] - turned : chain.stretches.size();
            runs.push_back({{at(chain, firsts[run] - turned), at(chain, end)}, false});
        }
        return runs;
    }
    static std::vector<Stretch>::iterator at(ArcChain& chain, std::size_t number) {
        return chain.stretches.begin() + static_cast<std::ptrdiff_t>(number);
    }
    std::vector<ArcChain> cut_at_creases_and_tips(ArcChain chain) const {
        const std::vector<Stretch> stretches = chain.stretches;
        return cut_where(std::move(chain),
                         [&](std::size_t number) { return is_on_crease_or_tip(stretches[number].from); });
    }
    // At a saddle that is at the level a line turns at once.
    std::vector<ArcChain> cut_at_corners(ArcChain chain) const {
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
        bool turns_back = false;  // at a place, by more than a right angle
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
            if (middle > over.basis().end()) middle -= range_of(over.basis());
            const Vec3 at = evaluate(over, middle).position;
            if (sides_.hold(std::lerp(patch_.u().start(), patch_.u().end(), at.x),
                            std::lerp(patch_.v().start(), patch_.v().end(), at.y)))
                there.push_back(piece);
        }
        return there;
    }
    Vec3 to_square(LevelPlace at) const {
        return {(at.u - patch_.u().start()) / range_of(patch_.u()),
                (at.v - patch_.v().start()) / range_of(patch_.v()), 0};
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

    // Where a line is at a parameter, and the place of the surface that is meant.
    struct OnLine {
        CurvePoint point;
        LevelPlace place;
    };

    // Through the ends of its stretches, which are halved where it stands off; what does not come near so has
    // corners. What does not even then is no line that a spline can follow, and stays as near as it came.
    std::vector<Smooth> smooth_lines(ArcChain chain, double level, int round = 0) const {
        const std::size_t most_stretches = 1000 + 100 * chain.stretches.size();
        for (;; ++round) {
            auto line = through_ends(chain);
            if (!line) return {};
            std::vector<Stretch> finer =
                halved_where_off(chain.stretches, *line, level, round > rounds_before_corners);
            const bool settled = finer.size() == chain.stretches.size();
            const bool folded = settled && line->turns_back && round <= rounds_before_corners;
            if ((settled && !folded) || finer.size() > most_stretches || round == most_rounds)
                return {*std::move(line)};
            chain.stretches = std::move(finer);
            if (round != rounds_before_corners && !folded) continue;
            std::vector<ArcChain> runs = cut_at_corners(chain);
            if (runs.size() == 1) continue;
            std::vector<Smooth> lines;
            for (ArcChain& run : runs)
                for (Smooth& smooth : smooth_lines(std::move(run), level, rounds_before_corners + 1))
                    lines.push_back(std::move(smooth));
            return lines;
        }
    }
    std::optional<Smooth> through_ends(const ArcChain& chain) const {
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
        bool turns_back = false;
        for (std::size_t at = 0; at + 2 < count; ++at)
            turns_back = turns_back || dot(points.points[at + 1] - points.points[at],
                                           points.points[at + 2] - points.points[at + 1]) < 0;
        const LevelPlace round = add_parameters(chain.stretches, points);
        auto curve = curve_through(std::move(points), CurveShape::smooth);
        if (!curve || curve->fields().size() != 2) return {};
        return Smooth{*std::move(curve), round, turns_back, 0};
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

    OnLine on_line(const Smooth& line, double parameter) const {
        const SplineBasis& basis = line.curve.basis();
        const BasisAt shares = basis_at(basis, parameter);
        const double ahead = (parameter - basis.start()) / range_of(basis);
        OnLine on{{}, {ahead * line.round.u, ahead * line.round.v}};
        const Column &u = line.curve.fields()[0].values, &v = line.curve.fields()[1].values;
        for (std::size_t a = 0; a <= static_cast<std::size_t>(basis.degree); ++a) {
            const std::size_t pole = shares.first + a;
            on.point.position = on.point.position + line.curve.pole(pole) * shares.values[a];
            on.point.along = on.point.along + line.curve.pole(pole) * shares.slopes[a];
            on.place.u += u[pole] * shares.values[a];
            on.place.v += v[pole] * shares.values[a];
        }
        on.place = places_.inside(on.place);
        return on;
    }
    // Looked at in the middle of each stretch, and where it is wild nearer to its ends, too.
    std::vector<Stretch> halved_where_off(const std::vector<Stretch>& stretches, Smooth& line, double level,
                                          bool wild) const {
        constexpr std::array shares{0.5, 0.1, 0.9};
        const std::vector<double> at = breaks_of(line.curve.basis());
        // Two places at one place are one to the curve: nothing is measured then.
        if (at.size() != stretches.size() + 1) return stretches;
        std::vector<Stretch> finer;
        finer.reserve(stretches.size());
        for (std::size_t number = 0; number < stretches.size(); ++number) {
            finer.push_back(stretches[number]);
            for (std::size_t look = 0; look < (wild ? shares.size() : 1); ++look) {
                const OnLine there = on_line(line, std::lerp(at[number], at[number + 1], shares[look]));
                const auto found = places_.beside(stretches[number], there.place, there.point.position,
                                                  unit_or_zero(there.point.along), level, tolerance_);
                line.deviation = std::max(line.deviation, found.apart);
                if (!(found.apart > tolerance_) || !places_.stands_apart(stretches[number], found.place))
                    continue;
                finer.back().to = found.place;
                finer.push_back({found.place, stretches[number].to});
                break;
            }
        }
        return finer;
    }

    const SplinePatch& patch_;
    double size_;
    LevelPlaces places_;
    TrimSides sides_;
    std::array<std::vector<double>, 2> creases_;
    double tolerance_;
};

}  // namespace

SplinePatch as_function(const SplinePatch& patch, Column numbers) {
    SplinePatch::Parts parts = patch.parts();
    parts.x = std::move(numbers);
    parts.y = parts.z = Doubles(parts.x.size(), 0.0);
    parts.fields.clear();
    parts.trims.clear();
    return *SplinePatch::make(std::move(parts));
}

SplinePatch heights_above(const SplinePatch& patch, const Placement& plane) {
    Doubles heights(patch.x().size());
    for (std::size_t pole = 0; pole < heights.size(); ++pole)
        heights[pole] = plane.to_local({patch.x()[pole], patch.y()[pole], patch.z()[pole]}).z;
    return as_function(patch, std::move(heights));
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
            for (ArcChain& chain : arcs_end_to_end(patch, arcs->of[level])) {
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

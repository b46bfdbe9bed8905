#include "core/geometry/curves/offset_curve.hpp"

#include <algorithm>
#include <cmath>
#include <functional>
#include <numeric>
#include <optional>

#include "core/base/numbers.hpp"
#include "core/data/place_text.hpp"
#include "core/geometry/curves/curve_corners.hpp"
#include "core/geometry/curves/curve_crossings.hpp"
#include "core/geometry/curves/curve_edit.hpp"
#include "core/geometry/curves/curve_sampling.hpp"
#include "core/geometry/curves/exact_curves.hpp"
#include "core/geometry/curves/spline_basis.hpp"

namespace plume {
namespace {

// What turns by less is smooth.
constexpr double least_turn_rad = 1e-5;
// A corner of more distances is cut off.
constexpr double longest_corner = 4;

Vec3 flattened(Vec3 direction, Vec3 up) {
    return direction - up * dot(direction, up);
}

class Offsetting {
public:
    Offsetting(const SplineCurve& curve, const CurveOffset& offset, const Run& run)
        : curve_(curve),
          offset_(offset),
          run_(run),
          size_(poles_box(curve).diagonal()),
          corners_(corners_of(curve, least_turn_rad)) {}

    Result<OffsetResult> make() {
        const auto pairs = offset_pieces();
        if (!pairs) return pairs.error();
        std::vector<SplineCurve> beside;
        for (const CurveImage& pair : *pairs)
            beside.push_back(pair.to);
        auto joined = with_joints(beside);
        if (!joined) return joined.error();
        return OffsetResult{*std::move(joined), deviation_};
    }

    Result<CurveImage> make_pair() {
        auto pairs = offset_pieces();
        if (!pairs) return pairs.error();
        if (pairs->size() == 1 && pairs->front().from.closed())
            return CurveImage{pairs->front().from, pairs->front().to, deviation_};
        if (Status led = lead_to_corners(*pairs); !led) return led.error();
        std::vector<SplineCurve> from, to;
        for (const CurveImage& pair : *pairs) {
            from.push_back(pair.from);
            to.push_back(pair.to);
        }
        const bool single = from.size() == 1;
        CurveImage both{single ? from.front() : end_to_end(from), single ? to.front() : end_to_end(to),
                        deviation_};
        if (!curve_.closed()) return both;
        return CurveImage{closed_up(both.from), closed_up(both.to), deviation_};
    }

private:
    Result<std::vector<CurveImage>> offset_pieces() {
        std::vector<SplineCurve> pieces = cut_at_corners(curve_, corners_);
        // The two sides of the only corner of a closed curve are two pieces, to be cut by each other.
        if (curve_.closed() && corners_.size() == 1)
            pieces = split_at(pieces.front(),
                              {std::midpoint(pieces.front().basis().start(), pieces.front().basis().end())});
        std::vector<CurveImage> pairs;
        for (const SplineCurve& piece : pieces) {
            if (run_.cancelled()) return cancelled_error();
            auto one = offset_piece(piece);
            if (!one) return one.error();
            deviation_ = std::max(deviation_, one->deviation);
            pairs.push_back(*std::move(one));
        }
        return pairs;
    }

    Vec3 flat(Vec3 direction) const { return flattened(direction, offset_.up); }
    Vec3 left_of(Vec3 along) const { return cross(offset_.up, unit_or_zero(flat(along))); }

    Error no_side(Vec3 at) const {
        return {ErrorCode::unlike_arrangement, "",
                "has no side near " + place_text(at) +
                    ": it runs along the direction it is seen from, or stands "
                    "still",
                "See it from another side, or take that part away."};
    }

    // How much it bends to the left in the view.
    double bend_left(const CurveBend& at) const {
        const Vec3 along = flat(at.along);
        const double speed = length(along);
        return dot(cross(along, flat(at.bend)), offset_.up) / (speed * speed * speed);
    }

    // Where it bends most towards the side, of even probes between the knots.
    Status check_bends(const SplineCurve& piece) const {
        constexpr int probes = 32;
        const std::vector<double> breaks = breaks_of(piece.basis());
        const double side = offset_.distance > 0 ? 1 : -1;
        double tightest = 0;
        Vec3 where;
        for (std::size_t span = 0; span + 1 < breaks.size(); ++span)
            for (int probe = 0; probe <= probes; ++probe) {
                const double share = std::clamp(probe / static_cast<double>(probes), 1e-9, 1 - 1e-9);
                const CurveBend at = evaluate_bend(piece, std::lerp(breaks[span], breaks[span + 1], share));
                if (!(length(flat(at.along)) > 1e-12 * size_)) return no_side(at.position);
                const double bend = side * bend_left(at);
                if (!(bend > tightest)) continue;
                tightest = bend;
                where = at.position;
            }
        if (tightest * std::abs(offset_.distance) < 1) return Done{};
        return Error{ErrorCode::out_of_range, "",
                     "is more than the curve leaves room for near " + place_text(where) +
                         ", where it bends towards that side with a radius of " + short_text(1 / tightest),
                     "Offset it by less than that, or to the other side."};
    }

    // The centre of a piece that is a circle or a part of one in the view.
    std::optional<Vec3> centre_of(const SplineCurve& piece) const {
        constexpr int probes = 8;
        std::optional<Vec3> centre;
        for (int probe = 0; probe <= probes; ++probe) {
            const double share = std::clamp(probe / static_cast<double>(probes), 1e-9, 1 - 1e-9);
            const CurveBend at =
                evaluate_bend(piece, std::lerp(piece.basis().start(), piece.basis().end(), share));
            const double bend = bend_left(at);
            if (!(std::abs(bend) * size_ > 1e-9) || std::abs(dot(at.along, offset_.up)) > 1e-12 * size_)
                return {};
            const Vec3 here = at.position + left_of(at.along) * (1 / bend);
            if (centre && length(here - *centre) > 1e-10 * size_) return {};
            centre = here;
        }
        return centre;
    }

    Result<CurveImage> offset_piece(const SplineCurve& piece) {
        const double d = offset_.distance;
        if (runs_straight(piece, offset_.up)) {
            const Vec3 by = left_of(evaluate(piece, piece.basis().end()).position - start_of(piece)) * d;
            return with_image(piece, [&](Vec3 pole) { return pole + by; });
        }
        if (Status bends = check_bends(piece); !bends) return bends.error();
        if (const auto centre = centre_of(piece)) {
            const CurveBend at = evaluate_bend(piece, piece.basis().start());
            const double scale = 1 - d * bend_left(at);
            return with_image(piece, [&](Vec3 pole) { return *centre + (pole - *centre) * scale; });
        }
        const CurvePlace place = [&](double t) -> Result<Vec3> {
            const CurvePoint at = evaluate(piece, t);
            const Vec3 left = left_of(at.along);
            if (!(length(left) > 0)) return no_side(at.position);
            return at.position + left * d;
        };
        return image_of(piece, place, 1e-7 * size_, run_);
    }

    static Result<CurveImage> with_image(const SplineCurve& piece, const std::function<Vec3(Vec3)>& moved) {
        const auto beside = with_poles(piece, moved);
        if (!beside) return beside.error();
        return CurveImage{piece, *beside, 0};
    }

    // From a corner to where the lines beside its two sides meet, square to up.
    Result<Vec3> way_to_mitre(const CurveCorner& corner) const {
        const Vec3 before = left_of(corner.before), behind = left_of(corner.behind);
        const double half = std::cos(std::abs(turn_of(corner)) / 2);
        if (half * longest_corner > 1) return (before + behind) * (offset_.distance / (2 * half * half));
        return Error{ErrorCode::unlike_arrangement, "",
                     "turns too sharply at " + place_text(corner.place) + " to have a corner beside it",
                     "Round that corner first."};
    }

    // The number of the piece that begins at a corner: of a closed curve its own.
    std::size_t piece_behind(std::size_t corner) const { return curve_.closed() ? corner : corner + 1; }

    Status lead_to_corners(std::vector<CurveImage>& pairs) const {
        for (std::size_t at = 0; at < corners_.size(); ++at) {
            const auto mitre = way_to_mitre(corners_[at]);
            if (!mitre) return mitre.error();
            const std::size_t behind = piece_behind(at) % pairs.size(),
                              before = (piece_behind(at) + pairs.size() - 1) % pairs.size();
            for (const bool end : {true, false})
                if (Status led = lead_end(pairs[end ? before : behind], end, corners_[at], *mitre); !led)
                    return led;
        }
        for (const CurveImage& pair : pairs)
            if (!(dot(flat(end_of(pair.to) - start_of(pair.to)),
                      flat(end_of(pair.from) - start_of(pair.from))) > 0) &&
                runs_straight(pair.from, offset_.up))
                return Error{
                    ErrorCode::out_of_range, "",
                    "is more than the side at " + place_text(start_of(pair.from)) + " leaves room for",
                    "Lean it less, or to the other side."};
        return Done{};
    }

    // Moves one end of what is beside a line, and the places between evenly.
    Status lead_end(CurveImage& pair, bool end, const CurveCorner& corner, Vec3 mitre) const {
        if (!runs_straight(pair.from, offset_.up))
            return Error{ErrorCode::unlike_arrangement, "",
                         "bends beside the corner at " + place_text(corner.place),
                         "Round that corner first."};
        const Vec3 from = start_of(pair.from), along = flat(end_of(pair.from) - from);
        const Vec3 by = corner.place + mitre - (end ? end_of(pair.to) : start_of(pair.to));
        std::size_t pole = 0;
        const auto led = with_poles(pair.to, [&](Vec3 place) {
            const double share = dot(flat(pair.from.pole(pole++) - from), along) / dot(along, along);
            return place + by * (end ? share : 1 - share);
        });
        if (!led) return led.error();
        pair.to = *led;
        return Done{};
    }

    // Between the end of one piece and the start of the next, on the side away from the turn.
    void add_outer_corner(const CurveCorner& corner, Vec3 from, Vec3 to, double turn,
                          std::vector<SplineCurve>& all) const {
        const auto add = [&](const Result<SplineCurve>& piece) {
            if (piece) all.push_back(*piece);
        };
        const double reach = std::abs(offset_.distance) * std::tan(std::abs(turn) / 2);
        if (offset_.round_corners)
            add(arc_about(corner.place, offset_.up * (turn > 0 ? 1.0 : -1.0), from, to));
        else if (reach > longest_corner * std::abs(offset_.distance) || !std::isfinite(reach))
            add(line_between(from, to));
        else {
            const Vec3 tip = from + unit_or_zero(flat(corner.before)) * reach;
            add(line_between(from, tip));
            add(line_between(tip, to));
        }
    }

    // Cuts the end of one piece and the start of the next where they cross in the view.
    Status cut_inner_corner(const CurveCorner& corner, SplineCurve& before, SplineCurve& behind) const {
        const auto seen = [&](const SplineCurve& piece) {
            return with_poles(piece, [&](Vec3 pole) { return flat(pole); });
        };
        const auto one = seen(before), other = seen(behind);
        if (!one || !other) return one ? other.error() : one.error();
        const double near = 1e-9 * size_;
        const auto ends = crossings_with_curve(*one, *other, near, run_);
        const auto starts = crossings_with_curve(*other, *one, near, run_);
        if (!ends && ends.error().code == ErrorCode::cancelled) return ends.error();
        const bool cross = ends && starts && !ends->empty() && !starts->empty() &&
                           ends->back() > before.basis().start() && starts->front() < behind.basis().end();
        if (!cross)
            return Error{
                ErrorCode::out_of_range, "",
                "is more than the sides of the corner at " + place_text(corner.place) + " leave room for",
                "Offset it by less, or to the other side."};
        before = part_of(before, before.basis().start(), ends->back());
        behind = part_of(behind, starts->front(), behind.basis().end());
        return with_one_height(corner, before, behind);
    }

    // Lines that rise come to the corner at its own height; of what bends two heights cannot be made one.
    Status with_one_height(const CurveCorner& corner, SplineCurve& before, SplineCurve& behind) const {
        for (SplineCurve* piece : {&before, &behind}) {
            const std::size_t end = piece == &before ? piece->x().size() - 1 : 0;
            const double off = dot(corner.place - piece->pole(end), offset_.up);
            if (std::abs(off) <= 1e-9 * size_) continue;
            if (piece->x().size() != 2)
                return Error{ErrorCode::unlike_arrangement, "",
                             "rises beside the corner at " + place_text(corner.place) +
                                 ", where what is beside it would have two heights",
                             "Lay it onto a plane first, or round that corner."};
            std::size_t pole = 0;
            const auto raised =
                with_poles(*piece, [&](Vec3 at) { return pole++ == end ? at + offset_.up * off : at; });
            if (!raised) return raised.error();
            *piece = *raised;
        }
        return Done{};
    }

    // With the sign of a turn to the left, in the view.
    double turn_of(const CurveCorner& corner) const {
        const Vec3 a = unit_or_zero(flat(corner.before)), b = unit_or_zero(flat(corner.behind));
        return std::atan2(dot(cross(a, b), offset_.up), dot(a, b));
    }

    // Corner k stands before piece k of a closed curve, and behind piece k of an open one.
    Result<SplineCurve> with_joints(std::vector<SplineCurve>& pieces) const {
        const std::size_t count = pieces.size();
        std::vector<std::vector<SplineCurve>> behind(count);  // what follows each piece
        for (std::size_t at = 0; at < corners_.size(); ++at) {
            const std::size_t next = piece_behind(at), last = (next + count - 1) % count;
            const double turn = turn_of(corners_[at]);
            if (turn * offset_.distance > 0) {
                if (Status cut = cut_inner_corner(corners_[at], pieces[last], pieces[next % count]); !cut)
                    return cut.error();
            } else
                add_outer_corner(corners_[at], evaluate(pieces[last], pieces[last].basis().end()).position,
                                 start_of(pieces[next % count]), turn, behind[last]);
        }
        std::vector<SplineCurve> all;
        for (std::size_t at = 0; at < count; ++at) {
            all.push_back(over_length(pieces[at]));
            for (const SplineCurve& joint : behind[at])
                all.push_back(over_length(joint));
        }
        const bool single = all.size() == 1;
        if (single && all.front().closed()) return all.front();
        SplineCurve whole = single ? all.front() : end_to_end(all);
        return curve_.closed() ? closed_up(whole) : whole;
    }

    const SplineCurve& curve_;
    const CurveOffset& offset_;
    const Run& run_;
    double size_, deviation_ = 0;
    std::vector<CurveCorner> corners_;
};

}  // namespace

bool runs_straight(const SplineCurve& curve, Vec3 up) {
    const double slack = 1e-12 * poles_box(curve).diagonal();
    const Vec3 from = start_of(curve);
    const Vec3 along = unit_or_zero(flattened(evaluate(curve, curve.basis().end()).position - from, up));
    if (!(length(along) > 0)) return false;
    double reached = -slack;
    for (std::size_t pole = 0; pole < curve.x().size(); ++pole) {
        const Vec3 to = flattened(curve.pole(pole) - from, up);
        // It may not run back, either.
        if (length(to - along * dot(to, along)) > slack || dot(to, along) < reached) return false;
        reached = dot(to, along);
    }
    return true;
}

Result<OffsetResult> offset_curve(const SplineCurve& curve, const CurveOffset& offset, const Run& run) {
    if (offset.distance == 0) return OffsetResult{curve, 0};
    return Offsetting(curve, offset, run).make();
}

Result<CurveImage> curve_and_offset(const SplineCurve& curve, const CurveOffset& offset, const Run& run) {
    return Offsetting(curve, offset, run).make_pair();
}

}  // namespace plume

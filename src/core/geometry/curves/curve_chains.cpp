#include "core/geometry/curves/curve_chains.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>
#include <numbers>

#include "core/geometry/curves/curve_division.hpp"
#include "core/geometry/curves/curve_edit.hpp"
#include "core/geometry/curves/curve_rebuild.hpp"
#include "core/geometry/curves/exact_curves.hpp"
#include "core/geometry/measures/point_tree.hpp"

namespace plume {
namespace {

// Ends are numbered 2 c for the start and 2 c + 1 for the end of open curve c.
struct Joint {
    double gap;
    std::size_t a, b;
};

constexpr std::size_t loose = std::numeric_limits<std::size_t>::max();

// Which end every end is put to: nearest pairs first, each end once.
std::vector<std::size_t> partners_of(const std::vector<SplineCurve>& open, const std::vector<Vec3>& ends,
                                     double tolerance, CurveChains& chains) {
    // A curve hardly longer than the tolerance does not close on itself.
    const auto closes = [&](std::size_t end) { return open[end / 2].basis().end() > 2 * tolerance; };
    const PointTree tree(ends);
    std::vector<Joint> joints;
    for (std::size_t end = 0; end < ends.size(); ++end)
        tree.for_each_within(ends[end], tolerance, [&](std::size_t other, double gap) {
            if (other > end && (other != (end ^ 1U) || closes(end))) joints.push_back({gap, end, other});
            return true;
        });
    std::ranges::sort(joints, [](const Joint& a, const Joint& b) {
        return std::tuple(a.gap, a.a, a.b) < std::tuple(b.gap, b.a, b.b);
    });
    std::vector<std::size_t> partner(ends.size(), loose);
    for (const Joint& joint : joints) {
        if (partner[joint.a] != loose || partner[joint.b] != loose) continue;
        partner[joint.a] = joint.b;
        partner[joint.b] = joint.a;
        ++chains.joints;
        chains.largest_gap = std::max(chains.largest_gap, joint.gap);
    }
    return partner;
}

// The curves of a chain in order, beginning with an end at which one comes in.
SplineCurve run_through(const std::vector<SplineCurve>& open, const std::vector<std::size_t>& partner,
                        std::size_t entry, std::vector<std::uint8_t>& used) {
    std::vector<SplineCurve> parts;
    bool closed = false;
    for (std::size_t end = entry;;) {
        const std::size_t curve = end / 2;
        used[curve] = 1;
        parts.push_back(end % 2 == 0 ? open[curve] : reversed(open[curve]));
        const std::size_t next = partner[end ^ 1U];
        closed = next == entry;
        if (next == loose || closed) break;
        end = next;
    }
    const SplineCurve whole = parts.size() == 1 ? parts.front() : end_to_end(parts);
    return closed ? closed_up(whole) : whole;
}

double smallest_open_gap(const std::vector<Vec3>& ends, const std::vector<std::size_t>& partner) {
    std::vector<Vec3> open;
    std::vector<std::size_t> curve;
    for (std::size_t end = 0; end < ends.size(); ++end)
        if (partner[end] == loose) {
            open.push_back(ends[end]);
            curve.push_back(end / 2);
        }
    double smallest = std::numeric_limits<double>::infinity();
    for (std::size_t a = 0; a < open.size() && open.size() < 4000; ++a)
        for (std::size_t b = a + 1; b < open.size(); ++b)
            if (curve[a] != curve[b]) smallest = std::min(smallest, length(open[a] - open[b]));
    return smallest;
}

Result<SplineCurve> onwards(const SplineCurve& curve, double by) {
    const double start = curve.basis().start(), end = curve.basis().end();
    const double speed = length(evaluate(curve, end).along);
    const Error too_far{ErrorCode::out_of_range, "", "The curve cannot go on that far as it runs",
                        "Type a smaller length, or go on straight or in its bend."};
    // A rational curve may near a place that it never reaches.
    constexpr double most_domains = 1e4;
    double further = by / (speed > 0 ? speed : 1);
    for (int round = 0; round < 60; ++round) {
        if (!(further > 0) || !(further < most_domains * (end - start))) return too_far;
        const SplineChange change = part_of(curve.basis(), start, end + further);
        if (curve.rational()) {
            const Doubles weights(curve.weights().span().begin(), curve.weights().span().end());
            const Doubles moved = changed_rows(change, weights, 1);
            if (!std::ranges::all_of(moved, [](double weight) { return weight > 0; })) return too_far;
        }
        const SplineCurve longer = changed(curve, change);
        const double made = length_of(part_of(longer, end, end + further));
        const double ahead = length(evaluate(longer, end + further).along);
        const double step = (by - made) / ahead;
        if (!std::isfinite(step)) return too_far;
        if (std::abs(step) <= 1e-12 * further) return longer;
        further = std::max(further + step, further / 4);
    }
    return too_far;
}

bool alike(const SplineCurve& a, const SplineCurve& b) {
    return a.closed() == b.closed() && a.basis().degree == b.basis().degree && a.x().size() == b.x().size();
}

// As many poles, over the same knots: those of the first.
SplineCurve between(const SplineCurve& a, const SplineCurve& b, double share) {
    Doubles x, y, z, weights;
    for (std::size_t pole = 0; pole < a.x().size(); ++pole) {
        const Vec3 place = a.pole(pole) * (1 - share) + b.pole(pole) * share;
        x.push_back(place.x);
        y.push_back(place.y);
        z.push_back(place.z);
        weights.push_back(std::lerp(a.weight(pole), b.weight(pole), share));
    }
    SplineBasis basis = a.basis();
    const SplineBasis other = over_domain(b.basis(), basis.start(), basis.end());
    for (std::size_t knot = 0; knot < basis.knots.size(); ++knot)
        basis.knots[knot] = std::lerp(basis.knots[knot], other.knots[knot], share);
    for (std::size_t node = 0; node < std::min(basis.nodes.size(), other.nodes.size()); ++node)
        basis.nodes[node] = std::lerp(basis.nodes[node], other.nodes[node], share);
    const bool rational = a.rational() || b.rational();
    return *SplineCurve::make({std::move(basis),
                               std::move(x),
                               std::move(y),
                               std::move(z),
                               rational ? Column(std::move(weights)) : Column(),
                               {}});
}

// Through places at equal shares of its length.
Result<SplineCurve> evened(const SplineCurve& curve, std::size_t bays, CurveShape shape) {
    CurvePoints item = even_points(curve, bays);
    item.fields.clear();  // the two need not have the same
    for (std::size_t at = 0; at <= bays; ++at)
        item.parameters.push_back(static_cast<double>(at));
    return curve_through(std::move(item), shape);
}

}  // namespace

Result<CurveChains> chained_end_to_end(const CurveSet& set, double tolerance, const Run& run) {
    CurveChains chains;
    std::vector<SplineCurve> open;
    std::vector<Vec3> ends;
    for (const SplineCurve& curve : set.curves) {
        if (curve.closed()) {
            chains.set.curves.push_back(curve);
            continue;
        }
        open.push_back(over_length(curve));
        ends.push_back(start_of(curve));
        ends.push_back(end_of(curve));
    }
    chains.smallest_open = std::numeric_limits<double>::infinity();
    if (open.empty()) return chains;
    const std::vector<std::size_t> partner = partners_of(open, ends, tolerance, chains);
    std::vector<std::uint8_t> used(open.size(), 0);
    // First chains that begin where a curve does, so that curves which all run one way keep it; then those
    // that begin where one ends; what is left comes round.
    enum class Begins { at_start, at_end, anywhere };
    for (const Begins begins : {Begins::at_start, Begins::at_end, Begins::anywhere})
        for (std::size_t curve = 0; curve < open.size(); ++curve) {
            if (run.cancelled()) return cancelled_error();
            const std::size_t entry = 2 * curve + (begins == Begins::at_end ? 1 : 0);
            if (used[curve] != 0 || (begins != Begins::anywhere && partner[entry] != loose)) continue;
            chains.set.curves.push_back(run_through(open, partner, entry, used));
        }
    chains.smallest_open = smallest_open_gap(ends, partner);
    return chains;
}

Result<SplineCurve> extended(const SplineCurve& curve, double by, Extension shape) {
    if (curve.closed())
        return Error{ErrorCode::has_gaps, "", "A closed curve has no end to go on from",
                     "Open it first, by taking a part of it."};
    if (shape == Extension::onwards) return onwards(curve, by);
    const CurveBend at = evaluate_bend(curve, curve.basis().end());
    const Vec3 along = unit_or_zero(at.along);
    const double curvature = curvature_of(at);
    SplineCurve further = curve;
    if (shape == Extension::straight || !(curvature * by > 1e-9)) {
        const auto line = line_between(at.position, at.position + along * by);
        if (!line) return line.error();
        further = *line;
    } else {
        const Vec3 normal = unit_or_zero(cross(at.along, at.bend)), inwards = cross(normal, along);
        EllipseArc arc;
        arc.half_x = arc.half_y = 1 / curvature;
        arc.plane = placement_of(at.position + inwards * arc.half_x, normal, inwards * -1);
        arc.sweep_rad = by * curvature;
        if (arc.sweep_rad >= 2 * std::numbers::pi)
            return Error{ErrorCode::out_of_range, "", "would take the arc more than once round",
                         "Type a smaller length, or go on straight."};
        further = ellipse_arc(arc);
    }
    // Its numbers stay what they are at the end.
    std::vector<Field> fields;
    for (const Field& field : curve.fields())
        fields.push_back({field.name,
                          Doubles(further.x().size(), field_at(curve, field.name, curve.basis().end())),
                          field.dimension});
    const std::array<SplineCurve, 2> both{curve, with_fields(further, std::move(fields))};
    return end_to_end(both);
}

Result<CurveSet> blended(const SplineCurve& first, const SplineCurve& last, std::size_t between_them,
                         const Run& run) {
    if (first.closed() != last.closed())
        return Error{ErrorCode::unlike_arrangement, "", "One of the curves is closed and the other open",
                     "Choose two open or two closed ones."};
    SplineCurve a = first, b = last;
    if (!alike(a, b)) {
        const bool straight = a.basis().degree == 1 && b.basis().degree == 1;
        const std::size_t bays = 4 * std::max(a.x().size(), b.x().size());
        const CurveShape shape = straight ? CurveShape::straight : CurveShape::smooth;
        const auto even_a = evened(a, bays, shape), even_b = evened(b, bays, shape);
        if (!even_a) return even_a.error();
        if (!even_b) return even_b.error();
        a = *even_a;
        b = *even_b;
    }
    CurveSet set;
    set.curves.push_back(first);
    for (std::size_t at = 1; at <= between_them; ++at) {
        if (run.cancelled()) return cancelled_error();
        set.curves.push_back(between(a, b, static_cast<double>(at) / static_cast<double>(between_them + 1)));
    }
    set.curves.push_back(last);
    return set;
}

}  // namespace plume

#include "core/geometry/surfaces/extended_surface.hpp"

#include <algorithm>
#include <cmath>
#include <iterator>

#include "core/data/place_text.hpp"
#include "core/geometry/curves/curve_division.hpp"
#include "core/geometry/curves/curve_edit.hpp"
#include "core/geometry/curves/mapped_curve.hpp"
#include "core/geometry/surfaces/patch_edit.hpp"
#include "core/geometry/surfaces/patch_evaluator.hpp"

namespace plume {
namespace {

// Of the size.
constexpr double true_share = 1e-7, tip_share = 1e-9;
constexpr int probes = 9;

// Knots of one that another has not, each as often as it stands there more.
std::vector<double> knots_lacking(const SplineBasis& has, const SplineBasis& wants) {
    std::vector<double> lacking;
    std::ranges::set_difference(wants.knots, has.knots, std::back_inserter(lacking));
    return lacking;
}

// Over the knots in u that its rim was given.
SplinePatch over_knots_of(const SplineCurve& rim, SplinePatch patch) {
    if (patch.u().degree < 3) patch = changed(patch, 0, raised(patch.u(), 3));
    return changed(patch, 0, refined(patch.u(), knots_lacking(patch.u(), rim.basis())));
}

// One bay more in v, in which every pole of the last row goes straight to that of another rim.
Result<SplinePatch> with_straight_bay(const SplinePatch& patch, const SplineCurve& rim, double further) {
    SplinePatch::Parts parts = patch.parts();
    const double end = parts.v.end() + further;
    const auto degree = static_cast<std::size_t>(parts.v.degree);
    parts.v.knots.pop_back();
    parts.v.knots.insert(parts.v.knots.end(), degree + 1, end);
    if (!parts.v.nodes.empty()) parts.v.nodes.push_back(end);
    const std::size_t row = rim.x().size(), last = patch.x().size() - row;
    const auto longer = [&](const Column& column, const auto& on_rim) {
        Doubles numbers(column.span().begin(), column.span().end());
        for (std::size_t step = 1; step <= degree; ++step)
            for (std::size_t pole = 0; pole < row; ++pole)
                numbers.push_back(std::lerp(column[last + pole], on_rim(pole),
                                            static_cast<double>(step) / static_cast<double>(degree)));
        return Column(std::move(numbers));
    };
    const auto as_it_was = [&](const Column& column) {
        return longer(column, [&](std::size_t pole) { return column[last + pole]; });
    };
    parts.x = longer(patch.x(), [&](std::size_t pole) { return rim.x()[pole]; });
    parts.y = longer(patch.y(), [&](std::size_t pole) { return rim.y()[pole]; });
    parts.z = longer(patch.z(), [&](std::size_t pole) { return rim.z()[pole]; });
    if (patch.rational()) parts.weights = as_it_was(patch.weights());
    for (Field& field : parts.fields)
        field.values = as_it_was(field.values);
    return SplinePatch::make(std::move(parts));
}

double probe_at(const SplineBasis& basis, int probe) {
    return std::lerp(basis.start(), basis.end(), (probe + 0.5) / probes);
}

double mean_speed(const PatchEvaluator& patch, const SplineBasis& along, double v) {
    double sum = 0;
    for (int probe = 0; probe < probes; ++probe)
        sum += length(patch.at(probe_at(along, probe), v).along_v);
    return sum / probes;
}

// Beyond the end of v; open both ways.
Result<ExtendedSurface> straight_on(const SplinePatch& patch, double by, const Run& run) {
    const double end = patch.v().end(), size = poles_box(patch).diagonal();
    const PatchEvaluator evaluator(patch);
    const double speed = mean_speed(evaluator, patch.u(), end);
    const CurvePlace beyond = [&](double u) -> Result<Vec3> {
        const SurfacePoint at = evaluator.at(u, end);
        if (!(length(at.along_v) > 1e-9 * speed))
            return Error{ErrorCode::unlike_arrangement, "",
                         "stands still at its rim, at " + place_text(at.position),
                         "Extend another rim, or rebuild it from even bays first."};
        return at.position + unit_or_zero(at.along_v) * by;
    };
    const auto image = image_of(iso_curve(patch, 0, end), beyond, true_share * std::max(size, by), run);
    if (!image) return image.error();
    Result<SplinePatch> longer = with_straight_bay(over_knots_of(image->from, patch), image->to, by / speed);
    if (!longer) return longer.error();
    return ExtendedSurface{*std::move(longer), image->deviation, by, by};
}

struct Reach {
    double mean = 0, shortest = 0, longest = 0;
};
Reach reach_beyond(const SplinePatch& patch, double from) {
    Reach reach;
    for (int probe = 0; probe < probes; ++probe) {
        const SplineCurve line = iso_curve(patch, 1, probe_at(patch.u(), probe));
        const double made = length_of(part_of(line, from, line.basis().end()));
        reach.mean += made / probes;
        reach.shortest = probe == 0 ? made : std::min(reach.shortest, made);
        reach.longest = std::max(reach.longest, made);
    }
    return reach;
}

// Beyond the end of v, which is open.
Result<ExtendedSurface> onwards(const SplinePatch& patch, double by, const Run& run) {
    const double start = patch.v().start(), end = patch.v().end();
    const Error too_far{ErrorCode::out_of_range, "", "cannot go on that far as it bends",
                        "Type a smaller length, or let it go straight on."};
    // A rational one may near a place that it never reaches.
    constexpr double most_domains = 1e4;
    const double speed = mean_speed(PatchEvaluator(patch), patch.u(), end);
    double further = by / (speed > 0 ? speed : 1);
    for (int round = 0; round < 60; ++round) {
        if (run.cancelled()) return cancelled_error();
        if (!(further > 0) || !(further < most_domains * (end - start))) return too_far;
        const SplineChange change = part_of(patch.v(), start, end + further);
        if (patch.rational()) {
            const Doubles weights(patch.weights().span().begin(), patch.weights().span().end());
            const Doubles moved = changed_rows(change, weights, patch.u().pole_count());
            if (!std::ranges::all_of(moved, [](double weight) { return weight > 0; })) return too_far;
        }
        const SplinePatch longer = changed(patch, 1, change);
        const Reach reach = reach_beyond(longer, end);
        const double step = (by - reach.mean) / mean_speed(PatchEvaluator(longer), longer.u(), end + further);
        if (!std::isfinite(step)) return too_far;
        if (std::abs(step) <= 1e-12 * further)
            return ExtendedSurface{longer, 0, reach.shortest, reach.longest};
        further = std::max(further + step, further / 4);
    }
    return too_far;
}

// Beyond the end of v.
Result<ExtendedSurface> extended_in_v(const SplinePatch& patch, double by, SurfaceExtension shape,
                                      const Run& run) {
    const SplinePatch open = changed(patch, 1, opened(patch.v()));
    if (!has_rim(open, 1, true))
        return Error{ErrorCode::unlike_arrangement, "", "is drawn together to a tip there",
                     "Extend another rim, or take a part of it that ends before the tip."};
    if (shape == SurfaceExtension::onwards) return onwards(open, by, run);
    Result<ExtendedSurface> made = straight_on(changed(open, 0, opened(open.u())), by, run);
    if (made && patch.u().closed) made->patch = closed_up(made->patch, 0);
    return made;
}

}  // namespace

bool has_rim(const SplinePatch& patch, int direction, bool at_end) {
    const SplineBasis& basis = basis_along(patch, direction);
    return !basis.closed && !is_tip(iso_curve(patch, 1 - direction, at_end ? basis.end() : basis.start()),
                                    tip_share * poles_box(patch).diagonal());
}

Result<ExtendedSurface> extended(const SplinePatch& patch, const RimToExtend& rim, const Run& run) {
    if (basis_along(patch, rim.direction).closed)
        return Error{ErrorCode::has_gaps, "",
                     rim.direction == 0 ? "closes along u and has no rim there"
                                        : "closes along v and has no rim there",
                     "Take a part of it first, or choose its other rims."};
    SplinePatch ahead = rim.direction == 0 ? swapped(patch) : patch;
    if (!rim.at_end) ahead = reversed(ahead, 1);
    Result<ExtendedSurface> made = extended_in_v(ahead, rim.by, rim.shape, run);
    if (!made) return made;
    if (!rim.at_end) made->patch = reversed(made->patch, 1);
    if (rim.direction == 0) made->patch = swapped(made->patch);
    return made;
}

}  // namespace plume

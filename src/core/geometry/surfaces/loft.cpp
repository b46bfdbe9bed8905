#include "core/geometry/surfaces/loft.hpp"

#include <algorithm>
#include <cmath>

#include "core/geometry/curves/compatible_curves.hpp"
#include "core/geometry/curves/curve_edit.hpp"
#include "core/geometry/curves/exact_curves.hpp"
#include "core/geometry/curves/spline_system.hpp"

namespace plume {
namespace {

// Rows of poles as weighted_rows() has them, a section behind the other.
struct Rows {
    SplineBasis along;
    std::size_t width = 4;  // numbers a pole
    bool rational = false;
    std::vector<Field> fields;  // names and dimensions
    Doubles numbers;
};

std::size_t poles_of(const Rows& rows) {
    return rows.along.pole_count();
}

Rows rows_of(const std::vector<SplineCurve>& curves) {
    const SplineCurve& first = curves.front();
    Rows rows{first.basis(), row_width(first), first.rational(), first.fields(), {}};
    for (const SplineCurve& curve : curves) {
        const Doubles one = weighted_rows(curve);
        rows.numbers.insert(rows.numbers.end(), one.begin(), one.end());
    }
    return rows;
}

Result<SplinePatch> patch_of(Rows rows, SplineBasis across) {
    const std::size_t width = rows.width;
    if (rows.rational) divide_by_weights(rows.numbers, width);
    SplinePatch::Parts parts;
    parts.u = std::move(rows.along);
    parts.v = std::move(across);
    parts.x = channel_of(rows.numbers, width, 0);
    parts.y = channel_of(rows.numbers, width, 1);
    parts.z = channel_of(rows.numbers, width, 2);
    if (rows.rational) parts.weights = channel_of(rows.numbers, width, 3);
    for (std::size_t field = 0; field < rows.fields.size(); ++field)
        parts.fields.push_back({rows.fields[field].name, channel_of(rows.numbers, width, 4 + field),
                                rows.fields[field].dimension});
    return SplinePatch::make(std::move(parts));
}

// Parameters across: the mean distance of the poles of neighbouring sections.
Result<std::vector<double>> parameters_across(const std::vector<SplineCurve>& sections, bool closed) {
    std::vector<double> parameters{0};
    const std::size_t count = sections.size();
    for (std::size_t at = 1; at < count + (closed ? 1 : 0); ++at) {
        const SplineCurve &before = sections[at - 1], &here = sections[at % count];
        double sum = 0;
        for (std::size_t pole = 0; pole < here.x().size(); ++pole)
            sum += length(here.pole(pole) - before.pole(pole));
        if (!(sum > 0))
            return Error{ErrorCode::unlike_arrangement, "",
                         "Curves " + std::to_string(at - 1) + " and " + std::to_string(at % count) +
                             " lie on each other",
                         "Move one of them, or leave it out."};
        parameters.push_back(parameters.back() + sum / static_cast<double>(here.x().size()));
    }
    return parameters;
}

void repeat_first_row(Rows& rows) {
    const auto row = static_cast<std::ptrdiff_t>(poles_of(rows) * rows.width);
    const Doubles first(rows.numbers.begin(), rows.numbers.begin() + row);
    rows.numbers.insert(rows.numbers.end(), first.begin(), first.end());
}

}  // namespace

SplineCurve tip_like(const SplineCurve& curve, Vec3 place) {
    const std::size_t poles = curve.x().size();
    return *SplineCurve::make({curve.basis(), Doubles(poles, place.x), Doubles(poles, place.y),
                               Doubles(poles, place.z), curve.weights(), curve.fields()});
}

Result<SplinePatch> lofted(const Loft& loft, const Run& run) {
    const std::size_t least = loft.closed ? 3 : 2;
    if (loft.sections.size() < least)
        return Error{
            ErrorCode::too_few_points, "",
            loft.closed ? "A ring needs three curves" : "A surface is spanned over two curves or more",
            "Give it more curves."};
    const auto sections = compatible(loft.sections, run);
    if (!sections) return sections.error();
    auto parameters = parameters_across(*sections, loft.closed);
    if (!parameters) return parameters.error();
    Rows rows = rows_of(*sections);
    if (!loft.smooth || (loft.sections.size() == 2 && !loft.closed)) {
        if (loft.closed) repeat_first_row(rows);
        return patch_of(std::move(rows), straight_basis(*std::move(parameters), loft.closed));
    }
    SplineBasis across = cubic_basis(*std::move(parameters), loft.closed);
    const Result<BandedSolver> system = collocation(across, "smooth surface");
    if (!system) return system.error();
    if (run.cancelled()) return cancelled_error();
    const std::size_t width = poles_of(rows) * rows.width;
    system->solve(rows.numbers.data(), width);
    rows.numbers = wrapped_poles(rows.numbers, across, width);
    if (rows.rational)
        for (std::size_t at = 3; at < rows.numbers.size(); at += rows.width)
            if (!(rows.numbers[at] > 0))
                return Error{ErrorCode::unlike_arrangement, "",
                             "The weights of the curves differ too much for a smooth surface",
                             "Span it straight, or give the curves evener weights."};
    return patch_of(std::move(rows), std::move(across));
}

Result<SplinePatch> extruded(const SplineCurve& curve, Vec3 way) {
    if (!(length(way) > 0) || !is_finite(way))
        return Error{ErrorCode::too_few_points, "", "The way to go has no length",
                     "Type a length other than 0."};
    Rows rows = rows_of({curve, curve});
    const std::size_t half = rows.numbers.size() / 2;
    for (std::size_t at = half; at < rows.numbers.size(); at += rows.width) {
        const double weight = rows.numbers[at + 3];
        rows.numbers[at] += way.x * weight;
        rows.numbers[at + 1] += way.y * weight;
        rows.numbers[at + 2] += way.z * weight;
    }
    return patch_of(std::move(rows), straight_basis({0, length(way)}, false));
}

Result<SplinePatch> revolved(const SplineCurve& curve, const Placement& axis, double sweep_rad) {
    if (!(std::abs(sweep_rad) > 0))
        return Error{ErrorCode::out_of_range, "", "The sweep is 0", "Type an angle other than 0."};
    // An arc of radius 1 has the poles and weights by which every pole of the curve goes round.
    const SplineCurve arc = ellipse_arc({{}, 1, 1, 0, sweep_rad});
    Rows rows = rows_of({curve});
    const Doubles profile = rows.numbers;
    rows.rational = true;
    rows.numbers.clear();
    for (std::size_t step = 0; step < arc.x().size(); ++step) {
        const double x = arc.x()[step], y = arc.y()[step], turn = arc.weight(step);
        for (std::size_t at = 0; at < profile.size(); at += rows.width) {
            const double weight = profile[at + 3];
            const Vec3 local =
                axis.to_local(Vec3{profile[at], profile[at + 1], profile[at + 2]} * (1 / weight));
            const Vec3 place = axis.to_world({local.x * x - local.y * y, local.x * y + local.y * x, local.z});
            rows.numbers.insert(rows.numbers.end(), {place.x * weight * turn, place.y * weight * turn,
                                                     place.z * weight * turn, weight * turn});
            for (std::size_t field = 4; field < rows.width; ++field)
                rows.numbers.push_back(profile[at + field] * turn);
        }
    }
    return patch_of(std::move(rows), arc.basis());
}

}  // namespace plume

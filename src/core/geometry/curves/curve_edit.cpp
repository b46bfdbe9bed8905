#include "core/geometry/curves/curve_edit.hpp"

#include <algorithm>
#include <cmath>
#include <numeric>
#include <optional>

#include "core/geometry/curves/curve_sampling.hpp"
#include "core/geometry/curves/spline_system.hpp"

namespace plume {
namespace {

SplineCurve curve_of(SplineBasis basis, Doubles rows, const SplineCurve& like) {
    const std::size_t width = row_width(like);
    if (like.rational()) divide_by_weights(rows, width);
    SplineCurve::Parts parts{std::move(basis),
                             channel_of(rows, width, 0),
                             channel_of(rows, width, 1),
                             channel_of(rows, width, 2),
                             {},
                             {}};
    if (like.rational()) parts.weights = channel_of(rows, width, 3);
    for (std::size_t field = 0; field < like.fields().size(); ++field)
        parts.fields.push_back(
            {like.fields()[field].name, channel_of(rows, width, 4 + field), like.fields()[field].dimension});
    return *SplineCurve::make(std::move(parts));
}

// Only the fields that all the curves have.
SplineCurve with_shared_fields(const SplineCurve& curve, std::span<const SplineCurve> all) {
    std::vector<Field> shared;
    for (const Field& field : curve.fields())
        if (std::ranges::all_of(all, [&](const SplineCurve& other) {
                return std::ranges::any_of(other.fields(), [&](const Field& theirs) {
                    return theirs.name == field.name && theirs.dimension == field.dimension;
                });
            }))
            shared.push_back(field);
    std::ranges::sort(shared, {}, &Field::name);
    return with_fields(curve, std::move(shared));
}

// Puts `next`, open and of the same degree and fields, behind `rows` over `basis`.
void append(SplineBasis& basis, Doubles& rows, const SplineCurve& next) {
    const std::size_t width = row_width(next);
    Doubles behind = weighted_rows(next);
    // A curve stays what it is when all its weights are multiplied: they have to agree where the two meet.
    const double scale = rows[rows.size() - width + 3] / behind[3];
    for (double& number : behind)
        number *= scale;
    for (std::size_t channel = 0; channel < width; ++channel) {
        double& last = rows[rows.size() - width + channel];
        last = std::midpoint(last, behind[channel]);
    }
    rows.insert(rows.end(), behind.begin() + static_cast<std::ptrdiff_t>(width), behind.end());
    const double start = basis.end();
    const SplineBasis moved =
        over_domain(next.basis(), start, start + next.basis().end() - next.basis().start());
    basis.knots.pop_back();
    basis.knots.insert(basis.knots.end(), moved.knots.begin() + moved.degree + 1, moved.knots.end());
    std::vector<double> breaks = breaks_of(moved);
    basis.nodes.insert(basis.nodes.end(), breaks.begin() + 1, breaks.end());
}

// The last piece by itself, its weights multiplied by powers of one number: that changes how fast it is run
// through and not its shape (The NURBS Book, ch. 6.4).
SplineCurve with_equal_end_weights(const SplineCurve& open) {
    if (!open.rational()) return open;
    const double wanted = open.weight(0) / open.weight(open.x().size() - 1);
    // What rounding leaves apart is drawn together when it is closed.
    if (std::abs(wanted - 1) <= 1e-12) return open;
    const auto degree = static_cast<std::size_t>(open.basis().degree);
    const std::vector<double> breaks = knot_breaks(open.basis());
    std::vector<double> cut;
    if (breaks.size() > 2) cut.assign(degree, breaks[breaks.size() - 2]);
    const SplineCurve loose = changed(open, refined(open.basis(), cut));
    Doubles rows = weighted_rows(loose);
    const std::size_t width = row_width(loose);
    const double step = std::pow(wanted, 1 / static_cast<double>(degree));
    double factor = 1;
    for (std::size_t pole = loose.x().size() - degree; pole < loose.x().size(); ++pole) {
        factor *= step;
        for (std::size_t channel = 0; channel < width; ++channel)
            rows[pole * width + channel] *= factor;
    }
    return curve_of(loose.basis(), std::move(rows), loose);
}

}  // namespace

std::size_t row_width(const SplineCurve& curve) {
    return 4 + curve.fields().size();
}

Doubles weighted_rows(const SplineCurve& curve) {
    const std::size_t width = row_width(curve);
    Doubles rows(curve.x().size() * width);
    for (std::size_t pole = 0; pole < curve.x().size(); ++pole) {
        const double weight = curve.weight(pole);
        double* const row = rows.data() + pole * width;
        row[0] = curve.x()[pole] * weight;
        row[1] = curve.y()[pole] * weight;
        row[2] = curve.z()[pole] * weight;
        row[3] = weight;
        for (std::size_t field = 0; field < curve.fields().size(); ++field)
            row[4 + field] = curve.fields()[field].values[pole] * weight;
    }
    return rows;
}

void divide_by_weights(Doubles& rows, std::size_t width) {
    for (std::size_t row = 0; row < rows.size(); row += width)
        for (std::size_t channel = 0; channel < width; ++channel)
            if (channel != 3) rows[row + channel] /= rows[row + 3];
}

SplineCurve with_basis(const SplineCurve& curve, SplineBasis basis) {
    return *SplineCurve::make(
        {std::move(basis), curve.x(), curve.y(), curve.z(), curve.weights(), curve.fields()});
}

Result<SplineCurve> with_poles(const SplineCurve& curve, const std::function<Vec3(Vec3)>& moved) {
    const std::size_t count = curve.x().size();
    Doubles x(count), y(count), z(count);
    for (std::size_t pole = 0; pole < count; ++pole) {
        const Vec3 to = moved(curve.pole(pole));
        x[pole] = to.x;
        y[pole] = to.y;
        z[pole] = to.z;
    }
    return SplineCurve::make(
        {curve.basis(), std::move(x), std::move(y), std::move(z), curve.weights(), curve.fields()});
}

SplineCurve with_fields(const SplineCurve& curve, std::vector<Field> fields) {
    return *SplineCurve::make(
        {curve.basis(), curve.x(), curve.y(), curve.z(), curve.weights(), std::move(fields)});
}

SplineCurve changed(const SplineCurve& curve, const SplineChange& change) {
    return curve_of(change.basis, changed_rows(change, weighted_rows(curve), row_width(curve)), curve);
}

SplineCurve raised(const SplineCurve& curve, int degree) {
    return degree <= curve.basis().degree ? curve : changed(curve, raised(curve.basis(), degree));
}

SplineCurve reversed(const SplineCurve& curve) {
    return changed(curve, reversed(curve.basis()));
}

SplineCurve part_of(const SplineCurve& curve, double from, double to) {
    return changed(curve, part_of(curve.basis(), from, to));
}

SplineCurve with_seam_at(const SplineCurve& curve, double parameter) {
    if (!curve.closed()) return curve;
    const double period = curve.basis().end() - curve.basis().start();
    return closed_up(part_of(curve, parameter, parameter + period));
}

SplineCurve over_length(const SplineCurve& curve) {
    std::vector<Vec3> points = sample(curve, usual_tolerance(curve)).points;
    const double size = polyline_length(points, curve.closed());
    return with_basis(curve, over_domain(curve.basis(), 0, size > 0 ? size : 1));
}

SplineCurve end_to_end(std::span<const SplineCurve> curves) {
    int degree = 1;
    bool rational = false;
    for (const SplineCurve& curve : curves) {
        degree = std::max(degree, curve.basis().degree);
        rational = rational || curve.rational();
    }
    const auto ready = [&](const SplineCurve& curve) {
        const SplineCurve open = changed(curve, opened(curve.basis()));
        return raised(with_shared_fields(open, curves), degree);
    };
    const SplineCurve first = ready(curves.front());
    SplineBasis basis = first.basis();
    basis.nodes = breaks_of(basis);
    Doubles rows = weighted_rows(first);
    std::optional<SplineCurve> like = first;
    for (const SplineCurve& curve : curves.subspan(1)) {
        const SplineCurve next = ready(curve);
        append(basis, rows, next);
        if (next.rational()) like = next;
    }
    return curve_of(std::move(basis), std::move(rows), *like);
}

SplineCurve closed_up(const SplineCurve& curve) {
    const SplineCurve open = with_equal_end_weights(changed(curve, opened(curve.basis())));
    Doubles rows = weighted_rows(open);
    const std::size_t width = row_width(open);
    for (std::size_t channel = 0; channel < width; ++channel)
        rows[channel] = std::midpoint(rows[channel], rows[rows.size() - width + channel]);
    rows.resize(rows.size() - width);
    const auto degree = static_cast<std::size_t>(open.basis().degree);
    for (std::size_t pole = 0; pole < degree; ++pole)
        for (std::size_t channel = 0; channel < width; ++channel)
            rows.push_back(rows[pole * width + channel]);
    return curve_of(closed_at_seam(open.basis()), std::move(rows), open);
}

Box poles_box(const SplineCurve& curve) {
    Box box;
    for (std::size_t pole = 0; pole < curve.x().size(); ++pole)
        box.include(curve.pole(pole));
    return box;
}

bool is_tip(const SplineCurve& curve, double within) {
    for (std::size_t pole = 1; pole < curve.x().size(); ++pole)
        if (length(curve.pole(pole) - curve.pole(0)) > within) return false;
    return true;
}

}  // namespace plume

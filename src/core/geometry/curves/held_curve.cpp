#include "core/geometry/curves/held_curve.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"

namespace plume {
namespace {

constexpr int highest_held_degree = 5;

Status check(const HeldCurve& held) {
    if (held.degree < 1 || held.degree > highest_held_degree)
        return about_slot(
            Error{ErrorCode::out_of_range, "", "has to be from 1 to 5", "Type 3 for a smooth curve."},
            "degree");
    const std::size_t count = held.poles.size(), degree = static_cast<std::size_t>(held.degree);
    const std::size_t least = held.closed ? std::max<std::size_t>(3, degree) : degree + 1;
    if (count < least)
        return Error{ErrorCode::too_few_points, "",
                     std::string(held.closed ? "A closed" : "An open") + " curve of degree " +
                         std::to_string(degree) + " needs " + std::to_string(least) + " poles, and there " +
                         (count == 1 ? "is one" : "are " + std::to_string(count)),
                     "Give it more poles, or a lower degree."};
    const auto odd = std::ranges::find_if_not(held.poles, is_finite);
    if (odd != held.poles.end())
        return Error{ErrorCode::not_finite, "",
                     "Pole " + std::to_string(odd - held.poles.begin()) + " of a curve is not finite",
                     "Look at the step that makes the points."};
    if (std::ranges::all_of(held.poles, [&](Vec3 pole) { return pole == held.poles.front(); }))
        return Error{ErrorCode::too_few_points, "", "All poles of a curve are at one place",
                     "Move one of them away."};
    const auto wrong = std::ranges::find_if_not(
        held.weights, [](double weight) { return weight > 0 && std::isfinite(weight); });
    if (wrong != held.weights.end())
        return Error{ErrorCode::out_of_range, "",
                     "The weight of pole " + std::to_string(wrong - held.weights.begin()) + " is " +
                         short_text(*wrong, 4) + ", and a weight is above 0",
                     "Type 1 for a pole like the others, more for one that pulls the curve closer."};
    return Done{};
}

SplineBasis even_basis(std::size_t count, int degree, bool closed) {
    SplineBasis basis;
    basis.degree = degree;
    basis.closed = closed;
    const auto poles = static_cast<std::ptrdiff_t>(count), p = static_cast<std::ptrdiff_t>(degree);
    const std::ptrdiff_t last = closed ? poles + p : poles;
    const auto bays = static_cast<double>(closed ? poles : poles - p);
    for (std::ptrdiff_t knot = -p; knot <= last; ++knot) {
        const auto even = static_cast<double>(knot);
        basis.knots.push_back(closed ? even : std::clamp(even, 0.0, bays));
    }
    return basis;
}

Column wrapped(Doubles values, std::size_t again) {
    for (std::size_t pole = 0; pole < again; ++pole)
        values.push_back(values[pole]);
    return Column(std::move(values));
}

}  // namespace

Result<SplineCurve> curve_held_by(const HeldCurve& held) {
    if (Status status = check(held); !status) return status.error();
    const std::size_t again = held.closed ? static_cast<std::size_t>(held.degree) : 0;
    SplineCurve::Parts parts;
    parts.basis = even_basis(held.poles.size(), held.degree, held.closed);
    const auto column = [&](auto number_of) {
        Doubles values(held.poles.size());
        for (std::size_t pole = 0; pole < values.size(); ++pole)
            values[pole] = number_of(pole);
        return wrapped(std::move(values), again);
    };
    parts.x = column([&](std::size_t pole) { return held.poles[pole].x; });
    parts.y = column([&](std::size_t pole) { return held.poles[pole].y; });
    parts.z = column([&](std::size_t pole) { return held.poles[pole].z; });
    const bool rational =
        std::ranges::any_of(held.weights, [&](double weight) { return weight != held.weights.front(); });
    // Straight pieces are straight whatever their weights.
    if (rational && held.degree > 1)
        parts.weights = column([&](std::size_t pole) { return held.weights[pole]; });
    for (const Field& field : held.fields)
        if (std::ranges::all_of(field.values.span(), [](double v) { return std::isfinite(v); }))
            parts.fields.push_back(
                {field.name, column([&](std::size_t pole) { return field.values[pole]; }), field.dimension});
    return SplineCurve::make(std::move(parts));
}

}  // namespace plume

#include "core/geometry/curves/curve_evaluator.hpp"

#include <algorithm>

#include "core/geometry/curves/spline_basis.hpp"

namespace plume {
namespace {

// Weighted places and their weight.
struct Four {
    Vec3 place;
    double weight;
};
Four operator*(const Four& a, double s) {
    return {a.place * s, a.weight * s};
}

// Of rows of weighted places with their weights by powers of a share, all four numbers side by side.
template <class Of>
Four by_lane(const Of& of) {
    std::array<double, 4> lanes;  // NOLINT: all of it is written
    for (std::size_t lane = 0; lane < lanes.size(); ++lane)
        lanes[lane] = of(lane);
    return {{lanes[0], lanes[1], lanes[2]}, lanes[3]};
}

template <class Rows>
Four place_of(const Rows& rows, double t) {
    return by_lane([&](std::size_t lane) {
        return ((rows[3][lane] * t + rows[2][lane]) * t + rows[1][lane]) * t + rows[0][lane];
    });
}

template <class Rows>
Four along_of(const Rows& rows, double t) {
    return by_lane(
        [&](std::size_t lane) { return (3 * t * rows[3][lane] + 2 * rows[2][lane]) * t + rows[1][lane]; });
}

template <class Rows>
Four bend_of(const Rows& rows, double t) {
    return by_lane([&](std::size_t lane) { return 6 * t * rows[3][lane] + 2 * rows[2][lane]; });
}

}  // namespace

CurveEvaluator::CurveEvaluator(const SplineCurve& curve) : curve_(curve) {
    if (curve.basis().degree > SpanPolynomials::most_degree) return;
    polynomials_.emplace(curve.basis());
    spans_.resize(polynomials_->span_count());
    for (std::size_t number = 0; number < spans_.size(); ++number) {
        const auto& powers = polynomials_->powers_of(number);
        Span& span = spans_[number];
        span = {};
        for (std::size_t a = 0; a <= static_cast<std::size_t>(curve.basis().degree); ++a) {
            const std::size_t pole = polynomials_->first_of(number) + a;
            const double weight = curve.weight(pole);
            const Vec3 place = curve.pole(pole) * weight;
            for (std::size_t power = 0; power < span.size(); ++power) {
                const double share = powers[power][a];
                span[power][0] += share * place.x;
                span[power][1] += share * place.y;
                span[power][2] += share * place.z;
                span[power][3] += share * weight;
            }
        }
    }
}

Vec3 CurveEvaluator::place(double parameter) const {
    if (!polynomials_) return evaluate(curve_, parameter).position;
    const auto [number, t, scale] = polynomials_->share_at(parameter);
    const Four here = place_of(spans_[number], t);
    return curve_.rational() ? here.place * (1 / here.weight) : here.place;
}

Vec3 CurveEvaluator::along(double parameter) const {
    if (!polynomials_ || curve_.rational()) return at(parameter).along;
    const auto [number, t, scale] = polynomials_->share_at(parameter);
    return along_of(spans_[number], t).place * scale;
}

CurvePoint CurveEvaluator::at(double parameter) const {
    if (!polynomials_) return evaluate(curve_, parameter);
    const auto [number, t, scale] = polynomials_->share_at(parameter);
    const Span& span = spans_[number];
    const Four here = place_of(span, t), along = along_of(span, t) * scale;
    if (!curve_.rational()) return {here.place, along.place};
    const Vec3 place = here.place * (1 / here.weight);
    return {place, (along.place - place * along.weight) * (1 / here.weight)};
}

// By the quotient rule (The NURBS Book, eq. 4.8).
CurveBend CurveEvaluator::bend_at(double parameter) const {
    if (!polynomials_) return evaluate_bend(curve_, parameter);
    const auto [number, t, scale] = polynomials_->share_at(parameter);
    const Span& span = spans_[number];
    const Four here = place_of(span, t), along = along_of(span, t) * scale,
               bend = bend_of(span, t) * (scale * scale);
    if (!curve_.rational()) return {here.place, along.place, bend.place};
    const double over = 1 / here.weight;
    CurveBend result;
    result.position = here.place * over;
    result.along = (along.place - result.position * along.weight) * over;
    result.bend = (bend.place - result.along * (2 * along.weight) - result.position * bend.weight) * over;
    return result;
}

double CurveEvaluator::number_at(const Column& of_poles, double parameter) const {
    const auto blended = [&](const auto& at) {
        double sum = 0, weights = 0;
        for (std::size_t a = 0; a <= static_cast<std::size_t>(curve_.basis().degree); ++a) {
            const double share = at.values[a] * curve_.weight(at.first + a);
            sum += share * of_poles[at.first + a];
            weights += share;
        }
        return curve_.rational() ? sum / weights : sum;
    };
    return polynomials_ ? blended(polynomials_->at(parameter)) : blended(basis_at(curve_.basis(), parameter));
}

std::vector<Field> CurveEvaluator::numbers_at(const std::vector<double>& parameters) const {
    std::vector<Field> numbers;
    for (const Field& field : curve_.fields()) {
        const Column& poles = field.values;
        Doubles values;
        values.reserve(parameters.size());
        // What is one number all along, as a level, is that everywhere.
        if (std::ranges::all_of(poles.span(), [&](double number) { return number == poles[0]; }))
            values.assign(parameters.size(), poles[0]);
        else
            for (const double parameter : parameters)
                values.push_back(number_at(poles, parameter));
        numbers.push_back({field.name, std::move(values), field.dimension});
    }
    return numbers;
}

}  // namespace plume

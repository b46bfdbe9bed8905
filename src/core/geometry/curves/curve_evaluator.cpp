#include "core/geometry/curves/curve_evaluator.hpp"

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

template <class Rows>
Four sum(const Rows& rows, const std::array<double, 4>& shares) {
    Four all{};
    for (std::size_t power = 0; power < shares.size(); ++power) {
        const auto& row = rows[power];
        all.place = all.place + Vec3{row[0], row[1], row[2]} * shares[power];
        all.weight += row[3] * shares[power];
    }
    return all;
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
    const Four here = sum(spans_[number], {1, t, t * t, t * t * t});
    return curve_.rational() ? here.place * (1 / here.weight) : here.place;
}

Vec3 CurveEvaluator::along(double parameter) const {
    if (!polynomials_ || curve_.rational()) return at(parameter).along;
    const auto [number, t, scale] = polynomials_->share_at(parameter);
    return sum(spans_[number], {0, 1, 2 * t, 3 * t * t}).place * scale;
}

CurvePoint CurveEvaluator::at(double parameter) const {
    if (!polynomials_) return evaluate(curve_, parameter);
    const auto [number, t, scale] = polynomials_->share_at(parameter);
    const Span& span = spans_[number];
    const Four here = sum(span, {1, t, t * t, t * t * t}),
               along = sum(span, {0, 1, 2 * t, 3 * t * t}) * scale;
    if (!curve_.rational()) return {here.place, along.place};
    const Vec3 place = here.place * (1 / here.weight);
    return {place, (along.place - place * along.weight) * (1 / here.weight)};
}

// By the quotient rule (The NURBS Book, eq. 4.8).
CurveBend CurveEvaluator::bend_at(double parameter) const {
    if (!polynomials_) return evaluate_bend(curve_, parameter);
    const auto [number, t, scale] = polynomials_->share_at(parameter);
    const Span& span = spans_[number];
    const Four here = sum(span, {1, t, t * t, t * t * t}),
               along = sum(span, {0, 1, 2 * t, 3 * t * t}) * scale,
               bend = sum(span, {0, 0, 2, 6 * t}) * (scale * scale);
    if (!curve_.rational()) return {here.place, along.place, bend.place};
    const double over = 1 / here.weight;
    CurveBend result;
    result.position = here.place * over;
    result.along = (along.place - result.position * along.weight) * over;
    result.bend = (bend.place - result.along * (2 * along.weight) - result.position * bend.weight) * over;
    return result;
}

}  // namespace plume

#include "core/data/spline.hpp"

#include <algorithm>
#include <cmath>

namespace plume {
namespace {

Error broken(std::string message, const std::string& whose) {
    return {ErrorCode::broken_invariant, whose, std::move(message), ""};
}

}  // namespace

Status check_basis(const SplineBasis& basis, const std::string& whose) {
    if (basis.degree < 1 || basis.degree > 9) return broken("needs a degree from 1 to 9", whose);
    const auto degree = static_cast<std::size_t>(basis.degree);
    if (basis.knots.size() < 2 * (degree + 1)) return broken("has too few knots for its degree", whose);
    if (!std::ranges::all_of(basis.knots, [](double knot) { return std::isfinite(knot); }))
        return broken("has a knot that is not finite", whose);
    if (!std::ranges::is_sorted(basis.knots)) return broken("has knots that step back", whose);
    if (!(basis.start() < basis.end())) return broken("has a domain of no length", whose);
    return Done{};
}

Status check_weights(const Column& weights, std::size_t poles, const std::string& whose) {
    if (weights.size() != 0 && weights.size() != poles) return broken("needs one weight per pole", whose);
    if (!std::ranges::all_of(weights.span(), [](double w) { return w > 0 && std::isfinite(w); }))
        return broken("has a weight that is not positive", whose);
    return Done{};
}

}  // namespace plume

#include "core/data/surface_set.hpp"

#include <algorithm>

namespace plume {
namespace {

Error broken(std::string message, const std::string& whose = "A surface") {
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

Result<SplinePatch> SplinePatch::make(Parts parts) {
    if (Status status = check_basis(parts.u, "A surface"); !status) return status.error();
    if (Status status = check_basis(parts.v, "A surface"); !status) return status.error();
    const std::size_t poles = parts.u.pole_count() * parts.v.pole_count();
    for (const Column* column : {&parts.x, &parts.y, &parts.z})
        if (column->size() != poles) return broken("needs one coordinate per pole");
    if (parts.weights.size() != 0 && parts.weights.size() != poles)
        return broken("needs one weight per pole");
    for (const double weight : parts.weights.span())
        if (!(weight > 0)) return broken("has a weight that is not positive");
    for (const Field& field : parts.fields)
        if (field.values.size() != poles) return broken("needs one number of ‘" + field.name + "’ per pole");
    return SplinePatch(std::make_shared<const Parts>(std::move(parts)));
}

}  // namespace plume

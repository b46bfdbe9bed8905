#include "core/data/curve_set.hpp"

namespace plume {
namespace {

Error broken(std::string message) {
    return {ErrorCode::broken_invariant, "A curve", std::move(message), ""};
}

}  // namespace

Result<SplineCurve> SplineCurve::make(Parts parts) {
    if (Status status = check_basis(parts.basis, "A curve"); !status) return status.error();
    const std::size_t poles = parts.basis.pole_count();
    for (const Column* column : {&parts.x, &parts.y, &parts.z}) {
        if (column->size() != poles) return broken("needs one coordinate per pole");
        for (const double value : column->span())
            if (!std::isfinite(value)) return broken("has a pole that is not finite");
    }
    if (Status status = check_weights(parts.weights, poles, "A curve"); !status) return status.error();
    for (const Field& field : parts.fields)
        if (field.values.size() != poles) return broken("needs one number of ‘" + field.name + "’ per pole");
    return SplineCurve(std::make_shared<const Parts>(std::move(parts)));
}

}  // namespace plume

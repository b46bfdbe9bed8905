#include "core/data/surface_set.hpp"

namespace plume {
namespace {

Error broken(std::string message) {
    return {ErrorCode::broken_invariant, "A surface", std::move(message), ""};
}

}  // namespace

Result<SplinePatch> SplinePatch::make(Parts parts) {
    if (Status status = check_basis(parts.u, "A surface"); !status) return status.error();
    if (Status status = check_basis(parts.v, "A surface"); !status) return status.error();
    const std::size_t poles = parts.u.pole_count() * parts.v.pole_count();
    for (const Column* column : {&parts.x, &parts.y, &parts.z})
        if (column->size() != poles) return broken("needs one coordinate per pole");
    if (Status status = check_weights(parts.weights, poles, "A surface"); !status) return status.error();
    for (const Field& field : parts.fields)
        if (field.values.size() != poles) return broken("needs one number of ‘" + field.name + "’ per pole");
    for (const SplineCurve& trim : parts.trims)
        if (!trim.closed()) return broken("is trimmed by a curve that is not closed");
    return SplinePatch(std::make_shared<const Parts>(std::move(parts)));
}

}  // namespace plume

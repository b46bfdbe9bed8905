#include "core/steps/numbers/quantity_range.hpp"

namespace plume {

Result<QuantityRange> range_between(Quantity from, Quantity to, const std::string& where,
                                    const Units& units) {
    if (from.dimension == plain_number && from.value == 0) from.dimension = to.dimension;
    if (to.dimension == plain_number && to.value == 0) to.dimension = from.dimension;
    if (from.dimension != to.dimension)
        return Error{ErrorCode::unit_mismatch, where,
                     "goes from " + dimension_name(from.dimension, units) + " to " +
                         dimension_name(to.dimension, units),
                     "Give both the same unit."};
    return QuantityRange{from.value, to.value, from.dimension};
}

}  // namespace plume

#include "core/data/attractors.hpp"

#include "core/base/numbers.hpp"

namespace plume {

Result<Attractors> Attractors::make(std::vector<Attractor> items) {
    if (items.empty())
        return Error{ErrorCode::empty_input, "", "There is no attractor", "Add at least one place."};
    for (const Attractor& item : items) {
        const std::string place = "‘" + item.name + "’";
        if (!is_finite(item.position))
            return Error{ErrorCode::not_finite, place, "has a coordinate that is not a finite number",
                         "Give it finite x, y and z."};
        if (!(item.weight > 0) || !std::isfinite(item.weight))
            return Error{ErrorCode::out_of_range, place,
                         "has the weight " + short_text(item.weight) + ", and weights have to be above 0",
                         "Type a positive weight; 1 is neutral."};
    }
    Attractors result;
    result.items_ = std::move(items);
    return result;
}

}  // namespace plume

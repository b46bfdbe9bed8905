#include "core/data/attractors.hpp"

#include <algorithm>

#include "core/base/numbers.hpp"

namespace plume {

Result<Attractors> Attractors::make(std::vector<Attractor> items) {
    if (items.empty())
        return Error{ErrorCode::empty_input, "", "There is no attractor", "Add at least one place."};
    for (const Attractor& item : items) {
        const std::string place = "‘" + item.name + "’";
        const bool finite_path = !item.path || std::ranges::all_of(*item.path, is_finite);
        if (!is_finite(item.position) || !finite_path)
            return Error{ErrorCode::not_finite, place, "has a coordinate that is not a finite number",
                         "Give it finite x, y and z."};
        if (item.weight == 0 || !std::isfinite(item.weight))
            return Error{ErrorCode::out_of_range, place,
                         "has the weight " + short_text(item.weight) + ", which makes it count for nothing",
                         "Type another weight; 1 is neutral, below 0 it repels."};
    }
    Attractors result;
    result.items_ = std::move(items);
    return result;
}

}  // namespace plume

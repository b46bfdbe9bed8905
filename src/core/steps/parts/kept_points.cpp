#include "core/steps/parts/kept_points.hpp"

namespace plume {

SlotSpec gaps_slot() {
    return choice_slot(
        "gaps", "Gaps",
        {{"keep", "leave gaps", "neighbours stay known: the rest can still be skinned"},
         {"close", "close up",
          "whole rows and columns that are gone are taken out; else the points are a scatter"}});
}

Result<Value> kept(const Inputs& in, const std::vector<std::uint8_t>& mask, const std::string& none_message,
                   const std::string& mend) {
    PointLattice result = with_gaps(in.lattice("points"), mask);
    if (result.point_count() == 0) return Error{ErrorCode::empty_input, "", none_message, mend};
    return Value(in.word("gaps") == "close" ? closed_up(result) : std::move(result));
}

Estimate kept_estimate(const Inputs& in) {
    const auto points = static_cast<double>(in.lattice("points").address_count());
    return {points * 2, points * 2e-8};
}

}  // namespace plume

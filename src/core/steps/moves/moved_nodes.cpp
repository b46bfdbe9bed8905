#include "core/steps/moves/moved_nodes.hpp"

namespace plume {

SlotSpec moved_slot() {
    return reference_slot("points", "Points", {Kind::points, Kind::field, Kind::frame});
}

std::vector<Kind> moved_kinds() {
    return {Kind::points, Kind::frame};
}

Result<Value> in_form_of(const Value& from, PointLattice moved) {
    const auto* frame = std::get_if<BarFrame>(&from);
    if (!frame) return Value(std::move(moved));
    auto made = frame->with_nodes(std::move(moved));
    if (!made) return about_slot(made.error(), "points");
    return Value(*std::move(made));
}

}  // namespace plume

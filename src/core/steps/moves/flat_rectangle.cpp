#include "core/steps/moves/flat_rectangle.hpp"

#include "core/geometry/measures/bounds.hpp"
#include "core/steps/moves/axis_slots.hpp"

namespace plume {

std::vector<SlotSpec> with_flat_rectangle(std::vector<SlotSpec> slots) {
    slots.push_back(choice_slot("over", "Rectangle",
                                {{"own", "its own extent", "the rectangle around it in plan"},
                                 {"origin", "a rectangle", "from the origin, along X and Y"},
                                 {"placed", "a placed rectangle", "from a placement, along its axes"}}));
    slots.push_back(length_above_zero_slot("width", "Width", "10 m"));
    slots.push_back(length_above_zero_slot("depth", "Depth", "10 m"));
    slots.push_back(placement_slot());
    return slots;
}

Result<FlatRectangle> rectangle_of(const Inputs& in) {
    if (in.word("over") == "placed")
        return FlatRectangle{in.held<Placements>("placement").present_placements().front(),
                             in.number("width"), in.number("depth")};
    if (in.word("over") == "origin") return FlatRectangle{{}, in.number("width"), in.number("depth")};
    const Box extent = bounds_of(in.value("thing"));
    const Vec3 size = extent.size();
    if (!(size.x > 0) || !(size.y > 0))
        return about_slot(Error{ErrorCode::out_of_range, "", "has no extent in plan",
                                "Type the rectangle that it lies in."},
                          "over");
    return FlatRectangle{{{extent.low.x, extent.low.y, 0}, {1, 0, 0}, {0, 1, 0}, {0, 0, 1}}, size.x, size.y};
}

SlotSpec map_steps_slot() {
    return choice_slot("steps", "Steps",
                       {{"parameters", "even parameters", "even shares of u and v"},
                        {"lengths", "even lengths", "in the mean of the lines across"}});
}

MapSteps map_steps(const Inputs& in) {
    return in.word("steps") == "lengths" ? MapSteps::even_lengths : MapSteps::even_parameters;
}

}  // namespace plume

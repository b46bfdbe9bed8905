#include "core/steps/moves/axis_slots.hpp"

namespace plume {
namespace {

Result<Value> make(const Inputs& in, const Run& /*run*/) {
    const Placement axis = axis_of(in);
    return moved_thing(in, turned_about(axis.origin, axis.up, in.number("angle")));
}

}  // namespace

StepKind turn_thing() {
    return {
        .key = "thing.turn",
        .verb = "Turn",
        .synonyms = "rotate spin angle axis",
        .sentence = std::string("Turn {thing} by {angle} about ") + axis_words + ".",
        .slots = with_axis({thing_slot(), angle_slot("angle", "Angle", "30°")}),
        .results = movable_kinds(),
        .result_name = "turned",
        .help = "Anything, turned about an axis, anticlockwise seen against it.",
        .estimate = moved_estimate,
        .make = make,
    };
}

}  // namespace plume

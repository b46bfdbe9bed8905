#include "core/steps/moves/axis_slots.hpp"

namespace plume {

StepKind move_thing() {
    return {
        .key = "thing.move",
        .verb = "Move",
        .synonyms = "translate shift displace vector offset",
        .sentence = "Move {thing} by {x}, {y}, {z}.",
        .slots = with_vector({thing_slot()}, "0 m", "0 m", "3 m"),
        .results = movable_kinds(),
        .result_name = "moved",
        .help = "Anything, moved along X, Y and Z.",
        .estimate = moved_estimate,
        .make = [](const Inputs& in, const Run&) { return moved_thing(in, moved_by(vector_of(in))); },
    };
}

}  // namespace plume

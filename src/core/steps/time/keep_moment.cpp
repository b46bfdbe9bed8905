// Keeps a moment of a result that moves, for what follows.

#include "core/steps/catalogue.hpp"
#include "core/steps/time/moment_slot.hpp"

namespace plume {
namespace {

const std::vector<Kind>& what_can_move() {
    static const std::vector<Kind> kinds{Kind::points,  Kind::field,  Kind::attractors, Kind::mesh,
                                         Kind::surface, Kind::curves, Kind::directions, Kind::placements,
                                         Kind::bodies,  Kind::frame};
    return kinds;
}

}  // namespace

StepKind keep_moment() {
    return {
        .key = "time.keep",
        .verb = "Keep a moment",
        .synonyms = "freeze frame still time hold snapshot instant pause moving film result",
        .sentence = "Keep {thing} as it is at {seconds} s.",
        .slots = {reference_slot("thing", "Thing", what_can_move()), moment_slot("seconds", "Moment", "6")},
        .results = what_can_move(),
        .result_name = "kept",
        .help =
            "What a moving result is at one moment, whatever moment is looked at: the nearest frame of "
            "the study's "
            "time. What stands below goes on from that, and is not made again while the study plays.",
        // Made by whoever evaluates, as what it reads is at that moment.
        .make = [](const Inputs& in, const Run&) -> Result<Value> { return in.value("thing"); },
        .read_at = "seconds",
    };
}

}  // namespace plume

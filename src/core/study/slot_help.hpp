#pragma once
// What can be told of a slot before anything stands in it: what it takes, its limits, what it begins with.

#include <string>

#include "core/study/step_kind.hpp"

namespace plume {

struct SlotHelp {
    std::string takes;   // "a length", "a whole number", "points or numbers on points", "a formula"
    std::string limits;  // "above 0 m", "at least 1, at most 64"; empty where there are none to speak of
    std::string preset;  // "36 m", as the sentence shows it; empty where nothing can stand there at first
};

SlotHelp slot_help(const SlotSpec& slot, const Units& units);

// What can be told of a slot of a step that stands there; lines that say nothing are empty.
struct SlotTip {
    std::string title;  // "Outer radius"
    std::string takes;  // "a length, above 0 m"
    std::string help;   // what the slot means, or what the word means that is chosen in it
    std::string
        now;  // what an expression comes to: "swell * 2 = 6.4 m"; what is read: "reach: numbers on points"
    std::string follow;  // what reads the result of the step: "Read by ranged and pushed."
};
// seconds: the moment that expressions are read at.
SlotTip slot_tip(const Study& study, const Catalogue& catalogue, const Step& step, const SlotSpec& slot,
                 double seconds = 0);

}  // namespace plume

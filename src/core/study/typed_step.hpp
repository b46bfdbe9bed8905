#pragma once
// What is typed to find a step: words that name it, and then perhaps the first numbers of its sentence, as in
// "lattice 24 by 16" or "move 4 m up".

#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "core/study/step_kind.hpp"

namespace plume {

struct TypedNumber {
    std::string text;  // "4 m", "-30°"
    Dimension dimension;
    char axis = 0;      // 'x', 'y' or 'z' where a word behind it says so: up, across, along ...
    bool back = false;  // down: against it
};

struct TypedStep {
    std::string name;  // what is typed before the first number
    std::vector<TypedNumber> numbers;
};

// Whether a word behind a number says along which axis: "up", "across".
bool says_which_way(std::string_view word);

// A number begins the numbers only behind a word; what is no number among them is passed over.
TypedStep read_typed(std::string_view typed);

// The values of slots that the numbers are for: one with a unit goes into the next slot of the sentence that
// takes such, one without into the next that counts or has no unit, and where there is none into the next
// length. A number with an axis goes into the slot of that name, or turns a choice to it. Those that find no
// slot are left out.
Step with_numbers(const StepKind& kind, Step step, const std::vector<TypedNumber>& numbers);

}  // namespace plume

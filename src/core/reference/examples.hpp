#pragma once
// One small study for each kind of step: it shows the kind in use, and states a figure that comes of it.

#include <span>
#include <string>
#include <string_view>

#include "core/base/error.hpp"
#include "core/study/study.hpp"

namespace plume {

struct Example {
    std::string_view kind;  // its key
    std::string_view text;  // the .plume file
};

// Carried by the program, in the order of their keys.
std::span<const Example> examples();
// nullptr where the kind has none.
const Example* example_of(std::string_view kind);

// "A deck of 6 m by 4 m. → timber: 58 m".
struct StatedFigure {
    std::string about;   // "A deck of 6 m by 4 m."
    std::string result;  // "timber"
    std::string figure;  // "58 m": how the line of that result begins
};
// Errors: syntax, where the note of an example states none.
Result<StatedFigure> stated_figure(const Study& example);

}  // namespace plume

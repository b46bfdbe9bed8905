#pragma once
// What kinds of step refuse, and how it is mended: sentences that they said when they were tried with values
// and results that are out of the way. What every step refuses, as a number with the wrong unit, is not among
// them.

#include <span>
#include <string>
#include <string_view>

namespace plume {

struct Refusal {
    std::string slot;  // the key of the one it is about; empty: the step
    std::string text;  // "Curve: Some of the curves are closed and some are open."
    std::string mend;  // "Take only closed or only open ones."
};

// None of a kind that takes whatever can be typed.
std::span<const Refusal> refusals_of(std::string_view kind);

}  // namespace plume

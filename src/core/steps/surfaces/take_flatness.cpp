#include <algorithm>

#include "core/base/sum.hpp"
#include "core/steps/surfaces/flatness_support.hpp"

namespace plume {
namespace {

Result<Value> make(const Inputs& in, const Run& run) {
    const auto gaps = gaps_of(in.value("panels"), run);
    if (!gaps) return gaps.error();
    if (in.word("figure") == "worst") return Value(Quantity{*std::ranges::max_element(*gaps), a_length});
    Sum sum;
    for (const double gap : *gaps)
        sum.add(gap);
    return Value(Quantity{sum.value() / static_cast<double>(gaps->size()), a_length});
}

}  // namespace

StepKind take_flatness() {
    return {
        .key = "number.flatness",
        .verb = "Take the planarity gap",
        .synonyms = "flatness planarity plane warp panels outline figure single value",
        .sentence = "Take {figure} planarity gap of {panels}.",
        .slots = {choice_slot("figure", "Figure",
                              {{"worst", "the largest", "of all panels or outlines"},
                               {"mean", "the mean", "of all panels or outlines"}}),
                  panels_slot()},
        .results = {Kind::number},
        .result_name = "gap",
        .help =
            "One number: how far a panel or outline is from its plane at most, or on the mean. Expressions "
            "of "
            "later steps read it by its name.",
        .estimate = flatness_estimate,
        .make = make,
    };
}

}  // namespace plume

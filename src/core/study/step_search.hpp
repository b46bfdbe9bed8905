#pragma once
// Which steps come into question at a place of a study, the likeliest first; found by typing.
//
// What is typed is compared with the words of a step's verb first: a whole word before the beginning of one,
// that before a part of one, and a verb with few other words before a long one. Words that merely stand for
// the verb come after those. Only then counts what fits: a step that can read what is there before one that
// cannot, one that reads the result in hand before one that reads another.

#include <span>
#include <string_view>
#include <vector>

#include "core/study/step_kind.hpp"

namespace plume {

struct StepOffer {
    const StepKind* kind = nullptr;
    const Step* own = nullptr;  // where it is one of those that are kept; its kind is of this step
    bool fits = true;
    std::optional<Kind> missing;  // the first kind of result it would have to read and cannot
};

// Of the steps of the catalogue, and of those that somebody keeps for himself, that could stand at `position`
// (items before it are above) on that page, those that what is typed names. `in_hand`: the name of a result
// that is to be gone on with; may be empty.
std::vector<StepOffer> step_offers(const Study& study, const Catalogue& catalogue, std::size_t position,
                                   std::string_view in_hand, std::string_view typed, Page page = Page::sheet,
                                   std::span<const Step> own = {});

// Whether every word that is typed begins one of these words, and there is one.
bool are_named(std::string_view words, std::string_view typed);

}  // namespace plume

#pragma once
// Steps of a page made one, and taken apart again.

#include <string>
#include <vector>

#include "core/study/edits/edits.hpp"
#include "core/study/edits/excerpt.hpp"
#include "core/study/edits/history.hpp"

namespace plume {

// What could be left open of some steps, in the order in which they stand.
struct Openable {
    OpenSlot open;        // with a key that could be its
    std::string label;    // "height of ‘tower’", "bays", "ground"
    std::string value;    // as the sentence shows it
    bool needed = false;  // a result from outside, or a file: it cannot be kept inside
};
std::vector<Openable> openable_slots(const Study& study, const Catalogue& catalogue, const ItemIds& items);

// What these steps stand as; of slots that are left open numbers become what they come to. `numbers`: results
// of the study that are numbers. Errors: empty_input (no step, or one that hands something off), still_read
// (more than one of their results is read outside), reads_below (something between them reads one, or a step
// outside that reads one stands above the last), input_failed (a number that cannot be kept), those of
// open_slots().
Result<StepGroup> group_of_steps(const Study& study, const Catalogue& catalogue, const ItemIds& items,
                                 const std::vector<OpenSlot>& open, const NumbersByName& numbers = {});
// How steps stood as one before they were taken apart: by what they were before and by names that things have
// now. Nothing where these steps never did, as far as the history goes.
struct FormerGroup {
    std::string title, sentence, help;
    std::vector<OpenSlot> open;
};
std::optional<FormerGroup> former_group(const History& history, const Catalogue& catalogue,
                                        const ItemIds& items);
// "Title: ground {ground}, height {height}".
std::string proposed_sentence(const std::string& title, const std::vector<OpenSlot>& open);

// The steps as one, called `group`, in place of the last of them. Slots that are open say what they said.
Result<Added> with_group(const Study& study, const Catalogue& catalogue, const ItemIds& items,
                         StepGroup group);

// The steps inside in place of the step, with what its slots say. Errors: empty_input where it is no group,
// and those of open_slots().
Result<Pasted> taken_apart(const Study& study, const Catalogue& catalogue, ItemId id);

}  // namespace plume

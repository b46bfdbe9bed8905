#pragma once
// Handing off: what the sentences of a study write, what of that is new since the last time, and writing it.
//
// Each sentence is written whole or not at all, under its own name in the manifest. What it writes to is
// replaced in one move; a file it refers to bears a fingerprint in its name and is there before. Wherever the
// work ends, a sentence's files are the old ones or the new ones.

#include "core/evaluation/evaluation.hpp"
#include "core/handoff/delivery_file.hpp"
#include "core/handoff/manifest.hpp"
#include "core/study/step_kind.hpp"

namespace plume {

enum class PartState { fresh, changed, as_before, gone };
std::string_view plain_name(PartState state);  // "new", "changed", "as before", "gone"

struct PartChange {
    PartState state = PartState::fresh;
    std::optional<HandedPart> was, is;  // one of them at least

    const HandedPart& part() const { return is ? *is : *was; }
};

struct PartCounts {
    std::size_t fresh = 0, changed = 0, as_before = 0, gone = 0;
};
// "1 changed, 2 gone, 14 as before"; "as before" where nothing else is.
std::string counts_text(const PartCounts& counts);

struct HandOffEntry {
    ItemId step = 0;
    std::string name;   // the sentence's
    std::string file;   // relative to the folder, with its ending
    Delivery delivery;  // nullptr where `error` says why
    Hash key;
    // Why it cannot be written: its step failed, two write to one file, a name that stands for nothing.
    std::optional<Error> error;
    bool unchanged = false;         // nothing would be written
    std::vector<PartChange> parts;  // of one that is unchanged those of the manifest
    PartCounts counts;
    // What would be lost: somebody else's change of the file, or a file nobody knows. Writing has to be
    // allowed.
    std::optional<Error> asks;
    // When it last was written, and what was said then; empty: never.
    std::string written, report;

    bool to_be_written() const { return !unchanged && !error; }
};

struct HandOffPlan {
    std::filesystem::path folder;
    std::vector<HandOffEntry> entries;  // in the order of the page
    // Files of sentences that are no longer there. They stay where they are.
    std::vector<std::string> left_over;
    // Of another study's manifest, or one that cannot be read: nothing is written over it unless allowed
    // (another study's) or at all (the others).
    std::optional<Error> asks, error;

    std::vector<ItemId> to_write() const;
    const HandOffEntry* entry(ItemId step) const;
};

// "as before", "1 changed, 2 gone", "to be written anew" where only its file is not as it was left.
std::string state_text(const HandOffEntry& entry);

struct HandOffPlace {
    std::filesystem::path study_file;  // its folder is where the hand-off's is
    std::string date, time;            // "2031-05-04", "14:20"
};

// Of today, by the clock and the time zone of the machine.
HandOffPlace place_now(std::filesystem::path study_file);

// The folder itself. Errors: those of its name; missing_input while the study has no file.
Result<std::filesystem::path> hand_off_folder(const Study& study, const HandOffPlace& place);

// Parts of deliveries by their keys, for whoever plans again and again.
using KeptParts = std::map<Hash, std::vector<HandedPart>>;

// Compares what the steps of the page Hand off give with the manifest. Parts are looked at where the state is
// another; of `kept` those that were looked at before are taken, and what this plan did not need goes.
// Errors: those of the folder; cancelled. What is wrong with single sentences stays with them.
Result<HandOffPlan> plan_hand_off(const Evaluation& evaluation, const HandOffPlace& place, const Run& run,
                                  KeptParts* kept = nullptr);

// Writes one sentence of the plan and its entry of the manifest; returns what was written, in words. Nothing
// is touched where it is unchanged. The source is the study that the plan is of. Errors: the entry's own;
// file_changed where it asks and `even_if_foreign` is not set; those of formats and files; cancelled.
// Everything is then as it was.
Result<std::string> hand_off(const HandOffPlan& plan, const HandOffEntry& entry, const MomentSource& source,
                             const HandOffPlace& place, bool even_if_foreign, const Run& run);

}  // namespace plume

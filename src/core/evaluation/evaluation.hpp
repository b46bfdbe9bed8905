#pragma once
// Evaluation: what came of a study, step by step.

#include <map>
#include <memory>
#include <optional>

#include "core/base/hash.hpp"
#include "core/base/run.hpp"
#include "core/evaluation/moments.hpp"
#include "core/study/inputs.hpp"
#include "core/study/study.hpp"

namespace plume {

enum class StepState {
    done,
    failed,     // error says why
    blocked,    // something it reads has no result; error says which
    muted,      // passes on what it reads, if that is of its kind
    asks,       // over the budget; error says how much; waits for permission
    cancelled,  // not reached, or stopped in the middle
};
std::string_view key_of(StepState state);

// From what a step that moves went on after a change.
struct GoingOn {
    std::size_t frame = 0;
    Hash key;            // of the form it had then
    ValuePointer value;  // nullptr: it began again instead
    Hash inputs_key;
    std::shared_ptr<const Inputs> inputs;  // it was made from
    std::string began_again;               // why; empty: nothing was changed at that moment
};

struct Outcome {
    StepState state = StepState::cancelled;
    ValuePointer value;  // nullptr when there is none
    Hash key;            // content hash that names the value
    std::optional<Error> error;
    std::vector<Remark> remarks;  // about the value
    double seconds = 0;           // time of make(); of a cached result, the time it took then is not known: 0
    bool from_cache = false;
    // Of a step without a result: the one whose error is the reason, itself or one far above; 0 otherwise.
    ItemId cause = 0;
    // What make() saw; nullptr when its slots could not be resolved.
    std::shared_ptr<const Inputs> inputs = nullptr;
    // Of a step that moves.
    Hash inputs_key = {};
    std::shared_ptr<const GoingOn> going_on = nullptr;  // nullptr: it was made from its beginning
    // It, or what it reads, is not what it would be from the beginning.
    bool hangs_on_changes = false;
};

struct Evaluation {
    StudyPointer study;
    Moment moment;
    std::map<ItemId, Outcome> outcomes;
    double seconds = 0;
    bool cancelled = false;
    bool complete = false;  // false while steps are still to come, of which some outcomes are not there
    bool all_seen = false;  // what is still to come is not seen in the model

    const Outcome* outcome(ItemId id) const;
    const Outcome* outcome(std::string_view result_name) const;
    // Steps to be mended: those that failed, ask, or read something muted. Other blocked ones follow from
    // these.
    std::size_t problem_count() const;
};

}  // namespace plume

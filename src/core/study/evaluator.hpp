#pragma once
// Evaluates a study from top to bottom. A step's error stays with it: what does not read its result still
// runs.

#include <functional>
#include <map>
#include <optional>
#include <set>

#include "core/base/hash.hpp"
#include "core/formula/expression.hpp"
#include "core/study/result_cache.hpp"
#include "core/study/step_kind.hpp"

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
};

struct Evaluation {
    StudyPointer study;
    std::map<ItemId, Outcome> outcomes;
    double seconds = 0;
    bool cancelled = false;
    bool complete = false;  // false while steps are still to come, whose outcomes then are not there

    const Outcome* outcome(ItemId id) const;
    const Outcome* outcome(std::string_view result_name) const;
    // Steps to be mended: those that failed, ask, or read something muted. Other blocked ones follow from
    // these.
    std::size_t problem_count() const;
};

struct Budget {
    double bytes = 2e9;  // a step estimated above this asks first
    double seconds = 20;
    double together_bytes = 4e9;               // a step with which all results would pass this asks, too
    double machine_bytes = physical_memory();  // above this it cannot be permitted
    std::set<Hash> permitted;                  // keys of steps allowed to go over

    static double physical_memory();
};

struct EvaluationPlan {
    const Catalogue* catalogue = nullptr;
    ResultCache* cache = nullptr;  // may be nullptr
    Budget budget;
    std::shared_ptr<FileStore> files;  // of linked files; nullptr: names are read from the working folder
    std::function<void(const Step&, std::size_t index, std::size_t count)> before_step;  // may be empty
    std::function<void(const Evaluation& so_far)> after_step;                            // may be empty
};

Evaluation evaluate(const StudyPointer& study, const EvaluationPlan& plan, const Run& run);

// What the make() of a step saw in an evaluation. Errors: as of its slots.
Result<Inputs> inputs_of(const Evaluation& evaluation, const EvaluationPlan& plan, const Step& step);

// What expressions in slots of this study can read.
Scope scope_of(const Study& study);
// A slot's number for a study, checked against the slot's range; study lengths, radians.
Result<double> resolve_number(const SlotSpec& slot, std::string_view text, const Scope& scope);

}  // namespace plume

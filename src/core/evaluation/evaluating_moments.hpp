#pragma once
// A study that moves, moment after moment: from the latest that is kept, or that its steps go on from after a
// change, to the one that is wanted.

#include <algorithm>

#include "core/evaluation/evaluator.hpp"

namespace plume {

using GoingOnBySteps = decltype(EvaluationPlan::going_on);

// Of a study that moves: where its chains of moments are kept, and the moment before.
struct Moments {
    std::map<ItemId, Hash> chains;
    GoingOnBySteps going_on;
    const Evaluation* before = nullptr;  // nullptr when this is the first to be made

    const GoingOn* from(ItemId id) const {
        const auto found = going_on.find(id);
        return found != going_on.end() && found->second->value ? found->second.get() : nullptr;
    }
    // The frame its chain begins at.
    std::size_t first(ItemId id) const { return from(id) ? from(id)->frame : 0; }
    bool any_begins_after(std::size_t frame) const {
        return std::ranges::any_of(going_on, [&](const auto& one) { return first(one.first) > frame; });
    }
};

// What one moment came to.
struct MomentMade {
    Evaluation evaluation;
    bool missed = false;                        // a moment was looked for that is not kept
    std::map<ItemId, std::string> begin_again;  // steps that cannot go on after a change, and why
};
using MakeMoment = std::function<MomentMade(const EvaluationPlan&, const Moments&, const Run&)>;

// The steps that some are made from, themselves included.
std::set<ItemId> made_from(const Study& study, const std::vector<ItemId>& wanted);
// Some, and all that are made from them.
std::set<ItemId> with_readers(const Study& study, std::set<ItemId> some);
// Those that are not shown in the model, nor is anything made from them.
std::set<ItemId> unseen_steps(const Study& study);
// Steps that go on from moment to moment.
std::vector<ItemId> advancing_steps(const Study& study, const Catalogue& catalogue);

// With a store. `steps`: those that go on.
Evaluation evaluate_moments(const StudyPointer& study, const EvaluationPlan& plan,
                            const std::vector<ItemId>& steps, const MakeMoment& make, const Run& run);

// So that it can be told which moments are kept.
void note_moment(const Evaluation& evaluation, const Catalogue& catalogue, ResultStore& store);

}  // namespace plume

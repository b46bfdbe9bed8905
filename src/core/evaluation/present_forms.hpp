#pragma once
// The forms one sees, from which steps that move go on after a change: a handle that is dragged takes along
// what hangs from it, instead of letting it fall once more. Only for what is looked at: what is kept, handed
// off or written always begins at its beginning, so that a study is all one needs to have it again.

#include "core/evaluation/evaluation.hpp"
#include "core/study/step_kind.hpp"

namespace plume {

class PresentForms {
public:
    // From what steps go on in a study with these recipes at a moment: from how they were before a change, as
    // long as time does not go back behind it.
    std::map<ItemId, std::shared_ptr<const GoingOn>> going_on(const std::map<ItemId, Hash>& recipes,
                                                              const Moment& moment) const;
    // What was made of a study with these recipes.
    void see(const Evaluation& evaluation, const std::map<ItemId, Hash>& recipes, const Catalogue& catalogue);
    void forget() { forms_.clear(); }

private:
    struct Form {
        Hash recipe;
        Moment moment;
        Outcome outcome;
    };
    std::map<ItemId, Form> forms_;
};

}  // namespace plume

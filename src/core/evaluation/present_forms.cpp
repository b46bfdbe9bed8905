#include "core/evaluation/present_forms.hpp"

namespace plume {

std::map<ItemId, std::shared_ptr<const GoingOn>> PresentForms::going_on(const std::map<ItemId, Hash>& recipes,
                                                                        const Moment& moment) const {
    std::map<ItemId, std::shared_ptr<const GoingOn>> all;
    for (const auto& [id, form] : forms_) {
        const auto recipe = recipes.find(id);
        if (recipe == recipes.end() || form.moment.rate != moment.rate) continue;
        if (recipe->second == form.recipe) {
            const auto& going_on = form.outcome.going_on;
            if (going_on && moment.frame >= going_on->frame) all[id] = going_on;
        } else if (form.moment.frame > 0 && moment.frame >= form.moment.frame) {
            const Outcome& seen = form.outcome;
            all[id] = std::make_shared<const GoingOn>(
                GoingOn{form.moment.frame, seen.key, seen.value, seen.inputs_key, seen.inputs, ""});
        }
    }
    return all;
}

void PresentForms::see(const Evaluation& evaluation, const std::map<ItemId, Hash>& recipes,
                       const Catalogue& catalogue) {
    std::erase_if(forms_, [&](const auto& form) { return !recipes.contains(form.first); });
    for (const auto& [id, outcome] : evaluation.outcomes) {
        const StepKind* kind = catalogue.find(*evaluation.study->step(id));
        if (kind && kind->begins_again && outcome.state == StepState::done)
            forms_[id] = {recipes.at(id), evaluation.moment, outcome};
    }
}

}  // namespace plume

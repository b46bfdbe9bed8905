#include "core/evaluation/evaluating_moments.hpp"

#include <algorithm>

#include "core/evaluation/recipe.hpp"
#include "core/study/moving.hpp"

namespace plume {
namespace {

bool is_kept(const Hash& chain, std::size_t frame, ResultStore& store) {
    const auto link = store.moments().find(chain, frame);
    return link && store.find(link->key).value;
}

// The latest moment up to this one at which all of them are kept or go on after a change; the first when
// there is none.
std::size_t latest_kept(const std::vector<ItemId>& steps, const Moments& moments, ResultStore& store,
                        std::size_t frame) {
    const auto is_there = [&](ItemId id, std::size_t at) {
        const std::size_t first = moments.first(id);
        return (at == first && first > 0) ||
               (at >= first && is_kept(moments.chains.at(id), at - first, store));
    };
    const auto all_there = [&](std::size_t at) {
        return std::ranges::all_of(steps, [&](ItemId id) { return is_there(id, at); });
    };
    while (frame > 0 && !all_there(frame))
        --frame;
    return frame;
}

std::set<ItemId> steps_but(const Study& study, const std::set<ItemId>& these) {
    std::set<ItemId> others;
    for (const Item& item : study.items)
        if (step_of(item) && !these.contains(id_of(item))) others.insert(id_of(item));
    return others;
}

// Whether the moments from its beginning lead, kept, up to the one before that it was seen at.
bool is_kept_up_to(const Hash& chain, const GoingOn& seen, std::size_t wanted, ResultStore& store) {
    for (std::size_t frame = seen.frame - 1; frame <= wanted; ++frame)
        if (is_kept(chain, frame, store)) return true;
    return false;
}

// What of these steps goes on after a change. A change that leads back to what is kept, or is of this moment
// alone, is as if it were not.
Moments moments_of(const StudyPointer& study, const EvaluationPlan& plan, const std::vector<ItemId>& steps,
                   const GoingOnBySteps& going_on) {
    Moments moments;
    for (const auto& [id, recipe] : recipes_of(*study))
        moments.chains[id] = chain_of(recipe, plan.moment->rate);
    for (const ItemId id : steps) {
        const auto from = going_on.find(id);
        if (from == going_on.end() || !plan.catalogue->find(*study->step(id))->begins_again) continue;
        Hash& chain = moments.chains.at(id);
        const Hash changed = Hasher().add("after a change").add(chain).add(from->second->key).finish();
        const bool begun = plan.store->moments().find(changed, 0).has_value();
        if (from->second->value && !begun &&
            is_kept_up_to(chain, *from->second, plan.moment->frame, *plan.store))
            continue;
        moments.going_on.insert(*from);
        if (from->second->value) chain = changed;
    }
    return moments;
}

// From the latest moment that is kept, or that they go on from, one after the other.
class EvaluatingMoments {
public:
    EvaluatingMoments(const StudyPointer& study, const EvaluationPlan& plan, const std::vector<ItemId>& steps,
                      const MakeMoment& make, const Run& run)
        : study_(study),
          there_(plan),
          on_the_way_(plan),
          steps_(steps),
          make_(make),
          run_(run),
          wanted_(plan.moment->frame) {
        // On the way only what these steps need is made, and nobody is told.
        on_the_way_.later.merge(steps_but(*study, made_from(*study, steps)));
        on_the_way_.after_step = nullptr;
    }

    Evaluation all() {
        GoingOnBySteps going_on = there_.going_on;
        while (true) {
            moments_ = moments_of(study_, there_, steps_, going_on);
            const std::size_t frame = missed_ ? 0 : latest_kept(steps_, moments_, *there_.store, wanted_);
            if (moments_.any_begins_after(frame)) {
                going_on.clear();
                continue;
            }
            Evaluation evaluation = from(frame);
            if (missed_) going_on.clear();
            for (const auto& [id, why] : begin_again_)
                going_on[id] = std::make_shared<const GoingOn>(
                    GoingOn{going_on.at(id)->frame, {}, nullptr, {}, nullptr, why});
            if (!missed_ && begin_again_.empty()) return evaluation;
        }
    }

private:
    // Ends early where something has to begin again.
    Evaluation from(std::size_t frame) {
        first_ = frame;
        missed_ = false;
        moments_.before = nullptr;
        Evaluation evaluation = at(frame);
        while (frame < wanted_ && !missed_ && begin_again_.empty()) {
            const Evaluation before = std::move(evaluation);
            moments_.before = &before;
            evaluation = at(++frame);
        }
        return evaluation;
    }

    Evaluation at(std::size_t frame) {
        EvaluationPlan& plan = frame < wanted_ ? on_the_way_ : there_;
        plan.moment->frame = frame;
        MomentMade made = make_(plan, moments_, part_of(frame));
        missed_ = made.missed;
        begin_again_ = std::move(made.begin_again);
        return std::move(made.evaluation);
    }

    Run part_of(std::size_t frame) const {
        const auto all = static_cast<double>(wanted_ + 1 - first_),
                   begun = static_cast<double>(frame - first_);
        return run_.part(begun / all, (begun + 1) / all);
    }

    const StudyPointer& study_;
    EvaluationPlan there_, on_the_way_;
    const std::vector<ItemId>& steps_;
    const MakeMoment& make_;
    const Run& run_;
    const std::size_t wanted_;
    std::size_t first_ = 0;
    bool missed_ = false;
    std::map<ItemId, std::string> begin_again_;
    Moments moments_;
};

}  // namespace

std::set<ItemId> made_from(const Study& study, const std::vector<ItemId>& wanted) {
    std::set<ItemId> needed(wanted.begin(), wanted.end());
    for (auto item = study.items.rbegin(); item != study.items.rend(); ++item) {
        const Step* step = step_of(*item);
        if (!step || !needed.contains(step->id)) continue;
        for (const std::string& name : results_read(study, *step))
            if (const Step* read = study.step(name)) needed.insert(read->id);
    }
    return needed;
}

std::set<ItemId> with_readers(const Study& study, std::set<ItemId> some) {
    if (some.empty()) return some;
    std::set<std::string> names;
    for (const Item& item : study.items) {
        const Step* step = step_of(item);
        if (!step) continue;
        const auto is_one = [&](const std::string& name) { return names.contains(name); };
        if (std::ranges::any_of(results_read(study, *step), is_one)) some.insert(step->id);
        if (some.contains(step->id)) names.insert(step->name);
    }
    return some;
}

std::set<ItemId> unseen_steps(const Study& study) {
    std::vector<ItemId> shown;
    for (const Item& item : study.items)
        if (const Step* step = step_of(item); step && step->show.visible && page_of(*step) == Page::sheet)
            shown.push_back(step->id);
    return steps_but(study, made_from(study, shown));
}

std::vector<ItemId> advancing_steps(const Study& study, const Catalogue& catalogue) {
    std::vector<ItemId> ids;
    for (const Item& item : study.items) {
        const Step* step = step_of(item);
        const StepKind* kind = step && !step->muted ? catalogue.find(*step) : nullptr;
        if (kind && kind->advance) ids.push_back(step->id);
    }
    return ids;
}

Evaluation evaluate_moments(const StudyPointer& study, const EvaluationPlan& plan,
                            const std::vector<ItemId>& steps, const MakeMoment& make, const Run& run) {
    return EvaluatingMoments(study, plan, steps, make, run).all();
}

void note_moment(const Evaluation& evaluation, const Catalogue& catalogue, ResultStore& store) {
    const std::set<ItemId> moving = moving_steps(*evaluation.study, catalogue);
    if (moving.empty()) return;
    const std::map<ItemId, Hash> recipes = recipes_of(*evaluation.study);
    for (const ItemId id : moving) {
        const Outcome* outcome = evaluation.outcome(id);
        if (!outcome || !outcome->value || outcome->hangs_on_changes) continue;
        store.moments_made().note(chain_of(recipes.at(id), evaluation.moment.rate), evaluation.moment.frame,
                                  outcome->key);
    }
}

}  // namespace plume

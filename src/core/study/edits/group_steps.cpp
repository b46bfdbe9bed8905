#include "core/study/edits/group_steps.hpp"

#include <algorithm>
#include <set>

#include "core/base/small_letters.hpp"
#include "core/formula/expression.hpp"
#include "core/study/edits/expression_texts.hpp"
#include "core/study/sentence.hpp"
#include "core/study/step_group.hpp"
#include "core/study/study_scope.hpp"

namespace plume {
namespace {

using Names = std::set<std::string, std::less<>>;

std::string quoted(const std::string& name) {
    return "‘" + name + "’";
}

std::vector<const Step*> steps_of(const Study& study, const ItemIds& items) {
    std::vector<const Step*> steps;
    for (const Item& item : study.items)
        if (const Step* step = step_of(item); step && items.contains(step->id)) steps.push_back(step);
    return steps;
}

// Open slots with keys that are names and differ.
class Proposing {
public:
    Proposing(const Study& study, const Catalogue& catalogue, const ItemIds& items)
        : study_(study), catalogue_(catalogue), steps_(steps_of(study, items)) {
        for (const Step* step : steps_)
            inside_.insert(step->name);
        taken_ = inside_;
        taken_.emplace(group_slot_key);
    }

    std::vector<Openable> all() {
        for (const Step* step : steps_)
            if (const StepKind* kind = catalogue_.find(*step))
                for (const SlotSpec* slot : active_slots(*kind, *step))
                    from_outside(*slot, *step);
        for (const Step* step : steps_)
            for (const std::string& name : names_in_expressions(*step))
                add_number(name);
        for (const Step* step : steps_)
            if (const StepKind* kind = catalogue_.find(*step))
                for (const SlotSpec* slot : active_slots(*kind, *step))
                    single(*slot, *step);
        return std::move(found_);
    }

private:
    void from_outside(const SlotSpec& slot, const Step& step) {
        const SlotValue value = slot_value(slot, step);
        const auto* read = std::get_if<ResultName>(&value);
        if (!read || read->name.empty() || inside_.contains(read->name) || !taken_.insert(read->name).second)
            return;
        found_.push_back({{read->name, {}, {}}, "the result " + quoted(read->name), read->name, true});
    }
    // A control, or a number that is the result of a step above.
    void add_number(const std::string& name) {
        const Control* control = study_.control(name);
        const Step* number = study_.step(name);
        if (!control && !(number && gives_number(*number) && !inside_.contains(name))) return;
        if (!taken_.insert(name).second) return;
        found_.push_back({{name, {}, {}},
                          (control ? "the control " : "the number ") + quoted(name),
                          control ? literal_text({control->value, control->unit}) : name,
                          false});
    }
    void single(const SlotSpec& slot, const Step& step) {
        if (!can_be_open(slot) || slot.type == SlotType::reference) return;
        std::string key = check_name(slot.key) ? slot.key : slot.key + "_";
        if (taken_.contains(key)) key = step.name + "_" + slot.key;
        const std::string wanted = key;
        for (int number = 2; taken_.contains(key); ++number)
            key = wanted + "_" + std::to_string(number);
        taken_.insert(key);
        found_.push_back({{key, step.name, slot.key},
                          in_small_letters(slot.label) + " of " + quoted(step.name),
                          slot_text(slot, step),
                          slot.type == SlotType::file});
    }

    const Study& study_;
    const Catalogue& catalogue_;
    std::vector<const Step*> steps_;
    Names inside_, taken_;
    std::vector<Openable> found_;
};

// What of them is read by steps outside, and whether that can go on.
Result<std::string> result_of_group(const Study& study, const std::vector<const Step*>& steps,
                                    const ItemIds& items) {
    Names inside, read_outside;
    for (const Step* step : steps)
        inside.insert(step->name);
    const std::size_t last = *study.position(steps.back()->id);
    for (std::size_t at = 0; at < study.items.size(); ++at) {
        const Step* step = step_of(study.items[at]);
        if (!step || items.contains(step->id)) continue;
        for (const std::string& name : results_read(study, *step)) {
            if (!inside.contains(name)) continue;
            read_outside.insert(name);
            if (at < last)
                return Error{ErrorCode::reads_below, quoted(step->name),
                             "reads " + quoted(name) + " and stands between these steps",
                             "Choose it too, or move it below them."};
        }
    }
    if (read_outside.size() > 1)
        return Error{ErrorCode::still_read, quoted(*read_outside.begin()),
                     "and " + quoted(*read_outside.rbegin()) +
                         " are both read by other steps, and a step has one result",
                     "Choose what reads them too, or fewer steps."};
    return read_outside.empty() ? steps.back()->name : *read_outside.begin();
}

// As they are kept: numbers that are open as what they come to, so that no name from outside stays.
class Keeping {
public:
    Keeping(const Study& study, const Catalogue& catalogue, const NumbersByName& numbers)
        : study_(study), catalogue_(catalogue), numbers_(numbers), scope_(scope_of(study)) {
        scope_.find = [controls = scope_.find, &numbers](std::string_view name) -> std::optional<Quantity> {
            const auto number = numbers.find(name);
            return number == numbers.end() ? controls(name) : number->second;
        };
    }

    Result<Step> kept(const Step& step, const std::vector<OpenSlot>& open) const {
        Step made = step;
        const StepKind* kind = catalogue_.find(step);
        for (const OpenSlot& one : open) {
            if (one.of != step.name) continue;
            const SlotSpec* slot = kind ? kind->slot(one.slot) : nullptr;
            if (!slot || !slot->numeric()) continue;
            auto text = kept_text(std::get<NumberText>(slot_value(*slot, step)).text, *slot);
            if (!text) return text.error();
            made.slots[one.slot] = NumberText{*std::move(text)};
        }
        return made;
    }

    // A number of the study that is the result of a step.
    Result<ControlPointer> control_for(const std::string& name) const {
        const auto number = numbers_.find(name);
        if (number == numbers_.end())
            return Error{ErrorCode::input_failed, quoted(name), "has no value to begin with",
                         "Mend that step first."};
        const auto literal = read_literal(exact_text(number->second, study_.units));
        return std::make_shared<const Control>(proposed_control(name, literal->number, literal->unit, false));
    }

private:
    Result<std::string> kept_text(const std::string& text, const SlotSpec& slot) const {
        if (read_literal(text)) return text;
        const auto value = evaluate(text, scope_);
        if (!value) return error_at(value.error(), slot.label);
        return exact_text(*value, study_.units);
    }

    const Study& study_;
    const Catalogue& catalogue_;
    const NumbersByName& numbers_;
    Scope scope_;
};

// Names that its expressions read where they are not given from outside.
std::vector<std::string> names_kept(const Step& step, const std::vector<OpenSlot>& open) {
    Step inside = step;
    std::erase_if(inside.slots, [&](const auto& entry) { return is_open(open, step.name, entry.first); });
    return names_in_expressions(inside);
}

}  // namespace

std::vector<Openable> openable_slots(const Study& study, const Catalogue& catalogue, const ItemIds& items) {
    return Proposing(study, catalogue, items).all();
}

namespace {

// A step of an earlier study that stands for most of these names and is there no more; nullptr without one.
const Step* former_step(const Study& earlier, const Study& now, const Names& names) {
    for (const Item& item : earlier.items) {
        const Step* step = step_of(item);
        const StepGroup* group = step ? group_of(*step) : nullptr;
        if (!group || now.step(step->id)) continue;
        const auto shared = std::ranges::count_if(group->steps.items, [&](const Item& inside) {
            return step_of(inside) && names.contains(step_of(inside)->name);
        });
        if (2 * static_cast<std::size_t>(shared) > group->steps.items.size()) return step;
    }
    return nullptr;
}

// Whether what was open there is what could be left open here.
bool is_the_same(const OpenSlot& before, const Step& group, const OpenSlot& now) {
    if (!before.of.empty() || !now.of.empty()) return before.of == now.of && before.slot == now.slot;
    const auto given = group.slots.find(before.key);
    const auto* read = given == group.slots.end() ? nullptr : std::get_if<ResultName>(&given->second);
    const auto* number = given == group.slots.end() ? nullptr : std::get_if<NumberText>(&given->second);
    return now.key == (read ? read->name : number && check_name(number->text) ? number->text : before.key);
}

void replace_all(std::string& text, const std::string& from, const std::string& to) {
    for (std::size_t at = text.find(from); at != std::string::npos; at = text.find(from, at + to.size()))
        text.replace(at, from.size(), to);
}

}  // namespace

std::optional<FormerGroup> former_group(const History& history, const Catalogue& catalogue,
                                        const ItemIds& items) {
    const Study& study = *history.current();
    Names names;
    for (const Step* step : steps_of(study, items))
        names.insert(step->name);
    for (std::size_t edits = 1;; ++edits) {
        const StudyPointer earlier = history.earlier(edits);
        if (!earlier) return {};
        const Step* step = former_step(*earlier, study, names);
        if (!step) continue;
        const StepGroup& group = *group_of(*step);
        FormerGroup former{group.title, group.sentence, group.help, {}};
        for (const Openable& one : openable_slots(study, catalogue, items))
            for (const OpenSlot& before : group.open)
                if (is_the_same(before, *step, one.open)) {
                    replace_all(former.sentence, "{" + before.key + "}", "{" + one.open.key + "}");
                    former.open.push_back(one.open);
                }
        return former;
    }
}

Result<StepGroup> group_of_steps(const Study& study, const Catalogue& catalogue, const ItemIds& items,
                                 const std::vector<OpenSlot>& open, const NumbersByName& numbers) {
    const std::vector<const Step*> steps = steps_of(study, items);
    if (steps.empty() || page_of(*steps.back()) != Page::sheet)
        return Error{ErrorCode::empty_input, "", "Only steps of the page Compose can stand as one",
                     "Select some of them."};
    const Result<std::string> result = result_of_group(study, steps, items);
    if (!result) return result.error();
    const Keeping keeping(study, catalogue, numbers);
    StepGroup group;
    group.open = open;
    group.result = *result;
    group.steps.units = study.units;
    group.steps.next_id = study.next_id;
    for (const Step* step : steps) {
        auto kept = keeping.kept(*step, open);
        if (!kept) return kept.error();
        group.steps.items.emplace_back(std::make_shared<const Step>(*std::move(kept)));
        for (const std::string& name : names_kept(*step, open)) {
            if (group.steps.control(name)) continue;
            const auto control =
                std::ranges::find(study.controls, name, [](const auto& one) { return one->name; });
            const Step* number = study.step(name);
            if (control != study.controls.end()) {
                group.steps.controls.push_back(*control);
            } else if (number && gives_number(*number) && !items.contains(number->id)) {
                auto made = keeping.control_for(name);
                if (!made) return made.error();
                group.steps.controls.push_back(*std::move(made));
            }
        }
    }
    // A control that only slots read which are open themselves has nothing left to do.
    std::erase_if(group.open, [&](const OpenSlot& one) {
        return one.of.empty() && study.control(one.key) && !group.steps.control(one.key);
    });
    return group;
}

std::string proposed_sentence(const std::string& title, const std::vector<OpenSlot>& open) {
    std::string text = title;
    for (const OpenSlot& one : open) {
        std::string words = one.key;
        std::ranges::replace(words, '_', ' ');
        text += (&one == &open.front() ? ": " : ", ") + words + " {" + one.key + "}";
    }
    return text;
}

Result<Added> with_group(const Study& study, const Catalogue& catalogue, const ItemIds& items,
                         StepGroup group) {
    if (const auto slots = open_slots(group, catalogue); !slots) return slots.error();
    const Step* result = study.step(group.result);
    if (!result)
        return Error{ErrorCode::empty_input, "‘" + group.result + "’", "is no step of this study",
                     "Select the steps anew."};
    Step step;
    step.kind = group_kind_key;
    step.name = result->name;
    step.show = result->show;
    step.text_units = {};
    for (const OpenSlot& open : group.open) {
        const Step* of = open.of.empty() ? nullptr : study.step(open.of);
        if (of) {
            const SlotSpec* slot = catalogue.find(*of)->slot(open.slot);
            step.slots[open.key] = slot_value(*slot, *of);
        } else if (group.steps.control(open.key)) {
            step.slots[open.key] = NumberText{open.key};
        } else {
            step.slots[open.key] = ResultName{open.key};
        }
    }
    step.slots.emplace(group_slot_key, GroupedSteps(std::move(group)));
    auto made = std::make_shared<Study>(study);
    step.id = made->next_id++;
    const ItemId id = step.id;
    const auto last = std::find_if(made->items.rbegin(), made->items.rend(),
                                   [&](const Item& item) { return items.contains(id_of(item)); });
    *last = std::make_shared<const Step>(std::move(step));
    std::erase_if(made->items,
                  [&](const Item& item) { return step_of(item) && items.contains(id_of(item)); });
    return Added{std::move(made), id};
}

namespace {

// The steps inside as an excerpt that can stand where their one step stood.
class Opening {
public:
    Opening(const Study& study, const Catalogue& catalogue, const Step& step, const StepGroup& group)
        : study_(study), step_(step), group_(group), kind_(*catalogue.find(step)) {
        inside_ = std::make_shared<const Study>(group.steps);
        if (inside_->units != study.units) inside_ = with_units(*inside_, catalogue, study.units);
    }

    Result<StudyPointer> opened() {
        std::vector<ItemId> ids;  // of the steps that have open slots; those get other names below
        for (const OpenSlot& open : group_.open)
            ids.push_back(open.of.empty() ? 0 : inside_->step(open.of)->id);
        const ItemId result = inside_->step(group_.result)->id;
        give_free_names();
        for (std::size_t at = 0; at < group_.open.size(); ++at)
            put_in(group_.open[at], ids[at]);
        take(rename_step(*inside_, result, step_.name));
        if (error_) return *error_;
        return inside_;
    }

private:
    void take(const Edited& edited) {
        if (edited)
            inside_ = *edited;
        else if (!error_)
            error_ = edited.error();
    }
    bool is_taken(const std::string& name) const {
        return study_.step(name) || study_.control(name) || inside_->step(name) || inside_->control(name) ||
               std::ranges::any_of(group_.open, [&](const OpenSlot& open) { return open.key == name; });
    }
    // Whatever has a name that the study knows, so that what is read from there cannot be mistaken for it.
    void give_free_names() {
        for (const Item& item : std::vector(inside_->items)) {
            const Step* step = step_of(item);
            if (!step || (!study_.step(step->name) && !study_.control(step->name))) continue;
            std::string name = step->name;
            for (int number = 2; is_taken(name); ++number)
                name = step->name + "_" + std::to_string(number);
            take(rename_step(*inside_, step->id, name));
        }
    }
    void put_in(const OpenSlot& open, ItemId id) {
        const SlotValue value = slot_value(*kind_.slot(open.key), step_);
        if (id != 0) return take(set_slot(*inside_, id, open.slot, value));
        if (const auto* read = std::get_if<ResultName>(&value))
            return read_from_outside(open.key, read->name);
        if (const auto* number = std::get_if<NumberText>(&value)) put_number(open.key, number->text);
    }
    void read_from_outside(const std::string& key, const std::string& name) {
        auto changed = std::make_shared<Study>(*inside_);
        change_slots(*changed, nullptr, [&](const SlotSpec*, SlotValue& value) {
            if (value == SlotValue(ResultName{key})) value = ResultName{name};
        });
        inside_ = std::move(changed);
    }
    // A control of its own where a number stands there, else what stands there in its place.
    void put_number(const std::string& key, const std::string& text) {
        const Control* control = inside_->control(key);
        if (!control) return;
        if (const auto literal = read_literal(text)) {
            Control own = *control;
            own.value = literal->number;
            if (!literal->unit.empty()) own.unit = literal->unit;
            return take(set_control(*inside_, key, std::move(own)));
        }
        take(remove_control(*inside_, key, true));
        auto changed = std::make_shared<Study>(*inside_);
        rename_in_texts(*changed, key, check_name(text) ? text : "(" + text + ")");
        inside_ = std::move(changed);
    }

    const Study& study_;
    const Step& step_;
    const StepGroup& group_;
    const StepKind& kind_;
    StudyPointer inside_;
    std::optional<Error> error_;
};

}  // namespace

Result<Pasted> taken_apart(const Study& study, const Catalogue& catalogue, ItemId id) {
    const Step* step = study.step(id);
    const StepGroup* group = step ? group_of(*step) : nullptr;
    if (!group)
        return Error{ErrorCode::empty_input, "", "This step is not made of others", "Choose one that is."};
    if (const auto slots = open_slots(*group, catalogue); !slots) return slots.error();
    const Result<StudyPointer> inside = Opening(study, catalogue, *step, *group).opened();
    if (!inside) return inside.error();
    const std::size_t position = *study.position(id);
    const Edited without = remove_items(study, {id}, true);
    if (!without) return without.error();
    return pasted(**without, catalogue, **inside, position, PastedControls::own);
}

}  // namespace plume

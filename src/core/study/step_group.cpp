#include "core/study/step_group.hpp"

#include <algorithm>
#include <set>

#include "core/formula/expression.hpp"
#include "core/study/edits/edits.hpp"
#include "core/study/edits/expression_texts.hpp"
#include "core/study/sentence.hpp"

namespace plume {
namespace {

using Names = std::set<std::string, std::less<>>;

Error about_group(ErrorCode code, const std::string& where, std::string message, std::string mend) {
    return about_slot(Error{code, where, std::move(message), std::move(mend)}, std::string(group_slot_key));
}

std::string quoted(const std::string& name) {
    return "‘" + name + "’";
}

// The slots of a step that count while some of them are given from outside.
std::vector<const SlotSpec*> fixed_slots(const StepGroup& group, const StepKind& kind, const Step& step) {
    std::vector<const SlotSpec*> slots = active_slots(kind, step);
    std::erase_if(slots, [&](const SlotSpec* slot) { return is_open(group.open, step.name, slot->key); });
    return slots;
}

// The step with only these of its values.
Step with_only(const Step& step, const std::vector<const SlotSpec*>& slots) {
    Step kept = step;
    std::erase_if(kept.slots, [&](const auto& entry) {
        return std::ranges::find(slots, entry.first, &SlotSpec::key) == slots.end();
    });
    return kept;
}

// What it reads by that name from outside has to be of all of these kinds at once.
std::vector<Kind> kinds_read(const StepGroup& group, const Catalogue& catalogue, const std::string& name) {
    std::optional<std::vector<Kind>> kinds;
    for (const Item& item : group.steps.items) {
        const Step* step = step_of(item);
        const StepKind* kind = step ? catalogue.find(*step) : nullptr;
        if (!kind) continue;
        for (const SlotSpec* slot : fixed_slots(group, *kind, *step)) {
            const auto found = step->slots.find(slot->key);
            const auto* read = found == step->slots.end() ? nullptr : std::get_if<ResultName>(&found->second);
            if (!read || read->name != name) continue;
            if (!kinds)
                kinds = slot->accepts;
            else
                std::erase_if(*kinds, [&](Kind one) {
                    return std::ranges::find(slot->accepts, one) == slot->accepts.end();
                });
        }
    }
    return kinds.value_or(std::vector<Kind>());
}

SlotSpec slot_of_control(const Control& control, const std::string& key) {
    const std::string text = literal_text({control.value, control.unit}, 15);
    const auto unit = unit_quantity(control.unit, LengthUnit::metre);
    const Dimension dimension = unit ? unit->dimension : plain_number;
    if (dimension == an_angle) return angle_slot(key, control.name, text);
    if (dimension == a_length) return length_slot(key, control.name, text);
    if (dimension == a_force) return force_slot(key, control.name, text);
    if (control.step == 1) return count_slot(key, control.name, text, control.least);
    return number_slot(key, control.name, text);
}

std::string preset_text(const SlotValue& value) {
    if (const auto* number = std::get_if<NumberText>(&value)) return number->text;
    if (const auto* word = std::get_if<WordKey>(&value)) return word->key;
    if (const auto* lines = std::get_if<Lines>(&value)) return lines->text;
    return {};
}

// The word that is chosen inside comes first, since that is a choice's preset.
void put_first(std::vector<Word>& words, const std::string& key) {
    const auto found = std::ranges::find(words, key, &Word::key);
    if (found != words.end()) std::rotate(words.begin(), found, found + 1);
}

Result<SlotSpec> slot_inside(const StepGroup& group, const Catalogue& catalogue, const OpenSlot& open) {
    const Step* step = group.steps.step(open.of);
    const StepKind* kind = step ? catalogue.find(*step) : nullptr;
    const SlotSpec* inside = kind ? kind->slot(open.slot) : nullptr;
    if (!inside)
        return about_group(ErrorCode::missing_input, quoted(open.key),
                           "is open for " + quoted(open.slot) + " of " + quoted(open.of) +
                               ", and there is no such slot inside",
                           "Take the group apart and make it again.");
    if (!can_be_open(*inside))
        return about_group(ErrorCode::wrong_kind, quoted(open.key), "cannot be left open",
                           "Leave numbers, choices, results, texts and files open.");
    SlotSpec slot = *inside;
    slot.key = open.key;
    slot.played = false;
    const SlotValue value = slot_value(*inside, *step);
    if (slot.type == SlotType::choice) put_first(slot.words, preset_text(value));
    slot.preset = preset_text(value);
    return slot;
}

Result<SlotSpec> slot_from_outside(const StepGroup& group, const Catalogue& catalogue, const OpenSlot& open) {
    if (const Control* control = group.steps.control(open.key)) return slot_of_control(*control, open.key);
    std::vector<Kind> kinds = kinds_read(group, catalogue, open.key);
    if (kinds.empty())
        return about_group(ErrorCode::missing_input, quoted(open.key),
                           "is open, and nothing inside reads it, or not as one kind of result",
                           "Take the group apart and make it again.");
    return reference_slot(open.key, open.key, std::move(kinds));
}

// Names that stand open, and those that are there inside.
Status check_names(const StepGroup& group, const Catalogue& catalogue) {
    Names known;
    for (const OpenSlot& open : group.open)
        if (open.of.empty()) known.insert(open.key);
    for (const ControlPointer& control : group.steps.controls)
        known.insert(control->name);
    for (const Item& item : group.steps.items) {
        const Step* step = step_of(item);
        if (!step) continue;
        const StepKind* kind = catalogue.find(*step);
        if (!kind)
            return about_group(ErrorCode::unknown_step_kind, quoted(step->name),
                               "inside is of a kind that this program does not know",
                               "A newer version may read it.");
        const Step fixed = with_only(*step, fixed_slots(group, *kind, *step));
        for (const std::string& name : results_read(fixed))
            if (!known.contains(name))
                return about_group(ErrorCode::missing_input, quoted(step->name),
                                   "inside reads " + quoted(name) + ", which is neither inside nor open",
                                   "Take the group apart and make it again.");
        known.insert(step->name);
    }
    return Done{};
}

Status check_key(const StepGroup& group, const std::string& key, const Names& before) {
    const bool own = key == group_slot_key || before.contains(key) || group.steps.step(key);
    if (own)
        return about_group(ErrorCode::name_clash, quoted(key),
                           "is open and names something else in the group", "Leave it open by another name.");
    if (const Status named = check_name(key); !named) {
        Error error = named.error();
        error.slot = group_slot_key;
        return error;
    }
    if (group.sentence.find("{" + key + "}") == std::string::npos)
        return about_group(ErrorCode::syntax, quoted(key), "is open and does not stand in the sentence",
                           "Write {" + key + "} where it is to stand.");
    return Done{};
}

// Each part in braces names an open slot; nothing else of a template is meant.
Status check_sentence(const StepGroup& group, const Names& keys) {
    const std::string& text = group.sentence;
    for (std::size_t at = text.find('{'); at != std::string::npos; at = text.find('{', at + 1)) {
        const std::size_t end = text.find('}', at);
        const std::string key = text.substr(at + 1, end == std::string::npos ? end : end - at - 1);
        if (end == std::string::npos || !keys.contains(key))
            return about_group(ErrorCode::syntax, "The sentence", "names {" + key + "}, which is not open",
                               "Leave it open, or take it out of the sentence.");
    }
    if (text.find_first_of("[]") != std::string::npos)
        return about_group(ErrorCode::syntax, "The sentence", "has square brackets",
                           "Write it without them.");
    return Done{};
}

std::size_t depth_of(const StepGroup& group) {
    std::size_t within = 0;
    for (const Item& item : group.steps.items)
        if (const StepGroup* inner = step_of(item) ? group_of(*step_of(item)) : nullptr)
            within = std::max(within, depth_of(*inner));
    return within + 1;
}

// Values ---------------------------------------------------------------------------------------------------

SlotValue value_inside(const SlotSpec& slot, const Inputs& inputs) {
    switch (slot.type) {
        case SlotType::quantity:
            return NumberText{exact_text(inputs.quantity(slot.key), inputs.units())};
        case SlotType::choice:
            return WordKey{inputs.word(slot.key)};
        case SlotType::reference:
            return ResultName{slot.key};
        case SlotType::text:
        case SlotType::addresses:
            return Lines{inputs.word(slot.key)};
        case SlotType::file:
            return FileName{inputs.file(slot.key).name};
        default:
            return NumberText{exact_text({inputs.number(slot.key), slot.dimension()}, inputs.units())};
    }
}

bool is_free(const std::string& name, const StepGroup& group) {
    return !name.empty() && !group.steps.step(name) && !group.steps.control(name) &&
           std::ranges::find(group.open, name, &OpenSlot::key) == group.open.end();
}

Result<Unfolded> unfolded(const std::shared_ptr<const StepGroup>& group, const std::vector<SlotSpec>& slots,
                          const Catalogue& catalogue, const Inputs& inputs) {
    auto study = std::make_shared<const Study>(group->steps);
    if (study->units != inputs.units()) study = with_units(*study, catalogue, inputs.units());
    Unfolded made{group, {}, group->result, {}};
    for (std::size_t at = 0; at < slots.size(); ++at) {
        const OpenSlot& open = group->open[at];
        const SlotSpec& slot = slots[at];
        if (slot.type == SlotType::reference)
            made.given.emplace(slot.key, std::get<ReadResult>(inputs.all().at(slot.key)));
        Edited given = study;
        if (!open.of.empty()) {
            given = set_slot(*study, study->step(open.of)->id, open.slot, value_inside(slot, inputs));
        } else if (const Control* control = study->control(open.key)) {
            const auto literal =
                read_literal(exact_text({inputs.number(slot.key), slot.dimension()}, inputs.units()));
            Control changed = *control;
            changed.value = literal->number;
            changed.keys.clear();
            changed.unit = literal->unit;
            given = set_control(*study, open.key, std::move(changed));
        }
        if (!given) return given.error();
        study = *given;
    }
    // Numbers are called like what they are the result of.
    if (const std::string& name = inputs.result_name(); is_free(name, *group)) {
        const Edited renamed = rename_step(*study, study->step(group->result)->id, name);
        if (!renamed) return renamed.error();
        study = *renamed;
        made.result = name;
    }
    made.study = std::move(study);
    return made;
}

}  // namespace

const StepGroup* group_of(const Step& step) {
    if (step.kind != group_kind_key) return nullptr;
    const auto found = step.slots.find(std::string(group_slot_key));
    const auto* grouped = found == step.slots.end() ? nullptr : std::get_if<GroupedSteps>(&found->second);
    return grouped ? grouped->pointer().get() : nullptr;
}

bool is_open(const std::vector<OpenSlot>& open, std::string_view step, std::string_view slot) {
    return std::ranges::any_of(open, [&](const OpenSlot& one) { return one.of == step && one.slot == slot; });
}

bool can_be_open(const SlotSpec& slot) {
    switch (slot.type) {
        case SlotType::count:
        case SlotType::number:
        case SlotType::length:
        case SlotType::angle:
        case SlotType::force:
        case SlotType::quantity:
        case SlotType::seed:
        case SlotType::choice:
        case SlotType::reference:
        case SlotType::addresses:
        case SlotType::file:
            return true;
        case SlotType::text:
            return !slot.script;
        default:
            return false;
    }
}

Result<std::vector<SlotSpec>> open_slots(const StepGroup& group, const Catalogue& catalogue) {
    if (!group.steps.step(group.result))
        return about_group(ErrorCode::empty_input, "This group",
                           group.steps.items.empty() ? "holds no step"
                                                     : "has no step that results in " + quoted(group.result),
                           "Make it again of some steps.");
    if (depth_of(group) > deepest_group)
        return about_group(ErrorCode::too_deep, "Groups",
                           "stand in groups more than " + std::to_string(deepest_group) + " deep",
                           "Take one of them apart first.");
    std::vector<SlotSpec> slots;
    Names keys;
    for (const OpenSlot& open : group.open) {
        if (Status key = check_key(group, open.key, keys); !key) return key.error();
        auto slot =
            open.of.empty() ? slot_from_outside(group, catalogue, open) : slot_inside(group, catalogue, open);
        if (!slot) return slot.error();
        slots.push_back(*std::move(slot));
        keys.insert(open.key);
    }
    if (Status said = check_sentence(group, keys); !said) return said.error();
    if (Status named = check_names(group, catalogue); !named) return named.error();
    return slots;
}

StepKind kind_of_group(const StepGroup& group, const Catalogue& catalogue) {
    StepKind kind{
        .key = std::string(group_kind_key),
        .verb = group.title,
        .synonyms = "group own steps as one",
        .sentence = "Do {steps}.",
        .slots = {},
        .results = {Kind::points},
        .result_name = readable_name(group.result),
        .help = group.help,
        .make = {},
    };
    const SlotSpec steps = group_slot(std::string(group_slot_key), "Steps", group);
    kind.offered = false;
    auto slots = open_slots(group, catalogue);
    if (!slots) {
        kind.slots = {steps};
        kind.make = [error = slots.error()](const Inputs&, const Run&) -> Result<Value> { return error; };
        return kind;
    }
    kind.sentence = group.sentence;
    if (kind.sentence.ends_with('.')) kind.sentence.pop_back();
    kind.sentence += " ({steps}).";
    kind.slots = *slots;
    kind.slots.push_back(steps);
    if (const StepKind* last = catalogue.find(*group.steps.step(group.result))) {
        kind.results = last->results;
        kind.bears_name = last->bears_name;
    }
    kind.unfold = [kept = steps.preset_group, open = *std::move(slots), &catalogue](const Inputs& inputs) {
        return unfolded(kept, open, catalogue, inputs);
    };
    return kind;
}

}  // namespace plume

// Steps that stand as one. What comes of them hangs on all of them, so a group is told apart by its
// fingerprint.

#include "core/study/slots/slot_rules.hpp"

namespace plume {
namespace {

void add_step(Hasher& hasher, const Step& step) {
    hasher.add(step.kind).add(step.name).add(static_cast<std::uint64_t>(step.muted ? 1 : 0));
    if (step.text_units) add_to_hash(hasher, *step.text_units);
    for (const auto& [key, value] : step.slots) {
        hasher.add(key);
        add_to_hash(hasher, value);
    }
}

Hash fingerprint_of(const StepGroup& group) {
    Hasher hasher;
    hasher.add(group.title).add(group.sentence).add(group.help).add(group.result);
    for (const OpenSlot& open : group.open)
        hasher.add(open.key).add(open.of).add(open.slot);
    add_to_hash(hasher, group.steps.units);
    for (const ControlPointer& control : group.steps.controls)
        hasher.add(control->name)
            .add(control->value)
            .add(control->least)
            .add(control->most)
            .add(control->step)
            .add(control->unit);
    for (const Item& item : group.steps.items)
        if (const Step* step = step_of(item)) add_step(hasher, *step);
    return hasher.finish();
}

Result<Resolved> resolve(const SlotSpec& /*slot*/, const SlotValue& value, const Standpoint& /*from*/) {
    return Resolved(hex_text(std::get<GroupedSteps>(value).fingerprint()));
}

std::string group_text(const SlotSpec& /*slot*/, const SlotValue& value) {
    const auto steps = std::get<GroupedSteps>(value)->steps.items.size();
    return std::to_string(steps) + (steps == 1 ? " step" : " steps");
}

}  // namespace

GroupedSteps::GroupedSteps(StepGroup group)
    : group_(std::make_shared<const StepGroup>(std::move(group))), fingerprint_(fingerprint_of(*group_)) {}

const SlotRules group_rules{
    .key = "group",
    .needs = "a group of steps",
    .preset = [](const SlotSpec& slot) -> SlotValue { return GroupedSteps(*slot.preset_group); },
    .holds = holds_form<GroupedSteps>,
    .meant = never_meant,
    .resolve = resolve,
    .add_to_hash = add_text_to_hash,
    .text = group_text};

SlotSpec group_slot(std::string key, std::string label, StepGroup preset) {
    SlotSpec spec = slot_with_preset(SlotType::group, std::move(key), std::move(label), {});
    spec.preset_group = std::make_shared<const StepGroup>(std::move(preset));
    return spec;
}

}  // namespace plume

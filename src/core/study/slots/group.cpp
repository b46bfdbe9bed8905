// Steps that stand as one. What comes of them hangs on all of them, so a group is told apart by its
// fingerprint.

#include "core/study/slots/slot_rules.hpp"

namespace plume {
namespace {

Result<Resolved> resolve(const SlotSpec& /*slot*/, const SlotValue& value, const Standpoint& /*from*/) {
    return Resolved(hex_text(std::get<GroupedSteps>(value).fingerprint()));
}

std::string group_text(const SlotSpec& /*slot*/, const SlotValue& value) {
    const auto steps = std::get<GroupedSteps>(value)->steps.items.size();
    return std::to_string(steps) + (steps == 1 ? " step" : " steps");
}

}  // namespace

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

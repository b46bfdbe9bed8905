// A name of the step's own, as of a loop variable.

#include "core/study/slots/slot_rules.hpp"

namespace plume {
namespace {

Result<Resolved> resolve(const SlotSpec& slot, const SlotValue& value, const Standpoint& /*from*/) {
    const std::string& name = std::get<WordKey>(value).key;
    if (Status named = check_name(name); !named) {
        Error error = named.error();
        error.message = "cannot be " + error.where + ": it " + error.message;
        error.where = slot.label;
        return about_slot(std::move(error), slot);
    }
    return Resolved(name);
}

}  // namespace

const SlotRules name_rules{
    .key = "name",
    .needs = "a name",
    .preset = [](const SlotSpec& slot) -> SlotValue { return WordKey{slot.preset}; },
    .holds = holds_form<WordKey>,
    .meant = never_meant,
    .resolve = resolve,
    .add_to_hash = add_text_to_hash,
    .text = [](const SlotSpec& /*slot*/, const SlotValue& value) { return std::get<WordKey>(value).key; }};

SlotSpec name_slot(std::string key, std::string label, std::string preset) {
    return slot_with_preset(SlotType::name, std::move(key), std::move(label), std::move(preset));
}

}  // namespace plume

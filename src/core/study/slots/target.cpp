// The name of a file that is written, within the folder of what is handed off: without its ending, with
// placeholders in braces.

#include "core/base/text.hpp"
#include "core/study/slots/slot_rules.hpp"
#include "core/study/target_name.hpp"

namespace plume {
namespace {

Result<Resolved> resolve(const SlotSpec& slot, const SlotValue& value, const Standpoint& /*from*/) {
    const std::string& name = std::get<WordKey>(value).key;
    if (Status named = check_target_name(name); !named) return about_slot(named.error(), slot);
    return Resolved(name);
}

}  // namespace

const SlotRules target_rules{.key = "target",
                             .needs = "the name of a file",
                             .preset = [](const SlotSpec& slot) -> SlotValue { return WordKey{slot.preset}; },
                             .holds = holds_form<WordKey>,
                             .meant = never_meant,
                             .resolve = resolve,
                             .add_to_hash = add_text_to_hash,
                             .text =
                                 [](const SlotSpec& /*slot*/, const SlotValue& value) {
                                     const std::string& name = std::get<WordKey>(value).key;
                                     return name.empty() ? std::string("…") : shortened(name, 60);
                                 }};

SlotSpec target_slot(std::string key, std::string label, std::string preset) {
    return slot_with_preset(SlotType::target, std::move(key), std::move(label), std::move(preset));
}

}  // namespace plume

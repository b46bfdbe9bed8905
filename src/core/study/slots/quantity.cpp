// A number of whatever unit it is typed in.

#include "core/study/slots/slot_rules.hpp"

namespace plume {
namespace {

Result<Resolved> resolve(const SlotSpec& slot, const SlotValue& value, const Standpoint& from) {
    const Result<Quantity> quantity = evaluate(std::get<NumberText>(value).text, from.scope);
    if (!quantity) return about_slot(quantity.error(), slot);
    return Resolved(*quantity);
}

}  // namespace

const SlotRules quantity_rules{
    .key = "quantity",
    .needs = "a number or an expression",
    .numeric = true,
    .preset = [](const SlotSpec& slot) -> SlotValue { return NumberText{slot.preset}; },
    .holds = holds_form<NumberText>,
    .meant = meant_as_text<NumberText>,
    .resolve = resolve,
    .add_to_hash = [](Hasher& hasher,
                      const Resolved& value) { add_to_hash(hasher, std::get<Quantity>(value)); },
    .text = typed_number};

void add_to_hash(Hasher& hasher, const Quantity& quantity) {
    hasher.add(quantity.value)
        .add(static_cast<std::uint64_t>(quantity.dimension.length))
        .add(static_cast<std::uint64_t>(quantity.dimension.angle))
        .add(static_cast<std::uint64_t>(quantity.dimension.force));
}

SlotSpec quantity_slot(std::string key, std::string label, std::string preset) {
    return slot_with_preset(SlotType::quantity, std::move(key), std::move(label), std::move(preset));
}

}  // namespace plume

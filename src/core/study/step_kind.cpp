#include "core/study/step_kind.hpp"

#include <algorithm>

namespace plume {

Error labelled(Error error, const StepKind& kind) {
    const SlotSpec* slot = kind.slot(error.slot);
    if (slot && error.where.empty()) error.where = slot->label;
    return error;
}

Page page_of(const StepKind& kind) {
    Step step;
    step.kind = kind.key;
    return page_of(step);
}

bool reads_plain_numbers(const StepKind& kind) {
    if (kind.counts_plain_numbers) return true;
    return std::ranges::any_of(kind.slots, [](const SlotSpec& slot) {
        return slot.type == SlotType::formula || slot.type == SlotType::text || slot.files.plain_numbers;
    });
}

std::optional<Result<SlotContext>> slot_context(const StepKind& kind, std::string_view slot,
                                                const Inputs& inputs, const Run& run) {
    const auto found = kind.contexts.find(slot);
    if (found == kind.contexts.end()) return {};
    return found->second(inputs, run);
}

const SlotSpec* StepKind::slot(std::string_view slot_key) const {
    const auto found = std::ranges::find(slots, slot_key, &SlotSpec::key);
    return found == slots.end() ? nullptr : &*found;
}

const StepKind* Catalogue::find(std::string_view key) const {
    const auto found = std::ranges::find(kinds_, key, &StepKind::key);
    return found == kinds_.end() ? nullptr : &*found;
}

}  // namespace plume

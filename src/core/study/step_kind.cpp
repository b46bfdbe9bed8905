#include "core/study/step_kind.hpp"

#include "core/study/slots/slot_meanings.hpp"

#include <algorithm>
#include <mutex>

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

const SlotSpec* StepKind::first_reference() const {
    const auto found = std::ranges::find(slots, SlotType::reference, &SlotSpec::type);
    return found == slots.end() ? nullptr : &*found;
}

// By key and what tells them apart. Kinds are small, and a study has few; they are never dropped, since steps
// point at them.
struct Catalogue::Derived {
    std::mutex mutex;
    std::map<std::pair<std::string, std::string>, std::unique_ptr<const StepKind>> kinds;
};

namespace {

// Words and results say by themselves what they are.
bool needs_meaning(SlotType type) {
    switch (type) {
        case SlotType::choice:
        case SlotType::reference:
        case SlotType::results:
        case SlotType::camera:
        case SlotType::file:
        case SlotType::formula:
        case SlotType::name:
        case SlotType::target:
            return false;
        default:
            return true;
    }
}

}  // namespace

Catalogue::Catalogue(std::vector<StepKind> kinds)
    : kinds_(std::move(kinds)), derived_(std::make_shared<Derived>()) {
    for (StepKind& kind : kinds_)
        for (SlotSpec& slot : kind.slots)
            if (slot.help.empty() && needs_meaning(slot.type))
                slot.help = meaning_of_slot(kind.key, slot.key, slot.label);
}

const StepKind* Catalogue::find(std::string_view key) const {
    const auto found = std::ranges::find(kinds_, key, &StepKind::key);
    return found == kinds_.end() ? nullptr : &*found;
}

const StepKind* Catalogue::find(const Step& step) const {
    const StepKind* kind = find(std::string_view(step.kind));
    if (!kind || !kind->derivation) return kind;
    std::pair<std::string, std::string> apart{step.kind, kind->derivation->apart(step)};
    {
        const std::scoped_lock lock(derived_->mutex);
        const auto made = derived_->kinds.find(apart);
        if (made != derived_->kinds.end()) return made->second.get();
    }
    // Unlocked, since steps may stand in steps.
    StepKind derived = kind->derivation->kind(step, *this);
    derived.derivation = kind->derivation;
    const std::scoped_lock lock(derived_->mutex);
    auto& made = derived_->kinds[std::move(apart)];
    if (!made) made = std::make_unique<const StepKind>(std::move(derived));
    return made.get();
}

}  // namespace plume

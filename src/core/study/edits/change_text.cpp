#include "core/study/edits/change_text.hpp"

#include <algorithm>
#include <optional>

#include "core/base/numbers.hpp"
#include "core/base/small_letters.hpp"
#include "core/study/sentence.hpp"

namespace plume {
namespace {

using Told = std::optional<std::string>;

std::string control_value(const Control& control) {
    return short_text(control.value, 6) + (control.unit.empty() ? "" : ' ' + control.unit);
}

// The one control that is not as it was, by its value alone.
Told controls_told(const Study& before, const Study& after) {
    if (before.controls.size() != after.controls.size()) return {};
    Told told;
    for (std::size_t at = 0; at < after.controls.size(); ++at) {
        const Control &then = *before.controls[at], &now = *after.controls[at];
        if (then == now) continue;
        if (told || then.name != now.name || then.value == now.value) return {};
        told = now.name + ' ' + control_value(then) + " to " + control_value(now);
    }
    return told;
}

// Texts that are read at a glance.
bool is_short(const std::string& text) {
    constexpr std::size_t most = 40;
    return text.size() <= most && text.find('\n') == std::string::npos;
}

std::string slot_told(const SlotSpec& slot, const Step& before, const Step& after) {
    const std::string what = after.name + ": " + in_small_letters(slot.label);
    const std::string then = slot_text(slot, before), now = slot_text(slot, after);
    if (then == now || !is_short(then) || !is_short(now)) return what + " changed";
    return what + ' ' + then + " to " + now;
}

Told step_told(const Step& before, const Step& after, const Catalogue& catalogue) {
    const StepKind* kind = catalogue.find(after);
    if (!kind) return {};
    if (before.name != after.name) return before.name + " is called " + after.name;
    if (before.muted != after.muted) return after.name + (after.muted ? " muted" : " no longer muted");
    if (before.show.visible != after.show.visible && before.slots == after.slots)
        return after.name + (after.show.visible ? " shown" : " hidden");
    const SlotSpec* changed = nullptr;
    for (const SlotSpec& slot : kind->slots) {
        if (slot_value(slot, before) == slot_value(slot, after)) continue;
        if (changed) return {};
        changed = &slot;
    }
    if (!changed) return {};
    return slot_told(*changed, before, after);
}

const Item* item_of(const Study& study, ItemId id) {
    const auto at = study.position(id);
    return at ? &study.items[*at] : nullptr;
}

std::string item_told(const Item& item, const Catalogue& catalogue) {
    const Step* step = step_of(item);
    if (!step) return "Heading " + heading_of(item)->title;
    const StepKind* kind = catalogue.find(*step);
    return kind ? sentence_text(*kind, *step) : step->name;
}

// Of items that came the last one, since what it needed came with it; of those that went how many.
Told items_told(const Study& before, const Study& after, const Catalogue& catalogue) {
    std::vector<const Item*> came, gone;
    for (const Item& item : after.items)
        if (!item_of(before, id_of(item))) came.push_back(&item);
    for (const Item& item : before.items)
        if (!item_of(after, id_of(item))) gone.push_back(&item);
    if (!came.empty() && gone.empty()) return item_told(*came.back(), catalogue);
    if (gone.empty() || !came.empty()) return {};
    const Step* step = step_of(*gone.front());
    if (gone.size() > 1) return std::to_string(gone.size()) + " items removed";
    return (step ? step->name : heading_of(*gone.front())->title) + " removed";
}

// The one step that is not as it was. Where its name changed, those that read it changed along with it.
Told steps_told(const Study& before, const Study& after, const Catalogue& catalogue) {
    const Step *then = nullptr, *now = nullptr;
    for (const Item& item : after.items) {
        const Item* old = item_of(before, id_of(item));
        const Step *new_step = step_of(item), *old_step = old ? step_of(*old) : nullptr;
        if (!new_step || !old_step || *new_step == *old_step) continue;
        if (now && then->name == now->name) return {};
        if (now) continue;
        then = old_step;
        now = new_step;
    }
    return now ? step_told(*then, *now, catalogue) : Told();
}

}  // namespace

std::string change_text(const Study& before, const Study& after, const Catalogue& catalogue,
                        const std::string& label) {
    if (const Told told = items_told(before, after, catalogue)) return *told;
    if (const Told told = controls_told(before, after)) return *told;
    if (const Told told = steps_told(before, after, catalogue)) return *told;
    return label;
}

}  // namespace plume

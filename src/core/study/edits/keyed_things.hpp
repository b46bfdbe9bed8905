#pragma once
// What has keys, to be changed with them. For edits of keys only.

#include <algorithm>

#include "core/study/edits/edit_keys.hpp"
#include "core/study/sentence.hpp"

namespace plume {

inline Error no_such_thing() {
    return {ErrorCode::unknown_name, "", "What was to be changed at a moment is not there",
            "Choose another."};
}

// nullptr where it is none of places.
inline const SlotSpec* slot_of_place(const Study& study, const Catalogue& catalogue, ItemId id,
                                     const std::string& key) {
    const Step* step = study.step(id);
    const StepKind* kind = step ? catalogue.find(*step) : nullptr;
    const SlotSpec* slot = kind ? kind->slot(key) : nullptr;
    return slot && slot->type == SlotType::places ? slot : nullptr;
}

// The places among which it is, as they are kept; nullptr where it is not there.
inline const Places* places_of(const Study& study, const Keyed& what) {
    const Step* step = study.step(what.step);
    if (!step) return nullptr;
    const auto slot = step->slots.find(what.slot);
    const auto* places = slot == step->slots.end() ? nullptr : std::get_if<Places>(&slot->second);
    return places && what.index < places->size() ? places : nullptr;
}

// `change` is handed the control, camera or place with its keys, and says what is wrong.
template <class Change>
Edited changed_thing(const Study& study, const Keyed& what, Change change) {
    auto result = std::make_shared<Study>(study);
    if (what.of == Keyed::Of::control) {
        const auto named =
            std::ranges::find(result->controls, what.name, [](const auto& one) { return one->name; });
        if (named == result->controls.end()) return no_such_thing();
        Control control = **named;
        if (Status status = change(control); !status) return status.error();
        *named = std::make_shared<const Control>(std::move(control));
        return StudyPointer(std::move(result));
    }
    if (what.of == Keyed::Of::camera) {
        const auto kept = std::ranges::find(result->cameras, what.name, &KeptCamera::name);
        if (kept == result->cameras.end()) return no_such_thing();
        if (Status status = change(*kept); !status) return status.error();
        return StudyPointer(std::move(result));
    }
    const Places* kept = places_of(study, what);
    if (!kept) return no_such_thing();
    Places places = *kept;
    if (Status status = change(places[what.index]); !status) return status.error();
    return set_slot(study, what.step, what.slot, std::move(places));
}

}  // namespace plume

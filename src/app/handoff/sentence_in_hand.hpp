#pragma once
// The sentence of the hand-off that a panel looks at closer, with what it gives where that is of the panel's
// sort.

#include "app/document/document.hpp"
#include "core/handoff/hand_off.hpp"

namespace plume::app {

struct SentenceInHand {
    ItemId sentence = 0;
    Delivery delivery;
    Hash key;
    std::optional<Error> error;

    // `entry`: nullptr while it is computed; what it gave before stays.
    void take(ItemId in_hand, const HandOffEntry* entry, bool (*is_wanted)(const DeliveryContent&)) {
        sentence = in_hand;
        error = entry ? entry->error : std::nullopt;
        if (!entry && in_hand != 0) return;
        const bool wanted = entry && entry->delivery && is_wanted(*entry->delivery);
        delivery = wanted ? entry->delivery : nullptr;
        if (wanted) key = entry->key;
    }

    // What is wrong with it, or with what was made of it; slots by their labels.
    std::optional<Error> wrong(const Document& document, const std::optional<Error>& made) const {
        const std::optional<Error>& found = error ? error : made;
        const Step* step = document.study().step(sentence);
        return found && step ? labelled(*found, *document.kind_of(*step)) : found;
    }
};

}  // namespace plume::app

#pragma once
// The sentence of the hand-off that a panel looks at closer, with what it gives where that is of the panel's
// sort.

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
};

}  // namespace plume::app

#include "core/study/offers.hpp"

namespace plume {

bool has_offers(const StepKind& kind, const SlotSpec& slot) {
    const bool chosen_from = slot.type == SlotType::picks || slot.type == SlotType::choice;
    return chosen_from && kind.contexts.contains(slot.key);
}

Result<std::map<std::string, Offers>> offers_of(const StepKind& kind, const Inputs& in, const Run& run) {
    std::map<std::string, Offers> made;
    for (const SlotSpec& slot : kind.slots) {
        if (!has_offers(kind, slot) || !in.has(slot.key)) continue;
        auto offers = context_of<Offers>(kind, slot.key, in, run);
        if (!*offers) return offers->error();
        made.emplace(slot.key, **std::move(offers));
    }
    return made;
}

}  // namespace plume

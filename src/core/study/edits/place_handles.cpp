#include "core/study/edits/place_handles.hpp"

#include <algorithm>

#include "core/formula/expression.hpp"
#include "core/study/sentence.hpp"
#include "core/study/study_scope.hpp"

namespace plume {
namespace {

std::optional<Vec3> position_of(const Place& place, const Scope& scope) {
    const auto x = evaluate_as(a_length, place.x, scope), y = evaluate_as(a_length, place.y, scope),
               z = evaluate_as(a_length, place.z, scope);
    if (!x || !y || !z) return {};
    return Vec3{*x, *y, *z};
}

}  // namespace

std::vector<PlaceHandle> place_handles(const Study& study, const StepKind& kind, const Step& step) {
    std::vector<PlaceHandle> handles;
    const bool any = std::ranges::find(kind.slots, SlotType::places, &SlotSpec::type) != kind.slots.end();
    if (!any) return handles;
    const Scope scope = scope_of(study);
    for (const SlotSpec* slot : active_slots(kind, step)) {
        if (slot->type != SlotType::places) continue;
        const Places places = std::get<Places>(slot_value(*slot, step));
        for (std::size_t index = 0; index < places.size(); ++index)
            if (const auto at = position_of(places[index], scope))
                handles.push_back({step.id, slot->key, index, *at, places[index].name, slot->corners, false});
        if (slot->mirrored_by.empty()) continue;
        const std::string across = std::get<WordKey>(slot_value(*kind.slot(slot->mirrored_by), step)).key;
        if (across != "x" && across != "y") continue;
        for (PlaceHandle image : std::vector<PlaceHandle>(handles)) {
            (across == "x" ? image.position.x : image.position.y) *= -1;
            image.index += places.size();
            image.image = true;
            handles.push_back(std::move(image));
        }
    }
    return handles;
}

}  // namespace plume

#include "core/study/edits/place_handles.hpp"

#include <algorithm>

#include "core/formula/expression.hpp"
#include "core/study/edits/place_base.hpp"
#include "core/study/sentence.hpp"
#include "core/study/study_scope.hpp"

namespace plume {
namespace {

template <class At>
std::optional<Vec3> position_of(const At& place, Dimension first, const Scope& scope) {
    const auto x = evaluate_as(first, place.x, scope), y = evaluate_as(a_length, place.y, scope),
               z = evaluate_as(a_length, place.z, scope);
    if (!x || !y || !z) return {};
    return Vec3{*x, *y, *z};
}

}  // namespace

std::optional<Vec3> coordinates_at(const SlotSpec& slot, const Place& place, const Scope& scope,
                                   double seconds) {
    const Dimension first = slot.told_by.empty() ? a_length : plain_number;
    if (place.keys.empty()) return position_of(place, first, scope);
    if (twice_keyed(place.keys)) return {};
    const BetweenKeys between = between_keys(place.keys, seconds);
    const auto before = position_of(place.keys[between.before], first, scope),
               behind = position_of(place.keys[between.behind], first, scope);
    if (!before || !behind) return {};
    return *before + (*behind - *before) * between.share;
}

std::size_t own_place(const SlotSpec& slot, std::size_t index, std::size_t count) {
    const bool image = !slot.mirrored_by.empty() && index >= count && index < 2 * count;
    return image ? index - count : index;
}

std::optional<BaseLine> base_of(const StepKind& kind, const SlotSpec& slot, const Step& step,
                                const ShownValue& shown) {
    if (slot.told_by.empty() || !shown) return {};
    const Value* base = shown(std::get<ResultName>(slot_value(*kind.slot(slot.told_by), step)).name);
    const auto* set = base ? std::get_if<CurveSet>(base) : nullptr;
    if (!set || set->curves.size() != 1) return {};
    return BaseLine(set->curves.front(),
                    lift_axis_from(std::get<WordKey>(slot_value(*kind.slot(slot.lifted_by), step)).key));
}

std::vector<PlaceHandle> place_handles(const Study& study, const StepKind& kind, const Step& step,
                                       const ShownValue& shown, double seconds) {
    std::vector<PlaceHandle> handles;
    const bool any = std::ranges::find(kind.slots, SlotType::places, &SlotSpec::type) != kind.slots.end();
    if (!any) return handles;
    const Scope scope = scope_of(study, seconds);
    for (const SlotSpec* slot : active_slots(kind, step)) {
        if (slot->type != SlotType::places) continue;
        const Places places = std::get<Places>(slot_value(*slot, step));
        const auto base = base_of(kind, *slot, step, shown);
        if (!slot->told_by.empty() && !base) continue;
        for (std::size_t index = 0; index < places.size(); ++index)
            if (const auto at = coordinates_at(*slot, places[index], scope, seconds))
                handles.push_back({step.id, slot->key, index, base ? base->place(*at) : *at,
                                   places[index].name, slot->corners, false, !places[index].keys.empty()});
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

namespace {

bool comes_round(const Study& study, const Catalogue& catalogue, const PlaceHandle& handle) {
    const Step* step = study.step(handle.step);
    const StepKind* kind = step ? catalogue.find(*step) : nullptr;
    const SlotSpec* slot = kind ? kind->slot(handle.slot) : nullptr;
    const SlotSpec* ends = slot && !slot->closed_by.empty() ? kind->slot(slot->closed_by) : nullptr;
    return ends && std::get<WordKey>(slot_value(*ends, *step)).key == "closed";
}

}  // namespace

std::vector<std::pair<std::size_t, std::size_t>> handle_lines(const Study& study, const Catalogue& catalogue,
                                                              const std::vector<PlaceHandle>& handles) {
    std::vector<std::pair<std::size_t, std::size_t>> lines;
    const auto same = [&](std::size_t a, std::size_t b) {
        return handles[a].step == handles[b].step && handles[a].slot == handles[b].slot;
    };
    for (std::size_t first = 0; first < handles.size();) {
        std::size_t end = first + 1;
        while (end < handles.size() && same(first, end))
            ++end;
        if (handles[first].corner) {
            for (std::size_t at = first; at + 1 < end; ++at)
                lines.emplace_back(at, at + 1);
            if (end > first + 2 && comes_round(study, catalogue, handles[first]))
                lines.emplace_back(end - 1, first);
        }
        first = end;
    }
    return lines;
}

}  // namespace plume

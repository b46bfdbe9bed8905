#include "core/study/edits/edit_keys.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/formula/expression.hpp"
#include "core/study/edits/keyed_things.hpp"
#include "core/study/edits/place_base.hpp"
#include "core/study/moving.hpp"
#include "core/study/sentence.hpp"
#include "core/study/study_scope.hpp"

namespace plume {
namespace {

bool is_literal(const PlaceKey& key) {
    return read_literal(key.x) && read_literal(key.y) && read_literal(key.z);
}

CameraKey key_of_camera(const Camera& camera, double seconds) {
    CameraKey key{seconds, camera};
    set_degrees(key.camera, azimuth_degrees(camera), elevation_degrees(camera));
    return key;
}

// Of the value that something has at a moment; `slot` is the one of a place.
Result<ControlKey> key_then(const Study& /*study*/, const SlotSpec* /*slot*/, const Control& control,
                            double seconds) {
    return ControlKey{seconds, value_at(control, seconds)};
}
Result<PlaceKey> key_then(const Study& study, const SlotSpec* slot, const Place& place, double seconds) {
    return key_of_place(study, *slot, place, seconds);
}
Result<CameraKey> key_then(const Study& /*study*/, const SlotSpec* /*slot*/, const KeptCamera& kept,
                           double seconds) {
    return key_of_camera(camera_at(kept, seconds), seconds);
}

// changed_thing() of places that a step has as it comes, too, with their slot.
template <class Change>
Edited changed_with_slot(const Study& study, const Catalogue& catalogue, const Keyed& what, Change change) {
    if (what.of != Keyed::Of::place)
        return changed_thing(study, what, [&](auto& thing) { return change(thing, nullptr); });
    const SlotSpec* slot = slot_of_place(study, catalogue, what.step, what.slot);
    if (!slot) return no_such_thing();
    Edited written = set_slot(study, what.step, what.slot, slot_value(*slot, *study.step(what.step)));
    if (!written) return written;
    return changed_thing(**written, what, [&](auto& thing) { return change(thing, slot); });
}

// As it is until a moment, and then no more. What eases to a later key is kept frame by frame: to a key that
// came between it would ease another way.
template <class Thing>
Status keep_until(const Study& study, const SlotSpec* slot, Thing& thing, double last) {
    const Thing before = thing;
    auto& keys = thing.keys;
    std::erase_if(keys, [&](const auto& key) { return key.seconds > last + same_moment_s; });
    const bool eases =
        !keys.empty() && keys.size() < before.keys.size() && keys.back().easing == Easing::smooth;
    const double rate = study.time.rate;
    double frame = std::round(last * rate);
    if (eases) {
        frame = std::floor(keys.back().seconds * rate) + 1;
        keys.back().easing = Easing::straight;
    }
    // Moments are reckoned so that a key stands on its frame.
    for (; frame / rate <= last; ++frame) {
        auto key = key_then(study, slot, before, frame / rate);
        if (!key) return key.error();
        key->easing = Easing::straight;
        put_key(keys, *std::move(key));
    }
    return Done{};
}

std::vector<KeyMark> marks_of(const Control& control) {
    std::vector<KeyMark> marks;
    for (const ControlKey& key : control.keys)
        marks.push_back({key.seconds, key.easing, literal_text({key.value, control.unit}, 6)});
    return marks;
}
std::vector<KeyMark> marks_of(const Place& place) {
    std::vector<KeyMark> marks;
    for (const PlaceKey& key : place.keys)
        marks.push_back({key.seconds, key.easing, key.x + ", " + key.y + ", " + key.z});
    return marks;
}
std::vector<KeyMark> marks_of(const KeptCamera& kept) {
    std::vector<KeyMark> marks;
    for (const CameraKey& key : kept.keys)
        marks.push_back({key.seconds, key.easing,
                         "from " + short_text(azimuth_degrees(key.camera), 5) + "°, up " +
                             short_text(elevation_degrees(key.camera), 5) + "°"});
    return marks;
}

}  // namespace

std::string name_of(const Study& study, const Keyed& what) {
    if (what.of != Keyed::Of::place) return what.name;
    const Places* places = places_of(study, what);
    return places ? (*places)[what.index].name : "";
}

Keyed keyed_place(const Study& study, const Catalogue& catalogue, const PlaceMove& move) {
    const SlotSpec* slot = slot_of_place(study, catalogue, move.step, move.slot);
    if (!slot) return keyed_place(move.step, move.slot, move.index);
    const Places places = std::get<Places>(slot_value(*slot, *study.step(move.step)));
    return keyed_place(move.step, move.slot, own_place(*slot, move.index, places.size()));
}

std::vector<KeyRow> key_rows(const Study& study) {
    std::vector<KeyRow> rows;
    for (const ControlPointer& control : study.controls)
        if (!control->keys.empty())
            rows.push_back({keyed_control(control->name), control->name, marks_of(*control)});
    for (const Item& item : study.items) {
        const Step* step = step_of(item);
        if (!step) continue;
        for (const auto& [slot, value] : step->slots) {
            const auto* places = std::get_if<Places>(&value);
            for (std::size_t index = 0; places && index < places->size(); ++index)
                if (const Place& place = (*places)[index]; !place.keys.empty())
                    rows.push_back({keyed_place(step->id, slot, index), place.name, marks_of(place)});
        }
    }
    for (const KeptCamera& kept : study.cameras)
        if (!kept.keys.empty()) rows.push_back({keyed_camera(kept.name), kept.name, marks_of(kept)});
    return rows;
}

Edited key_here(const Study& study, const Catalogue& catalogue, const Keyed& what, double seconds) {
    return changed_with_slot(study, catalogue, what, [&](auto& thing, const SlotSpec* slot) -> Status {
        auto key = key_then(study, slot, thing, seconds);
        if (!key) return key.error();
        put_key(thing.keys, *std::move(key));
        return Done{};
    });
}

Edited recorded(const Study& study, const Catalogue& catalogue, const std::vector<Keyed>& things,
                double seconds, const std::function<Edited(const Study&)>& change) {
    const double frame = std::round(seconds * study.time.rate);
    const double last = std::max(frame - 1, 0.0) / study.time.rate;
    const auto of_each = [&](Edited edited, auto edit) {
        for (std::size_t at = 0; at < things.size() && edited; ++at)
            edited = changed_with_slot(**edited, catalogue, things[at], edit);
        return edited;
    };
    const Edited kept = of_each(std::make_shared<const Study>(study), [&](auto& thing, const SlotSpec* slot) {
        if (frame < 1 && thing.keys.empty()) return Status(Done{});
        return keep_until(study, slot, thing, last);
    });
    return of_each(kept ? change(**kept) : kept, [&](auto& thing, const SlotSpec* /*slot*/) {
        if (const auto key = key_at(thing.keys, seconds); key != thing.keys.end())
            key->easing = Easing::straight;
        return Status(Done{});
    });
}

Edited key_camera(const Study& study, const std::string& name, const Camera& camera, double seconds) {
    auto result = std::make_shared<Study>(study);
    const auto kept = std::ranges::find(result->cameras, name, &KeptCamera::name);
    if (kept == result->cameras.end()) return no_such_thing();
    put_key(kept->keys, key_of_camera(camera, seconds));
    return StudyPointer(std::move(result));
}

Result<PlaceKey> key_of_place(const Study& study, const SlotSpec& slot, const Place& place, double seconds) {
    if (const auto key = key_at(place.keys, seconds); key != place.keys.end()) return *key;
    if (place.keys.empty()) return PlaceKey{seconds, place.x, place.y, place.z};
    const BetweenKeys between = between_keys(place.keys, seconds);
    const PlaceKey& before = place.keys[between.before];
    if (between.before == between.behind && is_literal(before))
        return PlaceKey{seconds, before.x, before.y, before.z};
    const auto at = coordinates_at(slot, place, scope_of(study, seconds), seconds);
    if (!at)
        return Error{ErrorCode::input_failed, "‘" + place.name + "’", "has coordinates that cannot be read",
                     "Mend them first."};
    constexpr int digits = 9;
    const std::string unit(symbol(study.units.length));
    const std::string first = slot.told_by.empty() ? unit : "";
    return PlaceKey{seconds, literal_text({at->x, first}, digits), literal_text({at->y, unit}, digits),
                    literal_text({at->z, unit}, digits)};
}

Edited set_timeline(const Study& study, const Timeline& time) {
    const bool finite = std::isfinite(time.seconds) && std::isfinite(time.rate);
    if (!finite || time.seconds <= 0 || time.seconds > longest_time_s)
        return Error{ErrorCode::out_of_range, "The time", "has to be above 0 s and at most a day",
                     "Type a number of seconds such as 6."};
    if (time.rate < 1 || time.rate > fastest_rate)
        return Error{ErrorCode::out_of_range, "The rate", "has to be from 1 to 240 frames a second",
                     "Type a number such as 30."};
    auto result = std::make_shared<Study>(study);
    result->time = time;
    return StudyPointer(std::move(result));
}

}  // namespace plume

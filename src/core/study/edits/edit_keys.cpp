#include "core/study/edits/edit_keys.hpp"

#include <cmath>

#include "core/base/numbers.hpp"
#include "core/formula/expression.hpp"
#include "core/study/edits/place_base.hpp"
#include "core/study/moving.hpp"
#include "core/study/sentence.hpp"
#include "core/study/study_scope.hpp"

namespace plume {
namespace {

Error no_such_thing() {
    return {ErrorCode::unknown_name, "", "What was to be changed at a moment is not there",
            "Choose another."};
}

std::string at_text(double seconds) {
    return short_text(seconds, 6) + " s";
}

Error no_key(double seconds) {
    return {ErrorCode::unknown_name, "", "There is no key at " + at_text(seconds), "Choose one of the keys."};
}

std::size_t index_of(const std::vector<ControlPointer>& controls, const std::string& name) {
    return static_cast<std::size_t>(
        std::ranges::find(controls, name, [](const auto& control) { return control->name; }) -
        controls.begin());
}

// The places among which it is, as they are kept; nullptr where it is not there.
const Places* places_of(const Study& study, const Keyed& what) {
    const Step* step = study.step(what.step);
    if (!step) return nullptr;
    const auto slot = step->slots.find(what.slot);
    const auto* places = slot == step->slots.end() ? nullptr : std::get_if<Places>(&slot->second);
    return places && what.index < places->size() ? places : nullptr;
}

void keep_last(Control& control, const ControlKey& key) {
    control.value = key.value;
}
void keep_last(Place& place, const PlaceKey& key) {
    place.x = key.x;
    place.y = key.y;
    place.z = key.z;
}
void keep_last(KeptCamera& kept, const CameraKey& key) {
    kept.camera = key.camera;
}

// `change` is handed the control, camera or place with its keys, and says what is wrong.
template <class Change>
Edited changed_thing(const Study& study, const Keyed& what, Change change) {
    auto result = std::make_shared<Study>(study);
    if (what.of == Keyed::Of::control) {
        const std::size_t at = index_of(study.controls, what.name);
        if (at == study.controls.size()) return no_such_thing();
        Control control = *study.controls[at];
        if (Status status = change(control); !status) return status.error();
        result->controls[at] = std::make_shared<const Control>(std::move(control));
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

// `change` is handed the thing and its key there.
template <class Change>
Edited changed_key(const Study& study, const Keyed& what, double seconds, Change change) {
    return changed_thing(study, what, [&](auto& thing) -> Status {
        const auto key = key_at(thing.keys, seconds);
        if (key == thing.keys.end()) return no_key(seconds);
        return change(thing, key);
    });
}

template <class Keys>
Status check_free(const Keys& keys, double seconds) {
    if (!std::isfinite(seconds) || seconds < 0 || seconds > longest_time_s)
        return Error{ErrorCode::out_of_range, "A key", "cannot be at " + at_text(seconds),
                     "Choose a moment from 0 s on, within a day."};
    if (key_at(keys, seconds) != keys.end())
        return Error{ErrorCode::name_clash, "", "There is a key at " + at_text(seconds) + " already",
                     "Choose another moment, or remove that key first."};
    return Done{};
}

Edited key_control(const Study& study, const std::string& name, double seconds) {
    const Control* control = study.control(name);
    if (!control) return no_such_thing();
    Control changed = *control;
    put_key(changed.keys, {seconds, value_at(*control, seconds)});
    return set_control(study, name, std::move(changed));
}

Edited key_place(const Study& study, const Catalogue& catalogue, const Keyed& what, double seconds) {
    const Step* step = study.step(what.step);
    const StepKind* kind = step ? catalogue.find(*step) : nullptr;
    const SlotSpec* slot = kind ? kind->slot(what.slot) : nullptr;
    if (!slot || slot->type != SlotType::places) return no_such_thing();
    Places places = std::get<Places>(slot_value(*slot, *step));
    if (what.index >= places.size()) return no_such_thing();
    Place& place = places[what.index];
    Result<PlaceKey> key = key_of_place(study, *slot, place, seconds);
    if (!key) return key.error();
    put_key(place.keys, *std::move(key));
    return set_slot(study, what.step, what.slot, std::move(places));
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
    if (what.of == Keyed::Of::place) return key_place(study, catalogue, what, seconds);
    if (what.of == Keyed::Of::control) return key_control(study, what.name, seconds);
    const KeptCamera* kept = study.camera(what.name);
    if (!kept) return no_such_thing();
    return key_camera(study, what.name, camera_at(*kept, seconds), seconds);
}

Edited key_camera(const Study& study, const std::string& name, const Camera& camera, double seconds) {
    auto result = std::make_shared<Study>(study);
    const auto kept = std::ranges::find(result->cameras, name, &KeptCamera::name);
    if (kept == result->cameras.end()) return no_such_thing();
    CameraKey key{seconds, camera};
    set_degrees(key.camera, azimuth_degrees(camera), elevation_degrees(camera));
    put_key(kept->keys, key);
    return StudyPointer(std::move(result));
}

Edited remove_key(const Study& study, const Keyed& what, double seconds) {
    return changed_key(study, what, seconds, [](auto& thing, auto key) -> Status {
        if (thing.keys.size() == 1) keep_last(thing, *key);
        thing.keys.erase(key);
        return Done{};
    });
}

Edited move_key(const Study& study, const Keyed& what, double from, double to) {
    return changed_key(study, what, from, [&](auto& thing, auto key) -> Status {
        auto moved = *key;
        thing.keys.erase(key);
        if (Status free = check_free(thing.keys, to); !free) return free;
        moved.seconds = to;
        put_key(thing.keys, std::move(moved));
        return Done{};
    });
}

Edited copy_key(const Study& study, const Keyed& what, double from, double to) {
    return changed_key(study, what, from, [&](auto& thing, auto key) -> Status {
        if (Status free = check_free(thing.keys, to); !free) return free;
        auto copy = *key;
        copy.seconds = to;
        put_key(thing.keys, std::move(copy));
        return Done{};
    });
}

Edited ease_key(const Study& study, const Keyed& what, double seconds, Easing easing) {
    return changed_key(study, what, seconds, [&](auto& /*thing*/, auto key) -> Status {
        key->easing = easing;
        return Done{};
    });
}

Result<PlaceKey> key_of_place(const Study& study, const SlotSpec& slot, const Place& place, double seconds) {
    if (const auto key = key_at(place.keys, seconds); key != place.keys.end()) return *key;
    if (place.keys.empty()) return PlaceKey{seconds, place.x, place.y, place.z};
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

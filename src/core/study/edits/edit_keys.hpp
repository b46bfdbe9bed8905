#pragma once
// Edits of keys: what has a value at moments. Moments are in seconds, from 0 on; the keys of one thing are in
// ascending order, each at a moment of its own.

#include <functional>

#include "core/study/edits/edits.hpp"
#include "core/study/keys.hpp"

namespace plume {

// What can have keys.
struct Keyed {
    enum class Of { control, camera, place };
    Of of = Of::control;
    std::string name = {};  // of a control or a camera
    ItemId step = 0;        // of a place: its step,
    std::string slot = {};  // its slot,
    std::size_t index = 0;  // and which it is
    bool operator==(const Keyed&) const = default;
};
inline Keyed keyed_control(std::string name) {
    return {Keyed::Of::control, std::move(name), 0, {}, 0};
}
inline Keyed keyed_camera(std::string name) {
    return {Keyed::Of::camera, std::move(name), 0, {}, 0};
}
inline Keyed keyed_place(ItemId step, std::string slot, std::size_t index) {
    return {Keyed::Of::place, {}, step, std::move(slot), index};
}
// What gets a key where a place is moved: of a mirror image the place itself.
Keyed keyed_place(const Study& study, const Catalogue& catalogue, const PlaceMove& move);

// Of a place its own; empty where there is no such thing.
std::string name_of(const Study& study, const Keyed& what);

// All that have keys: controls, then places down the page, then cameras.
struct KeyMark {
    double seconds = 0;
    Easing easing = Easing::smooth;
    std::string value;  // as it is read: "2.5 m"; a place "1.2, 0, 3 m"
};
struct KeyRow {
    Keyed of;
    std::string title;
    std::vector<KeyMark> keys;
};
std::vector<KeyRow> key_rows(const Study& study);

// A key at that moment, of the value it has then; nothing changes where there is one. Errors: unknown_name;
// input_failed where its value cannot be read.
Edited key_here(const Study& study, const Catalogue& catalogue, const Keyed& what, double seconds);
// A change at a moment that is recorded: until a frame before it these things stay as they were, frame by
// frame, what they would do after it is forgotten, and from frame to frame they go on evenly. At the first
// moment what has no keys stays without. Errors as of key_here(), and those of the change.
Edited recorded(const Study& study, const Catalogue& catalogue, const std::vector<Keyed>& things,
                double seconds, const std::function<Edited(const Study&)>& change);
// A key of a kept camera, seen from there.
Edited key_camera(const Study& study, const std::string& name, const Camera& camera, double seconds);
// The key of a place at a moment: the one it has, or one where it is then. Error: input_failed.
Result<PlaceKey> key_of_place(const Study& study, const SlotSpec& slot, const Place& place, double seconds);

}  // namespace plume

#pragma once
// Keys in files: {"at": 1.5, "easing": "straight", ...}, in any order. Private to the exchange layer.

#include <algorithm>
#include <cmath>

#include "core/exchange/json_reader.hpp"

namespace plume {

// What is wrong with a key is told by the reader of its thing. `read_value` reads what stands beside the
// moment.
template <class Key, class ReadValue>
std::vector<Key> keys_from(JsonReader& reader, ReadValue read_value) {
    std::vector<Key> keys;
    const Json* list = reader.list("keys");
    for (std::size_t index = 0; list && index < list->size(); ++index) {
        JsonReader one((*list)[index], "");
        Key key;
        if (!one.has("at")) one.fail("has no ‘at’");
        key.seconds = one.number("at", 0);
        if (!(key.seconds >= 0 && key.seconds <= longest_time_s)) one.fail("is before 0 s or after a day");
        const auto easing = easing_from(one.text("easing", std::string(key_of(Easing::smooth))));
        if (!easing) one.fail("goes on in a way that is not known; use smooth, straight or jump");
        key.easing = easing.value_or(Easing::smooth);
        read_value(one, key);
        if (!one.unknown().empty())
            one.fail("has ‘" + one.unknown().begin()->first + "’, which is not known");
        if (one.error())
            reader.fail("has a key, number " + std::to_string(index + 1) + ", that " + one.error()->message);
        keys.push_back(std::move(key));
    }
    std::ranges::stable_sort(keys, {}, &Key::seconds);
    return keys;
}

template <class Key, class ValueJson>
void add_keys(Json& json, const std::vector<Key>& keys, ValueJson value_json) {
    for (const Key& key : keys) {
        Json one{{"at", key.seconds}};
        if (key.easing != Easing::smooth) one["easing"] = std::string(key_of(key.easing));
        one.update(value_json(key));
        json["keys"].push_back(std::move(one));
    }
}

}  // namespace plume

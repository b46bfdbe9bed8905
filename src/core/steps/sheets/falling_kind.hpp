#pragma once
// What the kinds share that let things fall from moment to moment, held where they are held at that moment.

#include <algorithm>
#include <functional>

#include "core/sheets/sheet.hpp"
#include "core/study/step_kind.hpp"

namespace plume {

// Of a thing as it is put together, lying as at rest, in metres; errors without a slot.
using SheetOf = std::function<Result<Sheet>(const Inputs& in, const Value& thing, const RestLengths& rest,
                                            double metres)>;

// A choice among rows with `key`, `words` and `help`.
template <class Rows>
SlotSpec material_slot(const char* key, const char* label, const Rows& rows) {
    std::vector<Word> words;
    words.reserve(rows.size());
    for (const auto& row : rows)
        words.push_back({row.key, row.words, row.help});
    return choice_slot(key, label, std::move(words));
}
template <class Rows>
const auto& material_in(const Inputs& in, const char* key, const Rows& rows) {
    return *std::ranges::find_if(rows, [&](const auto& row) { return in.word(key) == row.key; });
}

struct FallingThing {
    std::string label;        // of the slot `sheet`
    std::vector<Kind> kinds;  // mesh or frame
    SlotSpec material;        // a choice; beside it nothing but `thickness` says what the thing is made of
    bool has_faces = true;    // that can be inflated
    SheetOf sheet_of;
};

// All but its key, verb, synonyms, name and help. Results carry `strain`, at vertices and on members, and
// `speed_x`, `speed_y`, `speed_z` in m/s, which are all that it goes on from.
StepKind falling_kind(const FallingThing& thing);

}  // namespace plume

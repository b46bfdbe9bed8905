#include "app/start/first_walk.hpp"

#include <array>

namespace plume::app {
namespace {

const Step* last_of(const Study& study, std::string_view kind) {
    const Step* last = nullptr;
    for (const Item& item : study.items)
        if (const Step* step = step_of(item); step && step->kind == kind) last = step;
    return last;
}

// A step of that kind that is not muted.
auto has_step(std::string_view kind) {
    return [kind](const Study& /*before*/, const Study& now) {
        const Step* step = last_of(now, kind);
        return step && !step->muted;
    };
}

const SlotValue* value(const Study& study, std::string_view kind, const char* slot) {
    const Step* step = last_of(study, kind);
    if (!step) return nullptr;
    const auto found = step->slots.find(slot);
    return found == step->slots.end() ? nullptr : &found->second;
}

auto is_word(std::string_view kind, const char* slot, std::string_view word) {
    return [=](const Study& /*before*/, const Study& now) {
        const SlotValue* chosen = value(now, kind, slot);
        const auto* key = chosen ? std::get_if<WordKey>(chosen) : nullptr;
        return key && key->key == word;
    };
}

// Whatever it was changed to.
auto is_changed(std::string_view kind, const char* slot) {
    return [=](const Study& before, const Study& now) {
        const SlotValue *then = value(before, kind, slot), *here = value(now, kind, slot);
        return then && here && *then != *here;
    };
}

}  // namespace

std::span<const WalkStop> canopy_walk() {
    static const std::array stops{
        WalkStop{"Lay the ground: points in rows and columns.",
                 "Press <b>Ctrl+Return</b>, type <i>lattice</i>, press <b>Return</b>.",
                 has_step("lattice.rectangular")},
        WalkStop{"Two perches that the roof shall swell away from.",
                 "<b>Ctrl+Return</b>, <i>attractors</i>, <b>Return</b>.", has_step("attractors.points")},
        WalkStop{"How far is each point from the nearer perch?",
                 "<b>Ctrl+Return</b>, <i>distance</i>, <b>Return</b>.", has_step("field.distance")},
        WalkStop{"Let the distance answer softly.",
                 "In the new sentence click <i>the distance itself</i> and choose <i>a sine’s rise</i>.",
                 is_word("field.distance", "response", "half_sine")},
        WalkStop{"Bring that number to heights, from 0 m to 3.2 m.",
                 "<b>Ctrl+Return</b>, <i>range</i>, <b>Return</b>.", has_step("field.range")},
        WalkStop{"Push the points up by it.", "<b>Ctrl+Return</b>, <i>push</i>, <b>Return</b>.",
                 has_step("points.push")},
        WalkStop{"Skin them: that is the roof.", "<b>Ctrl+Return</b>, <i>skin</i>, <b>Return</b>.",
                 has_step("skin")},
        WalkStop{"Everything follows what it is made of.",
                 "In the model drag one of the two rose discs somewhere else.",
                 is_changed("attractors.points", "places")},
        WalkStop{"Every underlined part can be changed where it stands.",
                 "In the sentence that brings to heights drag <b>3.2 m</b> sideways, or click it and type "
                 "<i>250 cm</i>.",
                 is_changed("field.range", "high_length")},
    };
    return stops;
}

}  // namespace plume::app

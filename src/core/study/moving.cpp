#include "core/study/moving.hpp"

#include <algorithm>
#include <cmath>

#include "core/study/sentence.hpp"
#include "core/study/step_group.hpp"

namespace plume {
namespace {

bool has_keys(const Study& study, const std::string& control) {
    const Control* named = study.control(control);
    return named && !named->keys.empty();
}

bool follows_time(const Study& study, const SlotValue& value) {
    Step reader;
    reader.slots["value"] = value;
    const auto moving = [&](const std::string& name) {
        return (name == time_name && !study.control(time_name)) || has_keys(study, name);
    };
    if (std::ranges::any_of(names_in_expressions(reader), moving)) return true;
    const auto* places = std::get_if<Places>(&value);
    return places && std::ranges::any_of(*places, [](const Place& place) { return !place.keys.empty(); });
}

bool looks_by_moving_camera(const Study& study, const SlotSpec& slot, const SlotValue& value) {
    const auto* word = std::get_if<WordKey>(&value);
    const KeptCamera* kept =
        slot.type == SlotType::camera && word ? study.camera(std::string_view(word->key)) : nullptr;
    return kept && !kept->keys.empty();
}

}  // namespace

double on_step(const Control& control, double value) {
    if (control.step <= 0) return value;
    return control.least + std::round((value - control.least) / control.step) * control.step;
}

double value_at(const Control& control, double seconds) {
    if (control.keys.empty()) return control.value;
    const BetweenKeys between = between_keys(control.keys, seconds);
    const double before = control.keys[between.before].value, behind = control.keys[between.behind].value;
    if (between.before == between.behind) return before;
    return on_step(control, std::lerp(before, behind, between.share));
}

Camera camera_at(const KeptCamera& kept, double seconds) {
    if (kept.keys.empty()) return kept.camera;
    const BetweenKeys between = between_keys(kept.keys, seconds);
    const Camera &before = kept.keys[between.before].camera, &behind = kept.keys[between.behind].camera;
    Camera camera = before;
    camera.target = before.target + (behind.target - before.target) * between.share;
    camera.distance = before.distance * std::pow(behind.distance / before.distance, between.share);
    camera.azimuth_rad = std::lerp(before.azimuth_rad, behind.azimuth_rad, between.share);
    camera.elevation_rad = std::lerp(before.elevation_rad, behind.elevation_rad, between.share);
    return camera;
}

bool follows_time(const Study& study, const Catalogue& catalogue, const Step& step) {
    const StepKind* kind = catalogue.find(step);
    if (!kind || step.muted) return false;
    if (kind->advance) return true;
    const StepGroup* group = group_of(step);
    if (group && moves(group->steps, catalogue)) return true;
    return std::ranges::any_of(active_slots(*kind, step), [&](const SlotSpec* slot) {
        const SlotValue value = slot_value(*slot, step);
        return follows_time(study, value) || looks_by_moving_camera(study, *slot, value);
    });
}

std::set<ItemId> moving_steps(const Study& study, const Catalogue& catalogue) {
    std::set<ItemId> moving;
    std::set<std::string> names;
    for (const Item& item : study.items) {
        const Step* step = step_of(item);
        if (!step) continue;
        const StepKind* kind = catalogue.find(*step);
        const bool keeps = kind && !kind->read_at.empty() && !step->muted;
        const auto read = results_read(study, *step);
        const auto moves = [&](const std::string& name) { return names.contains(name); };
        if (!follows_time(study, catalogue, *step) && (keeps || std::ranges::none_of(read, moves))) continue;
        moving.insert(step->id);
        names.insert(step->name);
    }
    return moving;
}

const Step* moment_to_keep(const Study& study, const Catalogue& catalogue, ItemId in_hand) {
    const std::set<ItemId> moving = moving_steps(study, catalogue);
    std::set<std::string> from_it;  // what is in hand, and what is made from that
    const Step *held = nullptr, *last = nullptr, *last_from_it = nullptr;
    for (const Item& item : study.items) {
        const Step* step = step_of(item);
        if (!step || !moving.contains(step->id) || gives_number(*step) || page_of(*step) != Page::sheet)
            continue;
        const bool seen = step->show.visible && !step->muted;
        const auto is_from_it = [&](const std::string& name) { return from_it.contains(name); };
        if (step->id == in_hand) {
            if (seen) return step;
            held = step;
            from_it.insert(step->name);
        } else if (std::ranges::any_of(results_read(study, *step), is_from_it)) {
            from_it.insert(step->name);
            if (seen) last_from_it = step;
        }
        if (seen) last = step;
    }
    if (last_from_it) return last_from_it;
    return held ? held : last;
}

bool moves(const Study& study, const Catalogue& catalogue) {
    return std::ranges::any_of(study.controls, [](const auto& control) { return !control->keys.empty(); }) ||
           std::ranges::any_of(study.cameras, [](const KeptCamera& kept) { return !kept.keys.empty(); }) ||
           !moving_steps(study, catalogue).empty();
}

}  // namespace plume

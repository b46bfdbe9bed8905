// Edits of the cameras that a study keeps.

#include <algorithm>

#include "core/base/text.hpp"
#include "core/study/edits/edits.hpp"
#include "core/study/edits/expression_texts.hpp"

namespace plume {
namespace {

constexpr std::size_t longest_name = 60;

Status check_camera_name(const std::string& name) {
    const auto blank = [](char c) { return c == ' ' || c == '\t' || c == '\n'; };
    if (std::ranges::all_of(name, blank))
        return Error{ErrorCode::bad_name, "", "A camera needs a name", "Type what is seen from there."};
    if (name.size() > longest_name || name.find('\n') != std::string::npos)
        return Error{ErrorCode::bad_name, "‘" + shortened(name) + "’", "is too long for a camera",
                     "Type a line of at most 60 letters."};
    if (standard_view_from(name))
        return Error{ErrorCode::bad_name, "‘" + name + "’", "is a way to look that everybody has",
                     "Choose another name."};
    return Done{};
}

Error no_such_camera(std::string_view name) {
    return {ErrorCode::unknown_name, "‘" + std::string(name) + "’", "is not a camera of this study",
            "Choose one of its cameras."};
}

std::vector<KeptCamera>::iterator camera_in(Study& study, std::string_view name) {
    return std::ranges::find(study.cameras, name, &KeptCamera::name);
}

}  // namespace

Edited keep_camera(const Study& study, std::string name, const Camera& camera, double seconds) {
    if (Status named = check_camera_name(name); !named) return named.error();
    Camera kept = camera;
    set_degrees(kept, azimuth_degrees(camera), elevation_degrees(camera));
    auto result = std::make_shared<Study>(study);
    const auto old = camera_in(*result, name);
    if (old == result->cameras.end())
        result->cameras.push_back({std::move(name), kept});
    else if (old->keys.empty())
        old->camera = kept;
    else
        put_key(old->keys, {seconds, kept});
    return StudyPointer(std::move(result));
}

Edited remove_camera(const Study& study, std::string_view name) {
    auto result = std::make_shared<Study>(study);
    const auto old = camera_in(*result, name);
    if (old == result->cameras.end()) return no_such_camera(name);
    result->cameras.erase(old);
    return StudyPointer(std::move(result));
}

Edited rename_camera(const Study& study, const Catalogue& catalogue, const std::string& name,
                     std::string to) {
    if (Status named = check_camera_name(to); !named) return named.error();
    if (to != name && study.camera(to))
        return Error{ErrorCode::name_clash, "‘" + to + "’", "is already the name of a camera",
                     "Choose another name."};
    auto result = std::make_shared<Study>(study);
    const auto old = camera_in(*result, name);
    if (old == result->cameras.end()) return no_such_camera(name);
    old->name = to;
    change_slots(*result, &catalogue, [&](const SlotSpec* slot, SlotValue& value) {
        auto* seen = std::get_if<WordKey>(&value);
        if (seen && slot && slot->type == SlotType::camera && seen->key == name) seen->key = to;
    });
    return StudyPointer(std::move(result));
}

}  // namespace plume

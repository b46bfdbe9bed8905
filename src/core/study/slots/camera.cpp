// A way to look: one of a few words, or a camera that the study keeps.

#include <algorithm>

#include "core/base/text.hpp"
#include "core/study/moving.hpp"
#include "core/study/slots/slot_rules.hpp"

namespace plume {
namespace {

std::string kept_text(std::span<const KeptCamera> cameras) {
    std::string text;
    for (const KeptCamera& kept : cameras)
        text += (text.empty() ? "‘" : ", ‘") + kept.name + "’";
    return text.empty() ? "none is" : "kept are " + text;
}

Result<Resolved> resolve(const SlotSpec& slot, const SlotValue& value, const Standpoint& from) {
    const std::string& key = std::get<WordKey>(value).key;
    if (const auto view = standard_view_from(key)) return Resolved(SeenFrom{seen_from(*view, {}), true, {}});
    const auto kept = std::ranges::find(from.cameras, key, &KeptCamera::name);
    if (kept != from.cameras.end()) return Resolved(SeenFrom{camera_at(*kept, from.seconds), false, key});
    return about_slot(
        Error{ErrorCode::missing_input, "", "cannot be by ‘" + shortened(key) + "’: no such camera is kept",
              "Keep one of that name, or choose another: " + kept_text(from.cameras) + "."},
        slot);
}

void add_to_hash(Hasher& hasher, const Resolved& value) {
    const auto& seen = std::get<SeenFrom>(value);
    plume::add_to_hash(hasher, seen.camera);
    hasher.add(std::uint64_t{seen.fitted});
}

std::string text(const SlotSpec& slot, const SlotValue& value) {
    const std::string& key = std::get<WordKey>(value).key;
    const auto word = std::ranges::find(slot.words, key, &Word::key);
    return word == slot.words.end() ? "as ‘" + shortened(key) + "’" : word->label;
}

}  // namespace

const SlotRules camera_rules{.key = "camera",
                             .needs = "a way to look or the name of a kept camera",
                             .preset = [](const SlotSpec& slot) -> SlotValue { return WordKey{slot.preset}; },
                             .holds = holds_form<WordKey>,
                             .meant = never_meant,
                             .resolve = resolve,
                             .add_to_hash = add_to_hash,
                             .text = text};

std::vector<Word> words_in(const SlotSpec& slot, const Study& study) {
    std::vector<Word> words = slot.words;
    if (slot.type == SlotType::camera)
        for (const KeptCamera& kept : study.cameras)
            words.push_back({kept.name, text(slot, WordKey{kept.name}), "a camera of this study"});
    return words;
}

SlotSpec camera_slot(std::string key, std::string label) {
    SlotSpec spec = choice_slot(std::move(key), std::move(label),
                                {{"above", "at an angle", "from above, in perspective"},
                                 {"plan", "in plan", "from straight above"},
                                 {"front", "from the front", "along Y"},
                                 {"side", "from the side", "along X"}});
    spec.type = SlotType::camera;
    return spec;
}

}  // namespace plume

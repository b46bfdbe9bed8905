// Names picked out of what is offered.

#include <algorithm>

#include "core/base/small_letters.hpp"
#include "core/base/text.hpp"
#include "core/study/slots/picked_names.hpp"
#include "core/study/slots/slot_rules.hpp"

namespace plume {
namespace {

// Longer lists are counted in the sentence.
constexpr std::size_t most_shown = 3;

std::string text(const SlotSpec& slot, const SlotValue& value) {
    const std::vector<std::string> names = picked_names(std::get<WordKey>(value).key);
    if (names.empty()) return slot.none;
    // "5 of its layers", where none is "all its layers"; else "5 views".
    if (names.size() > most_shown)
        return std::to_string(names.size()) + (slot.none.starts_with("all ")
                                                   ? " of " + slot.none.substr(4)
                                                   : ' ' + in_small_letters(slot.label));
    std::string shown;
    for (std::size_t at = 0; at < names.size(); ++at)
        shown += (at == 0 ? "" : at + 1 == names.size() ? " and " : ", ") + shortened(names[at], 24);
    return shown;
}

// A layer may be called 0.
std::optional<SlotValue> meant(const SlotValue& value) {
    if (const auto* number = std::get_if<NumberText>(&value)) return WordKey{number->text};
    return {};
}

}  // namespace

std::vector<std::string> picked_names(std::string_view text) {
    std::vector<std::string> names;
    std::string name;
    std::size_t kept = 0;  // characters that stood in quotes, whose blanks count
    bool quoted = false;
    const auto take = [&] {
        while (name.size() > kept && name.back() == ' ')
            name.pop_back();
        if (!name.empty()) names.push_back(std::move(name));
        name.clear();
        kept = 0;
    };
    for (std::size_t at = 0; at < text.size(); ++at) {
        const char c = text[at];
        if (c == '"' && quoted && at + 1 < text.size() && text[at + 1] == '"') {
            name += text[++at];
        } else if (c == '"') {
            quoted = !quoted;
            kept = name.size();
        } else if (c == ',' && !quoted) {
            take();
        } else if (c != ' ' || quoted || !name.empty()) {
            name += c;
        }
    }
    if (quoted) kept = name.size();
    take();
    return names;
}

std::string picks_text(const std::vector<std::string>& names) {
    std::string text;
    for (const std::string& name : names) {
        text += text.empty() ? "" : ", ";
        if (name.find_first_of(",\"") == std::string::npos && name.front() != ' ' && name.back() != ' ') {
            text += name;
            continue;
        }
        text += '"';
        for (const char c : name)
            text += c == '"' ? std::string(2, c) : std::string(1, c);
        text += '"';
    }
    return text;
}

const SlotRules picks_rules{.key = "picks",
                            .needs = "names, separated by commas",
                            .preset = [](const SlotSpec& /*slot*/) -> SlotValue { return WordKey{}; },
                            .holds = holds_form<WordKey>,
                            .meant = meant,
                            .resolve = [](const SlotSpec& /*slot*/, const SlotValue& value,
                                          const Standpoint& /*from*/) -> Result<Resolved> {
                                return Resolved(std::get<WordKey>(value).key);
                            },
                            .add_to_hash = add_text_to_hash,
                            .text = text};

SlotSpec picks_slot(std::string key, std::string label, std::string none) {
    SlotSpec spec = slot_with_preset(SlotType::picks, std::move(key), std::move(label), {});
    spec.none = std::move(none);
    return spec;
}

}  // namespace plume

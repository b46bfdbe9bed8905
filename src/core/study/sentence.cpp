#include "core/study/sentence.hpp"

#include <algorithm>
#include <span>

#include "core/study/slots/picked_names.hpp"
#include "core/study/slots/slot_form.hpp"
#include "core/study/slots/slot_rules.hpp"

namespace plume {
namespace {

// What a condition looks at: the word of a choice, the names that are picked, what results are given as.
std::vector<std::string> words_of(const StepKind& kind, const Step& step, std::string_view key) {
    const SlotSpec* slot = kind.slot(key);
    assert(slot);
    const SlotValue value = slot_value(*slot, step);
    if (const auto* list = std::get_if<ResultList>(&value)) {
        std::vector<std::string> words;
        for (const ResultList::Entry& entry : list->entries)
            words.push_back(entry.as);
        return words;
    }
    const std::string word = std::get<WordKey>(value).key;
    if (slot->type == SlotType::picks) return picked_names(word);
    return {word.substr(0, word.find(' '))};  // a drawn response goes on with its knots
}

bool listed(std::string_view list, std::string_view word) {
    while (!list.empty()) {
        const std::size_t comma = std::min(list.find(','), list.size());
        if (list.substr(0, comma) == word) return true;
        list.remove_prefix(std::min(comma + 1, list.size()));
    }
    return false;
}

constexpr std::string_view rare = "more";

// "how=turn,steps&axis=placed": every part has to hold.
bool holds(const StepKind& kind, const Step& step, std::string_view condition) {
    while (!condition.empty()) {
        const std::size_t end = std::min(condition.find('&'), condition.size());
        const std::string_view part = condition.substr(0, end);
        condition.remove_prefix(std::min(end + 1, condition.size()));
        if (part == rare) continue;
        const std::size_t equals = part.find('=');
        assert(equals != std::string_view::npos);
        const std::vector<std::string> words = words_of(kind, step, part.substr(0, equals));
        const std::string_view wanted = part.substr(equals + 1);
        if (std::ranges::none_of(words, [&](const std::string& word) { return listed(wanted, word); }))
            return false;
    }
    return true;
}

bool as_preset(const SlotSpec& slot, const Step& step) {
    const auto found = step.slots.find(slot.key);
    return found == step.slots.end() || found->second == slot.preset_value();
}

// Text with {slot}s, no conditions.
void append_parts(const StepKind& kind, std::string_view text, std::vector<SentencePart>& parts) {
    while (!text.empty()) {
        const std::size_t open = std::min(text.find('{'), text.size());
        if (open > 0) parts.push_back({std::string(text.substr(0, open)), nullptr, false});
        text.remove_prefix(open);
        if (text.empty()) return;
        const std::size_t close = text.find('}');
        assert(close != std::string_view::npos);
        const SlotSpec* slot = kind.slot(text.substr(1, close - 1));
        assert(slot);
        parts.push_back({"", slot, false});
        text.remove_prefix(close + 1);
    }
}

// Where one of its slots was changed, the whole part is read.
void let_wait(const Step& step, std::span<SentencePart> parts) {
    const bool waits = std::ranges::all_of(
        parts, [&](const SentencePart& part) { return !part.slot || as_preset(*part.slot, step); });
    for (SentencePart& part : parts)
        part.waits = waits;
}

}  // namespace

SlotValue slot_value(const SlotSpec& slot, const Step& step) {
    const auto found = step.slots.find(slot.key);
    if (found == step.slots.end()) return slot.preset_value();
    if (Result<SlotValue> read = in_form(slot, found->second)) return *std::move(read);
    // What stands there is shown where text can show it; the step has an error that says so.
    const auto* odd = std::get_if<OddValue>(&found->second);
    if (odd && slot.numeric()) return NumberText{odd->json};
    return slot.preset_value();
}

std::vector<SentencePart> sentence_parts(const StepKind& kind, const Step& step) {
    std::vector<SentencePart> parts;
    std::string_view rest = kind.sentence;
    while (!rest.empty()) {
        const std::size_t open = std::min(rest.find('['), rest.size());
        append_parts(kind, rest.substr(0, open), parts);
        rest.remove_prefix(open);
        if (rest.empty()) break;
        const std::size_t bar = rest.find('|'), close = rest.find(']');
        assert(close != std::string_view::npos && bar < close);
        const std::string_view condition = rest.substr(1, bar - 1);
        if (holds(kind, step, condition)) {
            const std::size_t first = parts.size();
            append_parts(kind, rest.substr(bar + 1, close - bar - 1), parts);
            if (condition.starts_with(rare)) let_wait(step, std::span(parts).subspan(first));
        }
        rest.remove_prefix(close + 1);
    }
    return parts;
}

std::vector<const SlotSpec*> active_slots(const StepKind& kind, const Step& step) {
    std::vector<const SlotSpec*> slots;
    for (const SentencePart& part : sentence_parts(kind, step))
        if (part.slot && std::ranges::find(slots, part.slot) == slots.end()) slots.push_back(part.slot);
    return slots;
}

std::string slot_text(const SlotSpec& slot, const Step& step) {
    return rules_of(slot.type).text(slot, slot_value(slot, step));
}

std::string sentence_text(const StepKind& kind, const Step& step) {
    return sentence_text(sentence_parts(kind, step), step);
}

std::string sentence_text(std::span<const SentencePart> parts, const Step& step) {
    std::string text;
    for (const SentencePart& part : parts)
        if (!part.waits) text += part.slot ? slot_text(*part.slot, step) : part.text;
    return text;
}

}  // namespace plume

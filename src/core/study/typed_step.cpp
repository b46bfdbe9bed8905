#include "core/study/typed_step.hpp"

#include <algorithm>
#include <array>

#include "core/base/small_letters.hpp"
#include "core/base/text.hpp"
#include "core/formula/expression.hpp"
#include "core/study/sentence.hpp"

namespace plume {
namespace {

bool is_digit(char c) {
    return c >= '0' && c <= '9';
}

// Parted by spaces, without a comma at their ends, and by the × of 24×16 or 24x16.
std::vector<std::string> parts_of(std::string_view typed) {
    std::string spaced;
    for (std::size_t at = 0; at < typed.size(); ++at) {
        const std::string_view rest = typed.substr(at);
        const bool between = at > 0 && is_digit(typed[at - 1]);
        if (rest.starts_with("×")) {
            spaced += ' ';
            at += std::string_view("×").size() - 1;
        } else if (between && rest.size() > 1 && rest[0] == 'x' && is_digit(rest[1])) {
            spaced += ' ';
        } else {
            spaced += typed[at];
        }
    }
    std::vector<std::string> parts;
    for (std::string_view part : words_between(spaced, " ")) {
        if (part.ends_with(',')) part.remove_suffix(1);
        if (!part.empty()) parts.emplace_back(part);
    }
    return parts;
}

struct AxisWord {
    std::string_view word;
    char axis;
    bool back;
};
constexpr std::array axis_words{
    AxisWord{"up", 'z', false},     AxisWord{"upwards", 'z', false},  AxisWord{"high", 'z', false},
    AxisWord{"down", 'z', true},    AxisWord{"downwards", 'z', true}, AxisWord{"z", 'z', false},
    AxisWord{"across", 'x', false}, AxisWord{"right", 'x', false},    AxisWord{"left", 'x', true},
    AxisWord{"x", 'x', false},      AxisWord{"along", 'y', false},    AxisWord{"back", 'y', false},
    AxisWord{"forward", 'y', true}, AxisWord{"y", 'y', false}};

std::optional<Dimension> dimension_of(const Literal& literal) {
    if (literal.unit.empty()) return plain_number;
    const auto unit = unit_quantity(literal.unit, LengthUnit::metre);
    if (!unit) return {};
    return unit->dimension;
}

// The number that begins there, with its unit behind it or in the next part; moves behind it.
std::optional<TypedNumber> number_at(const std::vector<std::string>& parts, std::size_t& at) {
    if (at + 1 < parts.size())
        if (const auto both = read_literal(parts[at] + ' ' + parts[at + 1]); both && !both->unit.empty()) {
            const auto dimension = dimension_of(*both);
            if (dimension) {
                at += 2;
                return TypedNumber{literal_text(*both), *dimension};
            }
        }
    const auto alone = read_literal(parts[at]);
    if (!alone) return {};
    const auto dimension = dimension_of(*alone);
    if (!dimension) return {};
    ++at;
    return TypedNumber{literal_text(*alone), *dimension};
}

// Where numbers are looked for, in the order of the sentence.
class NumberSlots {
public:
    NumberSlots(const StepKind& kind, const Step& step) : slots_(active_slots(kind, step)) {}

    // The next that takes such a number, and nothing before it any more.
    const SlotSpec* next(Dimension dimension) {
        const auto takes = [&](const SlotSpec* slot) {
            return slot->numeric() && (slot->type == SlotType::quantity || slot->dimension() == dimension);
        };
        if (const SlotSpec* found = next_where(takes)) return found;
        if (dimension != plain_number) return nullptr;
        return next_where([](const SlotSpec* slot) { return slot->dimension() == a_length; });
    }
    const SlotSpec* along(char axis) const {
        const auto found = std::ranges::find_if(slots_, [&](const SlotSpec* slot) {
            return slot->numeric() &&
                   (slot->key == std::string(1, axis) || slot->key == std::string("along_") + axis);
        });
        return found == slots_.end() ? nullptr : *found;
    }
    const SlotSpec* choice_of(char axis) const {
        const auto found = std::ranges::find_if(slots_, [&](const SlotSpec* slot) {
            return slot->type == SlotType::choice &&
                   std::ranges::find(slot->words, std::string(1, axis), &Word::key) != slot->words.end();
        });
        return found == slots_.end() ? nullptr : *found;
    }

private:
    template <class Takes>
    const SlotSpec* next_where(Takes takes) {
        for (std::size_t at = at_; at < slots_.size(); ++at)
            if (takes(slots_[at])) {
                at_ = at + 1;
                return slots_[at];
            }
        return nullptr;
    }

    std::vector<const SlotSpec*> slots_;
    std::size_t at_ = 0;
};

std::string turned_round(const std::string& number) {
    return number.starts_with('-') ? number.substr(1) : '-' + number;
}

}  // namespace

bool says_which_way(std::string_view word) {
    return std::ranges::find(axis_words, word, &AxisWord::word) != axis_words.end();
}

TypedStep read_typed(std::string_view typed) {
    const std::vector<std::string> parts = parts_of(typed);
    TypedStep step;
    for (std::size_t at = 0; at < parts.size();) {
        std::optional<TypedNumber> number;
        if (!step.name.empty()) number = number_at(parts, at);
        if (number) {
            step.numbers.push_back(*std::move(number));
            continue;
        }
        const std::string& word = parts[at++];
        if (step.numbers.empty()) {
            step.name += (step.name.empty() ? "" : " ") + word;
            continue;
        }
        const auto axis = std::ranges::find(axis_words, in_small_letters(word), &AxisWord::word);
        if (axis == axis_words.end()) continue;
        step.numbers.back().axis = axis->axis;
        step.numbers.back().back = axis->back;
    }
    return step;
}

Step with_numbers(const StepKind& kind, Step step, const std::vector<TypedNumber>& numbers) {
    NumberSlots slots(kind, step);
    for (const TypedNumber& number : numbers) {
        const SlotSpec* slot = number.axis ? slots.along(number.axis) : nullptr;
        const bool named = slot != nullptr;
        if (!slot) slot = slots.next(number.dimension);
        if (!slot) continue;
        // Down is a number below zero only where up is one above it.
        const bool back = number.back && named;
        step.slots[slot->key] = NumberText{back ? turned_round(number.text) : number.text};
        if (number.axis && !named)
            if (const SlotSpec* choice = slots.choice_of(number.axis))
                step.slots[choice->key] = WordKey{std::string(1, number.axis)};
    }
    return step;
}

}  // namespace plume

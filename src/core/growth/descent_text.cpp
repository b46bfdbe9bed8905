#include "core/growth/descent_text.hpp"

#include "core/base/numbers.hpp"

namespace plume {
namespace {

std::string ordinal(std::size_t number) {
    const std::size_t tens = number / 10 % 10, ones = number % 10;
    const char* ending = tens == 1 || ones == 0 || ones > 3 ? "th"
                         : ones == 1                        ? "st"
                         : ones == 2                        ? "nd"
                                                            : "rd";
    return std::to_string(number) + ending;
}

std::string told(const Ancestor& part, const GrowthRules& rules, const Units& units, Dimension of_size) {
    std::string text = "generation " + std::to_string(part.depth) + ": " + rules.parts[part.part] + ", " +
                       quantity_text({part.size, of_size}, units);
    if (part.siblings > 1) text += "; " + ordinal(part.number + 1) + " of " + std::to_string(part.siblings);
    for (std::size_t value = 0; value < part.values.size(); ++value)
        text += "; " + rules.values[value].name + ' ' +
                quantity_text({part.values[value], rules.values[value].dimension}, units);
    if (part.drawn_for_choice) text += "; its rule drew " + short_text(*part.drawn_for_choice, 3);
    if (part.drawn_for_line) text += "; its line drew " + short_text(*part.drawn_for_line, 3);
    // Last, since it may be long.
    return text + (part.depth == 0 ? "; where it began" : "; by ‘" + rules.line_texts[part.line] + "’");
}

}  // namespace

std::vector<std::string> descent_texts(const std::vector<Ancestor>& ancestors, const GrowthRules& rules,
                                       const Units& units, Dimension of_size) {
    std::vector<std::string> lines;
    for (const Ancestor& ancestor : ancestors)
        lines.push_back(told(ancestor, rules, units, of_size));
    return lines;
}

}  // namespace plume

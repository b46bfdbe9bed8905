// A formula: its text, the lines that are muted, and what names of the study mean in it.

#include <algorithm>

#include "core/study/slots/slot_rules.hpp"

namespace plume {
namespace {

std::optional<SlotValue> meant(const SlotValue& value) {
    if (const auto* word = std::get_if<WordKey>(&value)) return FormulaText{word->key, {}, {}};
    if (const auto* lines = std::get_if<Lines>(&value)) return FormulaText{lines->text, {}, {}};
    return {};
}

Result<Resolved> resolve(const SlotSpec& /*slot*/, const SlotValue& value, const Standpoint& from) {
    const auto& formula = std::get<FormulaText>(value);
    ResolvedFormula resolved{formula.text, formula.muted, from.scope};
    resolved.scope.plain = from.text_units;
    return Resolved(std::move(resolved));
}

// Text, muted lines, and the controls it names with what they hold.
void add_formula_to_hash(Hasher& hasher, const Resolved& value) {
    const auto& formula = std::get<ResolvedFormula>(value);
    hasher.add(formula.text);
    for (const std::string& line : formula.muted)
        hasher.add(line);
    for (const std::string& name : names_used(formula.text))
        if (const auto known = formula.scope.find(name)) {
            hasher.add(name);
            add_to_hash(hasher, *known);
        }
}

// A formula stands below its sentence; in it, it is only counted. One line is short enough to be shown.
std::string text(const SlotSpec& slot, const SlotValue& value) {
    const std::string& text = std::get<FormulaText>(value).text;
    const std::size_t end = text.find_last_not_of(" \n");
    const auto lines =
        1 +
        std::count(text.begin(),
                   end == std::string::npos ? text.begin() : text.begin() + static_cast<std::ptrdiff_t>(end),
                   '\n');
    if (lines == 1 && text.size() <= 40) return text.substr(0, end + 1);
    return (slot.rules ? "rules of " : "a formula of ") + std::to_string(lines) +
           (lines == 1 ? " line" : " lines");
}

}  // namespace

const SlotRules formula_rules{.key = "formula",
                              .needs = "a formula",
                              .preset = [](const SlotSpec& slot) -> SlotValue {
                                  return FormulaText{slot.preset, {}, {}};
                              },
                              .holds = holds_form<FormulaText>,
                              .meant = meant,
                              .resolve = resolve,
                              .add_to_hash = add_formula_to_hash,
                              .text = text};

SlotSpec formula_slot(std::string key, std::string label, std::string preset) {
    return slot_with_preset(SlotType::formula, std::move(key), std::move(label), std::move(preset));
}

SlotSpec rules_slot(RulesLanguage language, std::string preset) {
    SlotSpec slot = formula_slot("formula", "Rules", std::move(preset));
    slot.rules = language;
    return slot;
}

}  // namespace plume

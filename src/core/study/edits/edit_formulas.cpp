#include <algorithm>
#include <set>

#include "core/formula/expression.hpp"
#include "core/formula/rules_syntax.hpp"
#include "core/formula/spans.hpp"
#include "core/formula/syntax.hpp"
#include "core/study/edits/edits.hpp"
#include "core/study/sentence.hpp"

namespace plume {
namespace {

Error no_formula() {
    return {ErrorCode::unknown_slot, "", "This step has no formula", "Choose a step with one."};
}

template <class Change>
Edited with_formula(const Study& study, const StepKind& kind, ItemId id, Change change) {
    const Step* step = study.step(id);
    const SlotSpec* slot = kind.slot("formula");
    if (!step || !slot || slot->type != SlotType::formula) return no_formula();
    auto formula = std::get<FormulaText>(slot_value(*slot, *step));
    if (const Status changed = change(formula); !changed) return changed.error();
    return set_slot(study, id, slot->key, std::move(formula));
}

// Without lines that cannot be read there is nothing to say about the muted ones: they stay.
void forget_gone_lines(FormulaText& formula) {
    const auto read = parse_formula(formula.text);
    if (!read) return;
    std::erase_if(formula.muted, [&](const std::string& name) {
        return std::ranges::find(read->lines, name, &SyntaxLine::name) == read->lines.end();
    });
}

Error no_version(const std::string& name) {
    return {ErrorCode::unknown_name, "", "There is no version ‘" + name + "’", "Keep one under that name."};
}

// Names of the results that read `id`, directly or through others, its own included.
std::set<std::string> everything_after(const Study& study, ItemId id) {
    std::set<std::string> names;
    for (const Item& item : study.items) {
        const Step* step = step_of(item);
        if (!step) continue;
        const auto reads = results_read(study, *step);
        if (step->id == id ||
            std::ranges::any_of(reads, [&](const std::string& name) { return names.contains(name); }))
            names.insert(step->name);
    }
    return names;
}

}  // namespace

Edited set_formula_text(const Study& study, const StepKind& kind, ItemId id, std::string text) {
    return with_formula(study, kind, id, [&](FormulaText& formula) -> Status {
        formula.text = std::move(text);
        forget_gone_lines(formula);
        return Done{};
    });
}

Edited set_line_muted(const Study& study, const StepKind& kind, ItemId id, const std::string& line,
                      bool muted) {
    return with_formula(study, kind, id, [&](FormulaText& formula) -> Status {
        std::erase(formula.muted, line);
        if (muted) formula.muted.push_back(line);
        return Done{};
    });
}

Edited keep_version(const Study& study, const StepKind& kind, ItemId id, const std::string& name) {
    return with_formula(study, kind, id, [&](FormulaText& formula) -> Status {
        if (name.empty())
            return Error{ErrorCode::bad_name, "", "A version needs a name", "Type what sets it apart."};
        const auto known = std::ranges::find(formula.versions, name, &FormulaVersion::name);
        if (known == formula.versions.end())
            formula.versions.push_back({name, formula.text});
        else
            known->text = formula.text;
        return Done{};
    });
}

Edited take_version(const Study& study, const StepKind& kind, ItemId id, const std::string& name) {
    return with_formula(study, kind, id, [&](FormulaText& formula) -> Status {
        const auto known = std::ranges::find(formula.versions, name, &FormulaVersion::name);
        if (known == formula.versions.end()) return no_version(name);
        formula.text = known->text;
        forget_gone_lines(formula);
        return Done{};
    });
}

Edited remove_version(const Study& study, const StepKind& kind, ItemId id, const std::string& name) {
    return with_formula(study, kind, id, [&](FormulaText& formula) -> Status {
        std::erase_if(formula.versions, [&](const FormulaVersion& version) { return version.name == name; });
        return Done{};
    });
}

Edited promote_literal(const Study& study, const StepKind& kind, ItemId id, std::size_t begin,
                       std::size_t end, const std::string& name) {
    const Step* step = study.step(id);
    const SlotSpec* slot = kind.slot("formula");
    if (!step || !slot) return no_formula();
    std::string text = std::get<FormulaText>(slot_value(*slot, *step)).text;
    const auto literal = end <= text.size() && begin < end
                             ? read_literal(std::string_view(text).substr(begin, end - begin))
                             : std::nullopt;
    if (!literal)
        return Error{ErrorCode::bad_number, "", "No number stands there", "Choose a number of the formula."};
    Edited with_control = add_control(study, proposed_control(name, literal->number, literal->unit, false));
    if (!with_control) return with_control;
    text.replace(begin, end - begin, name);
    return set_formula_text(**with_control, kind, id, std::move(text));
}

namespace {

// Where the line of rules that makes parts begins, counted from 1; 0 where none does.
std::size_t number_of_line(const RulesSyntax& rules, std::size_t begin) {
    const std::vector<const PartLine*> lines = part_lines(rules);
    const auto found = std::ranges::find(lines, begin, [](const PartLine* line) { return line->begin; });
    return found == lines.end() ? 0 : static_cast<std::size_t>(found - lines.begin()) + 1;
}

// The line's values as a field of the formula; returns its name. Of rules, what the line made.
Result<std::string> make_field_of_line(std::string& text, std::size_t begin, const SlotSpec& slot) {
    const Error none{ErrorCode::unknown_name, "", "No line begins there", "Choose a line."};
    if (slot.rules) {
        const auto rules = parse_rules(text, *slot.rules);
        if (!rules) return rules.error();
        const std::size_t number = number_of_line(*rules, begin);
        if (number == 0) return none;
        const std::string name = "made_here";
        text.insert(0, "field " + name + " = line == " + std::to_string(number) + "\n");
        return name;
    }
    const auto read = parse_formula(text);
    if (!read) return read.error();
    const auto line = std::ranges::find(read->lines, begin, &SyntaxLine::begin);
    if (line == read->lines.end()) return none;
    const std::string name = line->name.empty() ? "line_value" : line->name;
    text.insert(begin, (line->field ? std::string() : "field ") + (line->name.empty() ? name + " = " : ""));
    return name;
}

}  // namespace

Edited coloured_by_line(const Study& study, const StepKind& kind, ItemId id, std::size_t begin) {
    std::string name;
    Edited edited = with_formula(study, kind, id, [&](FormulaText& formula) -> Status {
        auto made = make_field_of_line(formula.text, begin, *kind.slot("formula"));
        if (!made) return made.error();
        name = *std::move(made);
        return Done{};
    });
    if (!edited) return edited;
    for (const std::string& result : everything_after(study, id)) {
        const Step& step = *study.step(result);
        Show show = step.show;
        show.colour_by = name;
        edited = set_show(**edited, step.id, show);
        if (!edited) return edited;
    }
    return edited;
}

}  // namespace plume

#include "core/tracing/formula_story.hpp"

#include <algorithm>

#include "core/base/small_letters.hpp"
#include "core/evaluation/formula_along.hpp"
#include "core/formula/expression.hpp"
#include "core/formula/put_in.hpp"
#include "core/study/sentence.hpp"
#include "core/study/told_number.hpp"

namespace plume {
namespace {

constexpr std::string_view formula_key = "formula";

std::optional<FormulaSite> site_of(const StepKind& kind, const Inputs& inputs) {
    if (!inputs.has(formula_key)) return {};
    auto context = slot_context(kind, formula_key, inputs, Run());
    if (!context || !*context || !std::holds_alternative<FormulaSite>(**context)) return {};
    return std::get<FormulaSite>(**std::move(context));
}

// Names as a formula reads them at one address: what the site gives, lines above, the study.
struct ValuesThere {
    const FormulaSite& site;
    const CheckedFormula& formula;
    const std::vector<Doubles>& terms;
    const std::array<std::size_t, 3> address;
    const Scope& scope;
    const Units& units;

    std::string of(std::string_view name, std::size_t line) const {
        for (std::size_t above = line; above-- > 0;)
            if (formula.terms[above].name == name)
                return told_number({terms[above][0], formula.terms[above].dimension}, units);
        for (const FormulaInput& input : site.inputs) {
            if (input.name != name) continue;
            const auto* ref = std::get_if<InputRef>(&input.meaning);
            const double value = ref ? input_at(site.domain, *ref, address) : std::get<double>(input.meaning);
            return told_number({value, input.dimension}, units);
        }
        const auto known = scope.find ? scope.find(name) : std::nullopt;
        return known ? told_number(*known, units) : std::string();
    }
};

// What stands behind the name and its equals sign.
std::string_view right_of(std::string_view line, const Term& term) {
    if (term.name_end <= term.name_begin) return line;
    const std::size_t equals = line.find('=', term.name_end - term.begin);
    return equals == std::string_view::npos ? line : line.substr(equals + 1);
}

std::string line_story(const ValuesThere& there, const std::string& text, std::size_t at) {
    const Term& term = there.formula.terms[at];
    const std::string value = told_number({there.terms[at][0], term.dimension}, there.units);
    const std::string_view line = std::string_view(text).substr(term.begin, term.end - term.begin);
    const std::string put_in =
        with_values(right_of(line, term), [&](std::string_view name) { return there.of(name, at); });
    const std::string result = term.name.empty() ? value : term.name + ' ' + value;
    if (term.muted_to) return result + ", muted";
    return result + " = " + put_in;
}

}  // namespace

std::vector<std::string> formula_story(const StepKind& kind, const Inputs& inputs,
                                       std::span<const PlaceAmong> places) {
    const auto site = site_of(kind, inputs);
    if (!site) return {};
    const auto runs_over = [&](const PlaceAmong& place) {
        return place.parts == site->domain.size() && place.number < place.parts;
    };
    const auto place = std::ranges::find_if(places, runs_over);
    if (place == places.end()) return {};
    const ResolvedFormula& formula = inputs.formula(formula_key);
    const auto checked = check_at(formula, *site);
    if (!checked) return {};
    const AddressLine line = address_line(site->domain, place->number);
    const auto terms = terms_along(formula, *site, line, Run());
    if (!terms || terms->size() != checked->terms.size()) return {};
    const ValuesThere there{*site, *checked, *terms, line.address(0), formula.scope, inputs.units()};
    std::vector<std::string> lines;
    for (std::size_t at = 0; at < checked->terms.size(); ++at)
        lines.push_back(line_story(there, formula.text, at));
    return lines;
}

std::vector<std::string> expression_story(const StepKind& kind, const Step& step, const Inputs& inputs,
                                          const Scope& scope) {
    std::vector<std::string> lines;
    for (const SlotSpec* slot : active_slots(kind, step)) {
        if (!slot->numeric() || !inputs.has(slot->key)) continue;
        const std::string text = without_equals(slot_text(*slot, step));
        if (names_used(text).empty()) continue;
        const auto value = evaluate(text, scope);
        if (!value) continue;
        const auto value_of = [&](std::string_view name) {
            const auto known = scope.find ? scope.find(name) : std::nullopt;
            return known ? told_number(*known, inputs.units()) : std::string();
        };
        const std::string put_in = with_values(text, value_of), result = told_number(*value, inputs.units());
        lines.push_back(in_small_letters(slot->label) + " = " + put_in +
                        (text == names_used(text).front() ? "" : " = " + result));
    }
    return lines;
}

}  // namespace plume

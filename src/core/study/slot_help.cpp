#include "core/study/slot_help.hpp"

#include "core/base/listed.hpp"
#include "core/study/edits/edits.hpp"
#include "core/study/sentence.hpp"
#include "core/study/slots/slot_rules.hpp"
#include "core/study/study_scope.hpp"

namespace plume {
namespace {

std::string kinds_text(const SlotSpec& slot, const char* none) {
    if (slot.accepts.size() > 8) return none;
    std::vector<std::string> names;
    for (const Kind kind : slot.accepts)
        names.push_back(with_article(kind));
    return listed(names, "or");
}

std::string takes(const SlotSpec& slot) {
    switch (slot.type) {
        case SlotType::count:
            return "a whole number";
        case SlotType::number:
            return "a number";
        case SlotType::length:
            return "a length";
        case SlotType::angle:
            return "an angle";
        case SlotType::force:
            return "a force";
        case SlotType::quantity:
            return "a number of any unit";
        case SlotType::seed:
            return "a whole number that names a throw";
        case SlotType::choice:
            return "a word";
        case SlotType::response:
            return "a word, or a curve that is drawn";
        case SlotType::reference:
            return kinds_text(slot, "any result");
        case SlotType::results:
            return "results: " + kinds_text(slot, "of any kind");
        case SlotType::file:
            return slot.files.name.empty() ? "a file" : "a file: " + slot.files.name;
        case SlotType::formula:
            return slot.rules ? "rules, in lines" : "a formula";
        case SlotType::text:
            return slot.script ? "a script" : "lines of text";
        case SlotType::addresses:
            return "addresses, typed or picked in the model";
        case SlotType::camera:
            return "a way to look, or a camera of the study";
        default:
            return std::string(rules_of(slot.type).needs);
    }
}

// Squares of what lies beyond would overflow: a bound nobody meets.
constexpr double beyond_use = 1e8;

std::string bound_text(double bound, const SlotSpec& slot, const Units& units) {
    return quantity_text({bound, slot.dimension()}, units);
}

std::string limits(const SlotSpec& slot, const Units& units) {
    std::string text;
    if (slot.least > -beyond_use)
        text = (slot.above_least ? "above " : "at least ") + bound_text(slot.least, slot, units);
    if (slot.most < beyond_use)
        text += (text.empty() ? "" : ", ") + ("at most " + bound_text(slot.most, slot, units));
    return text;
}

std::string preset(const SlotSpec& slot) {
    if (slot.type == SlotType::reference || slot.type == SlotType::results || slot.type == SlotType::file)
        return {};
    return rules_of(slot.type).text(slot, slot.preset_value());
}

// What is meant by the word that stands there.
std::string word_help(const Study& study, const Step& step, const SlotSpec& slot) {
    const SlotValue value = slot_value(slot, step);
    const auto* chosen = std::get_if<WordKey>(&value);
    if (!chosen) return {};
    for (const Word& word : words_in(slot, study))
        if (word.key == chosen->key && !word.help.empty()) return word.label + ": " + word.help + ".";
    return {};
}

// Nothing of a number that says by itself what it is, nor of one that has other results in it.
std::string value_text(const Study& study, const Step& step, const SlotSpec& slot, double seconds) {
    const SlotValue value = slot_value(slot, step);
    const auto* number = std::get_if<NumberText>(&value);
    if (!number || read_literal(number->text)) return {};
    const Result<Quantity> comes_to = evaluate(number->text, scope_of(study, seconds));
    return comes_to ? number->text + " = " + quantity_text(*comes_to, study.units) : std::string();
}

std::string read_text(const Study& study, const Catalogue& catalogue, const Step& step,
                      const SlotSpec& slot) {
    const SlotValue value = slot_value(slot, step);
    const auto* read = std::get_if<ResultName>(&value);
    const auto at = study.position(step.id);
    if (!read || !at) return {};
    for (const ResultAbove& result : results_above(study, catalogue, *at))
        if (result.name == read->name && !result.kinds.empty())
            return read->name + ": " + std::string(plain_name(result.kinds.front()));
    return {};
}

}  // namespace

SlotTip slot_tip(const Study& study, const Catalogue& catalogue, const Step& step, const SlotSpec& slot,
                 double seconds) {
    const SlotHelp general = slot_help(slot, study.units);
    SlotTip tip;
    tip.title = slot.label;
    tip.takes = general.takes + (general.limits.empty() ? "" : ", " + general.limits);
    const std::string word = word_help(study, step, slot);
    tip.help = slot.help + (slot.help.empty() || word.empty() ? "" : " ") + word;
    tip.now = value_text(study, step, slot, seconds);
    if (tip.now.empty()) tip.now = read_text(study, catalogue, step, slot);
    const std::vector<std::string> readers = readers_of(study, step.name);
    if (!readers.empty()) tip.follow = "Read by " + listed(readers, "and") + ".";
    return tip;
}

SlotHelp slot_help(const SlotSpec& slot, const Units& units) {
    return {takes(slot), slot.numeric() ? limits(slot, units) : "", preset(slot)};
}

}  // namespace plume

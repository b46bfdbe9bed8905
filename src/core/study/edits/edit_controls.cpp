// Edits of controls and of the study as a whole.

#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/formula/expression.hpp"
#include "core/study/edits/edits.hpp"
#include "core/study/edits/expression_texts.hpp"
#include "core/study/sentence.hpp"
#include "core/study/study_scope.hpp"

namespace plume {
namespace {

Status check_control(const Study& study, const Control& control, const Control* replaced) {
    // A control that a file gave another name may keep it.
    if (!replaced || replaced->name != control.name)
        if (Status status = check_result_name(control.name); !status) return status;
    const Control* other = study.control(control.name);
    const std::string place = "‘" + control.name + "’";
    if ((other && other != replaced) || study.step(control.name))
        return Error{ErrorCode::name_clash, place, "is already the name of a control or a result",
                     "Choose another name."};
    const auto is_finite = [](const ControlKey& key) { return std::isfinite(key.value); };
    for (const double number : {control.value, control.least, control.most, control.step})
        if (!std::isfinite(number) || !std::ranges::all_of(control.keys, is_finite))
            return Error{ErrorCode::not_finite, place, "needs finite numbers for value, range and step",
                         "Type finite numbers."};
    if (!(control.least < control.most))
        return Error{ErrorCode::out_of_range, place,
                     "has a range that does not run upwards, from " + short_text(control.least) + " to " +
                         short_text(control.most),
                     "Make the upper end larger than the lower."};
    if (control.step < 0)
        return Error{ErrorCode::out_of_range, place, "has a step below zero",
                     "Type a positive step, or 0 for none."};
    if (!control.unit.empty() && !unit_quantity(control.unit, LengthUnit::metre))
        return Error{ErrorCode::unit_mismatch, place,
                     "has the unit ‘" + control.unit + "’, which is not known",
                     "Use m, cm, mm, ft, in, °, rad, kN, kN/m or none."};
    return Done{};
}

std::size_t index_of(const Study& study, const Control* control) {
    return static_cast<std::size_t>(
        std::ranges::find(study.controls, control, [](const auto& pointer) { return pointer.get(); }) -
        study.controls.begin());
}

Error no_such_control(const std::string& name) {
    return {ErrorCode::unknown_name, "‘" + name + "’", "is not a control of this study",
            "Choose one of its controls."};
}

}  // namespace

Edited add_control(const Study& study, Control control) {
    if (Status status = check_control(study, control, nullptr); !status) return status.error();
    auto result = std::make_shared<Study>(study);
    result->controls.push_back(std::make_shared<const Control>(std::move(control)));
    return StudyPointer(std::move(result));
}

Edited set_control(const Study& study, const std::string& name, Control control) {
    const Control* old = study.control(name);
    if (!old) return no_such_control(name);
    if (Status status = check_control(study, control, old); !status) return status.error();
    auto result = std::make_shared<Study>(study);
    const std::string now = control.name;
    result->controls[index_of(study, old)] = std::make_shared<const Control>(std::move(control));
    if (now != name) rename_in_texts(*result, name, now);
    return StudyPointer(std::move(result));
}

Edited set_control_value(const Study& study, const std::string& name, double value, double seconds) {
    const Control* old = study.control(name);
    if (!old) return no_such_control(name);
    Control changed = *old;
    if (changed.keys.empty())
        changed.value = value;
    else
        put_key(changed.keys, {seconds, value});
    return set_control(study, name, std::move(changed));
}

std::vector<std::string> users_of_control(const Study& study, std::string_view name) {
    std::vector<std::string> users;
    for (const Item& item : study.items)
        if (const Step* step = step_of(item)) {
            const auto names = names_in_expressions(*step);
            if (std::ranges::find(names, name) != names.end()) users.push_back(step->name);
        }
    return users;
}

Edited remove_control(const Study& study, const std::string& name, bool even_if_read) {
    const Control* old = study.control(name);
    if (!old) return no_such_control(name);
    if (const auto users = users_of_control(study, name); !users.empty() && !even_if_read)
        return Error{ErrorCode::still_read, "‘" + name + "’",
                     "is used by ‘" + users.front() + "’" +
                         (users.size() > 1 ? " and " + std::to_string(users.size() - 1) + " more" : ""),
                     "Expressions that use it would fail."};
    auto result = std::make_shared<Study>(study);
    result->controls.erase(result->controls.begin() + static_cast<std::ptrdiff_t>(index_of(study, old)));
    return StudyPointer(std::move(result));
}

Control proposed_control(std::string name, double value, std::string unit, bool whole) {
    Control control;
    control.name = std::move(name);
    control.value = value;
    control.unit = std::move(unit);
    const double size = std::abs(value);
    // The next power of ten, or half or a fifth of it, at or above twice the value.
    const double wanted = size > 0 ? 2 * size : 1;
    double top = std::pow(10.0, std::ceil(std::log10(wanted)));
    for (const double share : {0.2, 0.5})
        if (wanted <= top * share) {
            top *= share;
            break;
        }
    control.most = whole ? std::max(2.0, std::ceil(top)) : top;
    control.least = value < 0 ? -control.most : (whole ? 1 : 0);
    if (value < control.least) control.least = value;
    control.step = whole ? 1 : std::pow(10.0, std::floor(std::log10(top / 100)));
    return control;
}

Edited promote(const Study& study, const StepKind& kind, ItemId id, const std::string& slot,
               const std::string& name) {
    const Step* step = study.step(id);
    const SlotSpec* spec = kind.slot(slot);
    if (!step || !spec || !spec->numeric())
        return Error{ErrorCode::unknown_slot, "", "Only numbers can become controls", "Choose a number."};
    const std::string text = std::get<NumberText>(slot_value(*spec, *step)).text;
    auto literal = read_literal(text);
    if (!literal)
        return Error{ErrorCode::bad_number, spec->label, "is an expression, ‘" + text + "’",
                     "Only a plain number can become a control."};
    if (literal->unit.empty()) literal->unit = unit_text(spec->dimension(), study.units);
    Edited with_control = add_control(
        study, proposed_control(name, literal->number, literal->unit, spec->type == SlotType::count));
    if (!with_control) return with_control;
    return set_slot(**with_control, id, slot, NumberText{name});
}

StudyPointer set_title(const Study& study, std::string title, std::string note) {
    auto result = std::make_shared<Study>(study);
    result->title = std::move(title);
    result->note = std::move(note);
    return result;
}

}  // namespace plume

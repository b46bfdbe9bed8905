#include "core/evaluation/above.hpp"

#include <algorithm>

#include "core/study/slots/slot_form.hpp"
#include "core/study/study_scope.hpp"

namespace plume {
namespace {

std::string accepted_text(const std::vector<Kind>& kinds) {
    // Where nearly everything is taken a list says less.
    constexpr std::size_t most_listed = 5;
    if (kinds.size() > most_listed) return "another result";
    std::string text;
    for (const Kind kind : kinds)
        text += (text.empty() ? "" : " or ") + with_article(kind);
    return text;
}

std::string quoted(const std::string& name) {
    return "‘" + name + "’";
}

Error stands_below(const std::string& name) {
    return {ErrorCode::reads_below, quoted(name), "does not stand above this step",
            "A step reads only what stands above it: move one of the two."};
}

Error has_no_result(const std::string& name) {
    return {ErrorCode::input_failed, quoted(name), "has no result to read", "Mend that step first."};
}

// Why a step above has no value to read.
Error no_value(const Study& study, const std::string& name, const Outcome& outcome) {
    if (outcome.state == StepState::cancelled) return cancelled_error();
    if (const Step* cause = study.step(outcome.cause); cause && cause->name != name)
        return {ErrorCode::input_failed, quoted(cause->name),
                "has an error, and " + quoted(name) + " waits for it", "Mend that step first."};
    if (outcome.state == StepState::muted)
        return {ErrorCode::input_muted, quoted(name), "is muted, so there is nothing to read",
                "Unmute it, or read something else."};
    return has_no_result(name);
}

}  // namespace

Above::Above(const Study& study, double seconds, std::shared_ptr<FileStore> files)
    : study_(study),
      seconds_(seconds),
      scope_(scope_of(study, seconds)),
      files_(std::move(files)),
      any_gives_number_(std::ranges::any_of(study.items, [](const Item& item) {
          const Step* step = step_of(item);
          return step && gives_number(*step);
      })) {}

void Above::add(const std::string& name, const Outcome& outcome) {
    if (!outcomes_.emplace(name, &outcome).second || !outcome.value) return;
    held_bytes_ += static_cast<double>(bytes_of(*outcome.value, held_));
    if (const auto number = number_of(*outcome.value)) scope_ = scope_with(scope_, name, *number);
}

const Outcome* Above::find(std::string_view name) const {
    const auto found = outcomes_.find(name);
    return found == outcomes_.end() ? nullptr : found->second;
}

Result<Resolved> Above::resolve(const SlotSpec& slot, const Step& step) const {
    const Result<SlotValue> value = read_slot(slot, step);
    if (!value) return value.error();
    if (auto missing = missing_number(*value)) return about_slot(*std::move(missing), slot);
    const Standpoint standpoint{
        scope_,
        files_,
        step.text_units,
        [this](const SlotSpec& reading, const std::string& name) { return read(reading, name); },
        [this](const SlotSpec& reading, const ResultList& list) { return read_all(reading, list); },
        study_.cameras,
        seconds_};
    return rules_of(slot.type).resolve(slot, *value, standpoint);
}

// Why a number of the study that an expression reads is not there; nothing when all are.
std::optional<Error> Above::missing_number(const SlotValue& value) const {
    if (!any_gives_number_) return {};
    Step reader;
    reader.slots["expression"] = value;
    for (const std::string& name : names_in_expressions(reader)) {
        const Step* read = study_.step(name);
        if (!read || !gives_number(*read) || scope_.find(name)) continue;
        return find(name) ? has_no_result(name) : stands_below(name);
    }
    return {};
}

Result<ReadResult> Above::read(const SlotSpec& slot, const std::string& name) const {
    const std::string mend = "Choose " + accepted_text(slot.accepts) + " from a step above.";
    if (name.empty()) return Error{ErrorCode::missing_input, "", "is not chosen yet", mend};
    const Outcome* outcome = find(name);
    if (!outcome && study_.step(name)) return stands_below(name);
    if (!outcome) return Error{ErrorCode::missing_input, quoted(name), "is not the result of any step", mend};
    if (!outcome->value) return no_value(study_, name, *outcome);
    const Kind kind = kind_of(*outcome->value);
    if (std::ranges::find(slot.accepts, kind) == slot.accepts.end())
        return Error{ErrorCode::wrong_kind, quoted(name), "holds " + with_article(kind), mend};
    return ReadResult{outcome->value, outcome->key};
}

// Of those that are not named one by one, what cannot be given is left out.
Result<std::vector<GivenResult>> Above::read_all(const SlotSpec& slot, const ResultList& list) const {
    std::vector<GivenResult> given;
    for (const std::string& name : results_of(study_, list)) {
        const Result<ReadResult> one = read(slot, name);
        if (!one && list.of != ResultList::Of::listed && one.error().code == ErrorCode::wrong_kind) continue;
        if (!one) return one.error();
        given.push_back({name, one->value, one->key, study_.step(name)->show, {}});
    }
    if (!given.empty()) return given;
    if (list.of == ResultList::Of::heading)
        return Error{ErrorCode::empty_input, "“" + list.heading + "”",
                     "has nothing below it that can be given",
                     "Show a result there, or choose results one by one."};
    if (list.of == ResultList::Of::seen)
        return Error{ErrorCode::empty_input, "", "is all that is seen, and nothing is that can be given",
                     "Show a result, or choose results one by one."};
    return Error{ErrorCode::missing_input, "", "is not chosen yet", "Choose results of the study."};
}

}  // namespace plume

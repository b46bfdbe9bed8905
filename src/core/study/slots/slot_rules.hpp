#pragma once
// What a type of slot is: how its value is kept, read from other forms, checked, and told. One file of this
// folder declares the rules of one type, or of a few that differ in a number; a new type is such a file, a
// word in SlotType and a row in rules_of().

#include <functional>
#include <span>

#include "core/formula/expression.hpp"
#include "core/study/inputs.hpp"
#include "core/study/slots/slot_spec.hpp"

namespace plume {

// What a slot can see from where its step stands.
struct Standpoint {
    const Scope& scope;  // controls, and numbers of the steps above
    std::shared_ptr<FileStore> files;
    std::optional<Units> text_units;  // of the step
    // A result above, of one of the kinds the slot accepts.
    std::function<Result<ReadResult>(const SlotSpec&, const std::string& name)> result;
    // Those that a list means, each of one of these kinds; at least one. Their words are not looked at.
    std::function<Result<std::vector<GivenResult>>(const SlotSpec&, const ResultList&)> results = {};
    std::span<const KeptCamera> cameras = {};
    double seconds = 0;  // the moment, where keys are read
};

struct SlotRules {
    std::string_view key;    // as the catalogue tells it
    std::string_view needs;  // "a number or an expression", of values of another form
    bool numeric = false;    // a number as typed
    bool whole = false;      // a whole one
    Dimension dimension = plain_number;
    SlotValue (*preset)(const SlotSpec&) = nullptr;
    // Whether a value is kept as this type keeps it.
    bool (*holds)(const SlotValue&) = nullptr;
    // What a value of another form can only mean; nothing where it cannot be meant. Files are written by
    // hand, too.
    std::optional<SlotValue> (*meant)(const SlotValue&) = nullptr;
    // Of a value that is kept so. Errors are about the slot (Error::slot).
    Result<Resolved> (*resolve)(const SlotSpec&, const SlotValue&, const Standpoint&) = nullptr;
    void (*add_to_hash)(Hasher&, const Resolved&) = nullptr;
    // As the sentence shows it.
    std::string (*text)(const SlotSpec&, const SlotValue&) = nullptr;
};

const SlotRules& rules_of(SlotType type);

// Shared by the files of types ---------------------------------------------------------------------------

template <class Form>
bool holds_form(const SlotValue& value) {
    return std::holds_alternative<Form>(value);
}
// A plain text, where this is what the type keeps.
template <class Form>
std::optional<SlotValue> meant_as_text(const SlotValue& value) {
    if (const auto* word = std::get_if<WordKey>(&value)) return Form{word->key};
    return {};
}
inline std::optional<SlotValue> never_meant(const SlotValue& /*value*/) {
    return {};
}
std::string typed_number(const SlotSpec& slot, const SlotValue& value);
// A declaration with a text as its preset; its numbers are bounded where squares would overflow.
SlotSpec slot_with_preset(SlotType type, std::string key, std::string label, std::string preset);
// The error, about this slot where it says nothing of its own.
Error about_slot(Error error, const SlotSpec& slot);

// A slot's number for a study, checked against the slot's range; study lengths, radians.
Result<double> resolve_number(const SlotSpec& slot, std::string_view text, const Scope& scope);

void add_number_to_hash(Hasher& hasher, const Resolved& value);
void add_text_to_hash(Hasher& hasher, const Resolved& value);
void add_to_hash(Hasher& hasher, const Quantity& quantity);
void add_to_hash(Hasher& hasher, const Units& units);
// As they are kept, with their keys; of a control what expressions read of it.
void add_to_hash(Hasher& hasher, const SlotValue& value);
void add_to_hash(Hasher& hasher, const Control& control);
void add_to_hash(Hasher& hasher, const Camera& camera);
void add_to_hash(Hasher& hasher, const KeptCamera& camera);  // and its keys

extern const SlotRules count_rules, number_rules, length_rules, angle_rules, force_rules, quantity_rules,
    choice_rules, reference_rules, places_rules, name_rules, formula_rules, seed_rules, text_rules,
    addresses_rules, file_rules, picks_rules, response_rules, results_rules, target_rules, camera_rules,
    group_rules;

}  // namespace plume

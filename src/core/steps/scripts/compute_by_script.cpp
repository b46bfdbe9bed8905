#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/formula/expression.hpp"
#include "core/geometry/moves/affine.hpp"
#include "core/geometry/moves/transformed.hpp"
#include "core/script/script.hpp"
#include "core/study/step_kind.hpp"

namespace plume {
namespace {

constexpr const char* preset_script =
    "-- Raise points in rings\n"
    "-- sentence: Raise {ground} in rings {apart} apart, {high} high.\n"
    "-- ground: points\n"
    "-- apart: length = 4 m, from 10 cm to 500 m\n"
    "-- high: length = 50 cm\n"
    "-- result: points\n"
    "local d = hypot(ground.x, ground.y)\n"
    "return ground:with{z = ground.z + high * sin(d / apart * 2 * math.pi)}";

std::string script_of(const Step& step) {
    const auto found = step.slots.find("script");
    const auto* lines = found == step.slots.end() ? nullptr : std::get_if<Lines>(&found->second);
    return lines ? lines->text : preset_script;
}

// All that its kind hangs on: the comment it begins with.
std::string head_of(const std::string& script) {
    return script.substr(0, script_head_size(script));
}

// Scaling --------------------------------------------------------------------------------------------------

// Lengths in a script count what plain numbers count in the text; `by` turns them into study lengths.
template <class Form>
Result<Form> scaled(const Form& form, double by) {
    if (by == 1) return form;
    auto made = transformed(Value(form), scaled_about({}, {by, by, by}));
    if (!made) return made.error();
    return std::get<Form>(*std::move(made));
}

template <class As, class Form>
Result<As> scaled_as(const Form& form, double by) {
    auto made = scaled(form, by);
    if (!made) return made.error();
    return As(*std::move(made));
}

// Inputs ---------------------------------------------------------------------------------------------------

Dimension dimension_of(ScriptType type) {
    return type == ScriptType::length ? a_length : type == ScriptType::angle ? an_angle : plain_number;
}

Status check_range(const ScriptInput& input, double value, const Inputs& in) {
    const Scope scope{in.units(), {}, {}, in.text_units()};
    for (const auto& [text, low] : {std::pair{input.least, true}, std::pair{input.most, false}}) {
        if (!text) continue;
        const auto bound = evaluate(*text, scope);
        const Dimension wanted = dimension_of(input.type);
        if (!bound || bound->dimension != wanted)
            return about_slot(
                Error{ErrorCode::syntax, "", "has a range of ‘" + input.name + "’ that cannot be read",
                      "Write it with its unit: from 0 m to 5 m."},
                "script");
        if (low ? value < bound->value : value > bound->value)
            return about_slot(
                Error{ErrorCode::out_of_range, "",
                      std::string(low ? "is below " : "is above ") + *text + ", which its script allows",
                      "Choose a number from " + input.least.value_or("as little as you like") + " to " +
                          input.most.value_or("as much as you like") + "."},
                input.name);
    }
    return Done{};
}

Result<ScriptValue> value_of(const ScriptInput& input, const Inputs& in, double factor) {
    switch (input.type) {
        case ScriptType::word:
            return ScriptValue(in.word(input.name));
        case ScriptType::points:
            return scaled_as<ScriptValue>(in.lattice(input.name), 1 / factor);
        case ScriptType::curves:
            return scaled_as<ScriptValue>(in.held<CurveSet>(input.name), 1 / factor);
        case ScriptType::mesh:
            return scaled_as<ScriptValue>(in.held<Mesh>(input.name), 1 / factor);
        default:
            break;
    }
    const double number = in.number(input.name);
    if (Status within = check_range(input, number, in); !within) return within.error();
    return ScriptValue(input.type == ScriptType::length ? number / factor : number);
}

// Its last lines, as remarks.
void tell_printed(const ScriptOutcome& outcome, const Run& run) {
    constexpr std::size_t most_told = 12;
    const std::size_t count = outcome.printed.size();
    const std::size_t first = count > most_told ? count - most_told : 0;
    if (const std::size_t before = outcome.printed_before + first; before > 0)
        run.remark("It printed " + count_text(before, "line", "lines") + " before these.");
    for (std::size_t line = first; line < count; ++line)
        run.remark("It printed: " + outcome.printed[line]);
}

Result<Value> make(const ScriptHead& head, const Inputs& in, const Run& run) {
    const double factor = internal_per_plain(a_length, in.text_units(), in.units());
    std::vector<std::pair<std::string, ScriptValue>> inputs;
    for (const ScriptInput& input : head.inputs) {
        auto value = value_of(input, in, factor);
        if (!value) return value.error();
        inputs.emplace_back(input.name, *std::move(value));
    }
    const ScriptLimits limits{in.count("memory") * 1'000'000, in.number("seconds")};
    auto made = run_script(in.word("script"), inputs, head.result, limits, run);
    if (!made)
        return made.error().code == ErrorCode::cancelled ? made.error() : about_slot(made.error(), "script");
    tell_printed(*made, run);
    if (const auto* curves = std::get_if<CurveSet>(&made->value)) {
        if (curves->curves.empty())
            return about_slot(Error{ErrorCode::empty_input, "", "returns no curve", "Return at least one."},
                              "script");
        return scaled_as<Value>(*curves, factor);
    }
    if (const auto* mesh = std::get_if<Mesh>(&made->value)) return scaled_as<Value>(*mesh, factor);
    return scaled_as<Value>(std::get<PointLattice>(made->value), factor);
}

// What is read, and some columns beside it; more is bounded by what it may have.
Estimate estimate(const ScriptHead& head, const Inputs& in) {
    double numbers = 0;
    for (const ScriptInput& input : head.inputs) {
        if (input.type == ScriptType::points)
            numbers += static_cast<double>(in.lattice(input.name).address_count()) * 3;
        if (input.type == ScriptType::mesh)
            numbers += static_cast<double>(in.held<Mesh>(input.name).corner_count()) * 3;
    }
    return {numbers * sizeof(double), numbers * 2e-8};
}

// Its kind -------------------------------------------------------------------------------------------------

SlotSpec slot_of(const ScriptInput& input) {
    const std::string label = input.name;
    switch (input.type) {
        case ScriptType::number:
            return number_slot(input.name, label, input.preset);
        case ScriptType::count:
            return count_slot(input.name, label, input.preset, 0);
        case ScriptType::length:
            return length_slot(input.name, label, input.preset);
        case ScriptType::angle:
            return angle_slot(input.name, label, input.preset);
        case ScriptType::word: {
            std::vector<Word> words;
            for (const std::string& word : input.words)
                words.push_back({word, word, ""});
            return choice_slot(input.name, label, std::move(words));
        }
        case ScriptType::points:
            return reference_slot(input.name, label, {Kind::points, Kind::field});
        case ScriptType::curves:
            return reference_slot(input.name, label, {Kind::curves});
        case ScriptType::mesh:
            break;
    }
    return reference_slot(input.name, label, {Kind::mesh});
}

Kind kind_of(ScriptType result) {
    return result == ScriptType::curves ? Kind::curves
           : result == ScriptType::mesh ? Kind::mesh
                                        : Kind::points;
}

std::string sentence_of(const ScriptHead& head) {
    std::string sentence = head.sentence;
    if (sentence.ends_with('.')) sentence.pop_back();
    return sentence + ": by {script}, for at most {seconds} s and {memory} MB.";
}

StepKind kind_with(const std::string& text) {
    const Result<ScriptHead> head = read_script_head(text);
    SlotSpec seconds = count_slot("seconds", "Seconds", "60", 1);
    seconds.most = 86'400;
    SlotSpec memory = count_slot("memory", "Memory", "1000", 10);
    memory.most = 64'000;
    StepKind kind{
        .key = "script.lua",
        .verb = "Compute by a script",
        .synonyms = "script lua code program function custom own loop recursion",
        .sentence = "Compute by {script}, for at most {seconds} s and {memory} MB.",
        .slots = {text_slot("script", "Script", preset_script), seconds, memory},
        .results = {Kind::points},
        .result_name = "computed",
        .help =
            "A script in Lua, for what no step can say. Its first lines are a comment that says what it is "
            "called, its sentence, what it asks for and what it gives; these become slots like any other. "
            "Columns are handled at once: z + high * sin(d). Nothing outside can be reached, and what takes "
            "too long is stopped.",
        .make = {},
    };
    if (!head) {
        kind.make = [error = head.error()](const Inputs&, const Run&) -> Result<Value> {
            return about_slot(error, "script");
        };
        return kind;
    }
    const auto kept = std::make_shared<const ScriptHead>(*head);
    kind.sentence = sentence_of(*kept);
    std::vector<SlotSpec> slots;
    for (const ScriptInput& input : kept->inputs)
        slots.push_back(slot_of(input));
    slots.insert(slots.end(), kind.slots.begin(), kind.slots.end());
    kind.slots = std::move(slots);
    kind.results = {kind_of(kept->result)};
    kind.estimate = [kept](const Inputs& in) { return estimate(*kept, in); };
    kind.make = [kept](const Inputs& in, const Run& run) { return make(*kept, in, run); };
    return kind;
}

}  // namespace

StepKind compute_by_script() {
    StepKind kind = kind_with(head_of(preset_script));
    kind.derivation = std::make_shared<const Derivation>(
        Derivation{[](const Step& step) { return head_of(script_of(step)); }, kind_with});
    return kind;
}

}  // namespace plume

#include "core/steps/scripts/script_support.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/formula/expression.hpp"
#include "core/geometry/moves/affine.hpp"
#include "core/geometry/moves/transformed.hpp"
#include "core/script/script.hpp"

namespace plume {
namespace {

std::string script_of(const Step& step, const std::string& preset) {
    const auto found = step.slots.find("script");
    const auto* lines = found == step.slots.end() ? nullptr : std::get_if<Lines>(&found->second);
    return lines ? lines->text : preset;
}

// All that its kind hangs on: the comment it begins with.
std::string head_of(const std::string& script) {
    return script.substr(0, script_head_size(script));
}

// Scaling --------------------------------------------------------------------------------------------------

// Lengths in a script count what plain numbers count in the text; `by` turns them into study lengths. Numbers
// on points that are lengths go along.
PointLattice scaled_points(const PointLattice& points, double by) {
    const auto times = [](const Column& column, double factor) {
        Doubles values(column.size());
        for (std::size_t at = 0; at < values.size(); ++at)
            values[at] = column[at] * factor;
        return Column(std::move(values));
    };
    PointLattice made = points.moved(times(points.x(), by), times(points.y(), by), times(points.z(), by));
    for (const Field& field : points.fields())
        if (field.dimension.length != 0)
            made = made.with_field(
                {field.name, times(field.values, std::pow(by, field.dimension.length)), field.dimension});
    return made;
}

struct Scaling {
    double by;

    Result<Value> operator()(const PointLattice& points) const { return Value(scaled_points(points, by)); }
    Result<Value> operator()(const FieldOnPoints& numbers) const {
        return Value(FieldOnPoints{scaled_points(numbers.points, by), numbers.name});
    }
    Result<Value> operator()(const DirectionsOnPoints& directions) const {
        return Value(DirectionsOnPoints{scaled_points(directions.points, by), directions.name});
    }
    Result<Value> operator()(const BarFrame& frame) const {
        return as_value(frame.with_nodes(scaled_points(frame.nodes(), by)));
    }
    template <class Form>
    Result<Value> operator()(const Form& form) const {
        return transformed(Value(form), scaled_about({}, {by, by, by}));
    }
};

template <class Form>
Result<Form> scaled(const Form& form, double by) {
    if (by == 1) return form;
    auto made = Scaling{by}(form);
    if (!made) return made.error();
    return std::get<Form>(*std::move(made));
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

template <class Form>
Result<ScriptValue> read(const Form& form, double factor) {
    auto made = scaled(form, 1 / factor);
    if (!made) return made.error();
    return ScriptValue(*std::move(made));
}

Result<ScriptValue> value_of(const ScriptInput& input, const Inputs& in, double factor) {
    switch (input.type) {
        case ScriptType::word:
            return ScriptValue(in.word(input.name));
        case ScriptType::points:
            return read<PointLattice>(in.lattice(input.name), factor);
        case ScriptType::numbers:
            return read<FieldOnPoints>(in.field(input.name), factor);
        case ScriptType::directions:
            return read<DirectionsOnPoints>(in.held<DirectionsOnPoints>(input.name), factor);
        case ScriptType::placements:
            return read<Placements>(in.held<Placements>(input.name), factor);
        case ScriptType::curves:
            return read<CurveSet>(in.held<CurveSet>(input.name), factor);
        case ScriptType::surface:
            return read<SurfaceSet>(in.held<SurfaceSet>(input.name), factor);
        case ScriptType::mesh:
            return read<Mesh>(in.held<Mesh>(input.name), factor);
        case ScriptType::frame:
            return read<BarFrame>(in.held<BarFrame>(input.name), factor);
        default:
            break;
    }
    const double number = in.number(input.name);
    if (Status within = check_range(input, number, in); !within) return within.error();
    if (input.type == ScriptType::count) return ScriptValue(static_cast<std::int64_t>(number));
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

// Results ---------------------------------------------------------------------------------------------------

template <class Form>
Result<Value> given(const Form& form, ScriptType type, double factor) {
    if constexpr (std::is_arithmetic_v<Form>) {
        const auto number = static_cast<double>(form);
        return Value(Quantity{type == ScriptType::length ? number * factor : number, dimension_of(type)});
    } else if constexpr (std::is_same_v<Form, std::string>) {
        return about_slot(Error{ErrorCode::wrong_kind, "", "returns a text", "Return what its head says."},
                          "script");
    } else {
        if constexpr (std::is_same_v<Form, CurveSet>)
            if (form.curves.empty())
                return about_slot(
                    Error{ErrorCode::empty_input, "", "returns no curve", "Return at least one."}, "script");
        auto made = scaled(form, factor);
        if (!made) return made.error();
        return Value(*std::move(made));
    }
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
    auto made = run_script(in.word("script"), inputs, {head.result, in.result_name()}, limits, run);
    if (!made)
        return made.error().code == ErrorCode::cancelled ? made.error() : about_slot(made.error(), "script");
    tell_printed(*made, run);
    return std::visit([&](const auto& form) { return given(form, head.result, factor); }, made->value);
}

// What is read, and some columns beside it; more is bounded by what it may have.
Estimate estimate(const ScriptHead& head, const Inputs& in) {
    double numbers = 0;
    for (const ScriptInput& input : head.inputs) {
        if (input.type < ScriptType::points) continue;
        const Value& value = in.value(input.name);
        if (const PointLattice* lattice = lattice_of(value))
            numbers += static_cast<double>(lattice->address_count()) * 3;
        if (const auto* mesh = std::get_if<Mesh>(&value))
            numbers += static_cast<double>(mesh->corner_count()) * 3;
    }
    return {numbers * sizeof(double), numbers * 2e-8};
}

// Its kind -------------------------------------------------------------------------------------------------

Kind kind_of(ScriptType result) {
    switch (result) {
        case ScriptType::numbers:
            return Kind::field;
        case ScriptType::directions:
            return Kind::directions;
        case ScriptType::placements:
            return Kind::placements;
        case ScriptType::curves:
            return Kind::curves;
        case ScriptType::surface:
            return Kind::surface;
        case ScriptType::mesh:
            return Kind::mesh;
        case ScriptType::frame:
            return Kind::frame;
        case ScriptType::points:
            return Kind::points;
        default:
            return Kind::number;
    }
}

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
        default:
            return reference_slot(input.name, label, {kind_of(input.type)});
    }
}

std::string sentence_of(const ScriptHead& head) {
    std::string sentence = head.sentence;
    if (sentence.ends_with('.')) sentence.pop_back();
    return sentence + ": by {script}, for at most {seconds} s and {memory} MB.";
}

StepKind without_head(const ScriptKind& base) {
    SlotSpec seconds = count_slot("seconds", "Seconds", "60", 1);
    seconds.most = 86'400;
    SlotSpec memory = count_slot("memory", "Memory", "1000", 10);
    memory.most = 64'000;
    return {
        .key = base.key,
        .verb = base.verb,
        .synonyms = base.synonyms,
        .sentence = "Compute by {script}, for at most {seconds} s and {memory} MB.",
        .slots = {script_slot("script", "Script", base.preset), seconds, memory},
        .results = {base.gives_number ? Kind::number : Kind::points},
        .result_name = base.result_name,
        .help = base.help,
        .make = {},
    };
}

Error gives_another(const ScriptKind& base, ScriptType result) {
    return about_slot(
        Error{ErrorCode::wrong_kind, "",
              "gives " + std::string(key_of(result)) + ", which ‘" + base.verb + "’ cannot",
              "Take the step ‘" + base.other_verb + "’ for it, or change the line result: of its head."},
        "script");
}

StepKind kind_with(const ScriptKind& base, const std::string& text) {
    const Result<ScriptHead> head = read_script_head(text);
    StepKind kind = without_head(base);
    if (!head) {
        kind.make = [error = head.error()](const Inputs&, const Run&) -> Result<Value> {
            return about_slot(error, "script");
        };
        return kind;
    }
    const auto kept = std::make_shared<const ScriptHead>(*head);
    kind.verb = kept->title;
    if (!kept->help.empty()) kind.help = kept->help;
    kind.sentence = sentence_of(*kept);
    std::vector<SlotSpec> slots;
    for (const ScriptInput& input : kept->inputs)
        slots.push_back(slot_of(input));
    slots.insert(slots.end(), kind.slots.begin(), kind.slots.end());
    kind.slots = std::move(slots);
    if (is_number(kept->result) != base.gives_number) {
        kind.make = [error = gives_another(base, kept->result)](const Inputs&, const Run&) -> Result<Value> {
            return error;
        };
        return kind;
    }
    kind.results = {kind_of(kept->result)};
    kind.bears_name = kept->result == ScriptType::numbers || kept->result == ScriptType::directions;
    kind.estimate = [kept](const Inputs& in) { return estimate(*kept, in); };
    kind.make = [kept](const Inputs& in, const Run& run) { return make(*kept, in, run); };
    return kind;
}

}  // namespace

StepKind script_step(const ScriptKind& base) {
    StepKind kind = kind_with(base, head_of(base.preset));
    kind.verb = base.verb;
    kind.help = base.help;
    kind.derivation = std::make_shared<const Derivation>(
        Derivation{[base](const Step& step) { return head_of(script_of(step, base.preset)); },
                   [base](const Step& step, const Catalogue& /*catalogue*/) {
                       return kind_with(base, head_of(script_of(step, base.preset)));
                   }});
    return kind;
}

}  // namespace plume

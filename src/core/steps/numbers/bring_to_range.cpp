#include "core/geometry/numbers/range.hpp"
#include "core/steps/numbers/response_words.hpp"
#include "core/study/told_number.hpp"

namespace plume {
namespace {

Estimate estimate(const Inputs& in) {
    const auto points = static_cast<double>(in.field("field").points.address_count());
    return {points * sizeof(double), points * 2e-9};
}

Result<Range> source_range(const Inputs& in, const FieldOnPoints& item, const Run& run) {
    if (in.word("source") == "fixed") return Range{in.number("from_low"), in.number("from_high")};
    return own_range(item.points, item.field().values, run);
}

// A range given with a length is a length; plain numbers stay plain.
Dimension result_dimension(const Inputs& in) {
    return in.word("measure") == "lengths" ? a_length : plain_number;
}

Range target_of(const Inputs& in) {
    const bool lengths = in.word("measure") == "lengths";
    return {in.number(lengths ? "low_length" : "low_number"),
            in.number(lengths ? "high_length" : "high_number")};
}

// Straight responses go on past the ends if they may; shaped ones have nothing beyond.
Result<Column> brought(const Inputs& in, const FieldOnPoints& item, const Shaping& shaping, const Run& run) {
    const Result<Range> from = source_range(in, item, run);
    if (!from) return from.error();
    if (shaping.response == Response::straight)
        return brought_to_range(item.field().values, *from, target_of(in), in.word("beyond") == "clamp", run);
    const Result<Column> shares = brought_to_range(item.field().values, *from, {0, 1}, true, run);
    if (!shares) return shares.error();
    return answered(*shares, shaping, target_of(in), run);
}

Result<Value> make(const Inputs& in, const Run& run) {
    const FieldOnPoints& item = in.field("field");
    const Result<Shaping> shaping = shaping_in(in);
    if (!shaping) return shaping.error();
    Result<Column> values = brought(in, item, *shaping, run);
    if (!values) return values.error();
    Field field{in.result_name(), *std::move(values), result_dimension(in)};
    return Value(FieldOnPoints{item.points.with_field(std::move(field)), in.result_name()});
}

Result<ResponseNumbers> through_response(const Inputs& in, const Run& run) {
    const FieldOnPoints& item = in.field("field");
    const Result<Shaping> shaping = shaping_in(in);
    if (!shaping) return shaping.error();
    const Result<Range> from = source_range(in, item, run);
    if (!from) return from.error();
    const Result<Column> shares = brought_to_range(item.field().values, *from, {0, 1}, true, run);
    if (!shares) return shares.error();
    ResponseNumbers result = flow_of(present_numbers(item.points, *shares), *shaping);
    const Range to = target_of(in);
    result.in_low = from->low;
    result.in_high = from->high;
    result.in_dimension = item.field().dimension;
    result.out_low = to.low;
    result.out_high = to.high;
    result.out_dimension = result_dimension(in);
    return result;
}

// "0.43 of 0 … 1 is a share of 0.43, answered by 0.43".
PartStory story(const Inputs& in, const Value& made, PartRef part) {
    const FieldOnPoints& item = in.field("field");
    const Result<Shaping> shaping = shaping_in(in);
    const Result<Range> from = source_range(in, item, Run());
    if (!shaping || !from || from->low == from->high) return {};
    const auto told = [&](double value) { return told_number({value, item.field().dimension}, in.units()); };
    const double number = item.field().values[part.number];
    const double share = (number - from->low) / (from->high - from->low);
    const bool extends = shaping->response == Response::straight && in.word("beyond") == "extend";
    const double within = extends ? share : std::clamp(share, 0.0, 1.0);
    const double answer = shaping->response == Response::straight ? within : answer_to(*shaping, within);
    const Range to = target_of(in);
    const auto end = [&](double value) { return told_number({value, result_dimension(in)}, in.units()); };
    return {{told(number) + " of " + told(from->low) + " … " + told(from->high) + " is a share of " +
             told_number(share) + (within == share ? "" : ", clamped to " + told_number(within)) +
             ", answered by " + told_number(answer) + ": of " + end(to.low) + " … " + end(to.high) +
             " that is " + end(std::get<FieldOnPoints>(made).field().values[part.number])}};
}

}  // namespace

StepKind bring_to_range() {
    return {
        .key = "field.range",
        .verb = "Bring numbers to a range",
        .synonyms = "scale normalise domain map interval limits",
        .sentence =
            "Bring {field} from {source}[source=fixed| {from_low} … {from_high}] to {measure} "
            "[measure=lengths|{low_length} … {high_length}][measure=numbers|{low_number} … {high_number}], "
            "answering {response}" +
            waves_text() + "[response=straight|, and {beyond} what lies beyond].",
        .slots = with_wave_slots(
            {reference_slot("field", "Numbers", {Kind::field}),
             choice_slot("source", "Source range",
                         {{"own", "its own range", "from its smallest to its largest number"},
                          {"fixed", "a fixed range", "from two numbers you give"}}),
             number_slot("from_low", "Lower end of the source", "0"),
             number_slot("from_high", "Upper end of the source", "1"),
             choice_slot("measure", "Measure",
                         {{"lengths", "the lengths", "the result is a length"},
                          {"numbers", "the numbers", "the result is a plain number"}}),
             share_response_slot(), length_slot("low_length", "Lower end", "0 m"),
             length_slot("high_length", "Upper end", "3.2 m"), number_slot("low_number", "Lower end", "0"),
             number_slot("high_number", "Upper end", "1"),
             choice_slot("beyond", "Beyond the range",
                         {{"clamp", "clamp", "keep results between the ends"},
                          {"extend", "extend", "let results go on past the ends"}})}),
        .results = {Kind::field},
        .result_name = "ranged",
        .help =
            "Stretches numbers evenly so that one range becomes another. A lower end above the upper one "
            "turns them round. A response bends the way from one end to the other.",
        .bears_name = true,
        .estimate = estimate,
        .make = make,
        .contexts = {{"response", context(through_response)}},
        .story = story,
    };
}

}  // namespace plume

#include "core/base/parallel.hpp"
#include "core/formula/program.hpp"
#include "core/steps/numbers/quantity_range.hpp"
#include "core/study/step_kind.hpp"

namespace plume {
namespace {

Estimate estimate(const Inputs& in) {
    return {in.number("count") * 4 * sizeof(double), in.number("count") * 4e-9};
}

Result<Value> make(const Inputs& in, const Run& run) {
    const bool by_step = in.word("rule") == "step";
    const auto range =
        range_between(in.quantity("from"), in.quantity(by_step ? "step" : "to"), "First number", in.units());
    if (!range) return about_slot(range.error(), "from");
    const double from = range->from, step = range->to;
    const std::size_t count = in.count("count");
    const double last = by_step ? from + step * static_cast<double>(count - 1) : range->to;
    const Direction row{count, from, last, false};
    Doubles numbers(count), zeros(count), along(count);
    // Lengths and plain numbers are places on the X axis; what else there is stands one unit apart.
    const bool places = range->dimension == a_length || range->dimension == plain_number;
    const double length =
        range->dimension == plain_number ? internal_per_plain(a_length, in.text_units(), in.units()) : 1;
    const bool finished = parallel_blocks(count, usual_block, run, [&](std::size_t begin, std::size_t end) {
        for (std::size_t index = begin; index < end; ++index) {
            numbers[index] = by_step ? from + step * static_cast<double>(index) : row.value(index);
            zeros[index] = 0;
            along[index] = places ? numbers[index] * length : static_cast<double>(index);
        }
    });
    if (!finished) return cancelled_error();
    PointLattice::Parts parts;
    parts.arrangement = Arrangement::row;
    parts.counts = {count, 1, 1};
    parts.x = std::move(along);
    parts.y = std::move(zeros);
    parts.z = parts.y;
    parts.fields.push_back({in.result_name(), std::move(numbers), range->dimension});
    Result<PointLattice> lattice = PointLattice::make(std::move(parts));
    if (!lattice) return lattice.error();
    return Value(FieldOnPoints{*std::move(lattice), in.result_name()});
}

}  // namespace

StepKind list_numbers() {
    return {
        .key = "numbers.list",
        .verb = "List numbers",
        .synonyms = "sequence range start increment count row",
        .sentence = "List {count} numbers from {from} {rule} [rule=to|{to}][rule=step|{step}].",
        .slots = {count_slot("count", "How many", "11", 1), quantity_slot("from", "First number", "0"),
                  choice_slot("rule", "Rule",
                              {{"to", "to", "the last number is given"},
                               {"step", "by steps of", "the step is given"}}),
                  quantity_slot("to", "Last number", "10"), quantity_slot("step", "Step", "1")},
        .results = {Kind::field},
        .result_name = "numbers",
        .help =
            "A row of evenly spaced numbers. They stand on points along X, so that they can be tested, "
            "computed with, "
            "moved and joined like any others.",
        .bears_name = true,
        .counts_plain_numbers = true,
        .estimate = estimate,
        .make = make,
    };
}

}  // namespace plume

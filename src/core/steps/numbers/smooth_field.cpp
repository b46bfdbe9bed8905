#include "core/data/address_text.hpp"
#include "core/geometry/numbers/field_arithmetic.hpp"
#include "core/geometry/points/lattice_links.hpp"
#include "core/study/step_kind.hpp"
#include "core/study/told_number.hpp"

namespace plume {
namespace {

Estimate estimate(const Inputs& in) {
    const auto points = static_cast<double>(in.field("field").points.address_count());
    return {points * 9 * sizeof(double), points * (1e-7 + in.number("times") * 6e-9)};
}

Result<Value> make(const Inputs& in, const Run& run) {
    const FieldOnPoints& item = in.field("field");
    Result<Column> values =
        smoothed(item.points, item.field().values, in.count("times"), in.number("strength"), run);
    if (!values) return about_slot(values.error(), "field");
    Field field{in.result_name(), *std::move(values), item.field().dimension};
    return Value(FieldOnPoints{item.points.with_field(std::move(field)), in.result_name()});
}

// "its neighbours: 3,3 1.2 m; 5,3 1.4 m".
PartStory story(const Inputs& in, const Value& /*made*/, PartRef part) {
    const FieldOnPoints& item = in.field("field");
    std::string neighbours;
    for_each_link(item.points, [&](std::size_t from, std::size_t to) {
        if (from != part.number && to != part.number) return;
        const std::size_t other = from == part.number ? to : from;
        const Quantity number{item.field().values[other], item.field().dimension};
        neighbours += (neighbours.empty() ? "" : "; ") + address_text(item.points, other) + ' ' +
                      told_number(number, in.units());
    });
    return {{neighbours.empty() ? "it has no neighbours" : "its neighbours: " + neighbours}};
}

}  // namespace

StepKind smooth_field() {
    SlotSpec strength = number_slot("strength", "Strength", "0.5");
    strength.least = 0;
    strength.most = 1;
    SlotSpec times = count_slot("times", "Times", "4", 0);
    times.most = 100'000;
    return {
        .key = "field.smooth",
        .verb = "Smooth numbers",
        .synonyms = "blur relax average neighbours laplacian soften field",
        .sentence = "Smooth {field} over its neighbours {times} times with strength {strength}.",
        .slots = {reference_slot("field", "Numbers", {Kind::field}), times, strength},
        .results = {Kind::field},
        .result_name = "smoothed",
        .help =
            "Moves each number towards the mean of its neighbours', again and again. Neighbours are those of "
            "the "
            "arrangement: six in a triangular lattice, across the seam where it closes.",
        .bears_name = true,
        .estimate = estimate,
        .make = make,
        .story = story,
    };
}

}  // namespace plume

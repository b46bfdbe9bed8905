#include "core/geometry/parts/address_list.hpp"
#include "core/geometry/parts/subset.hpp"
#include "core/study/step_kind.hpp"

namespace plume {
namespace {

// The numbers as addresses of a row as long as the direction.
Result<std::vector<std::size_t>> numbers_of(const Inputs& in, std::size_t count, const Run& run) {
    const Result<NamedAddresses> named = named_numbers(in.word("numbers"), count);
    if (!named) return about_slot(named.error(), "numbers");
    if (named->missing > 0) run.remark_loss("‘" + named->first_missing + "’ is beyond the last one.");
    std::vector<std::size_t> numbers;
    for (std::size_t number = 0; number < count; ++number)
        if (named->mask[number] != 0) numbers.push_back(number);
    if (numbers.empty())
        return about_slot(
            Error{ErrorCode::empty_input, "", "name none of the " + std::to_string(count), "Count from 0."},
            "numbers");
    return numbers;
}

Result<Value> make(const Inputs& in, const Run& run) {
    const PointLattice& points = in.lattice("points");
    const std::size_t d = in.word("lines") == "rows" ? 1 : (in.word("lines") == "columns" ? 0 : 2);
    const auto numbers = numbers_of(in, points.counts()[d], run);
    if (!numbers) return numbers.error();
    Shape shape = shape_of(points);
    shape.counts[d] = numbers->size();
    shape.closed[d] = shape.closed[d] && numbers->size() == points.counts()[d];
    if (numbers->size() < points.counts()[d] &&
        (shape.arrangement == Arrangement::triangular || shape.arrangement == Arrangement::hexagonal))
        shape.arrangement = Arrangement::grid;  // its rows no longer stand as they did
    std::vector<std::size_t> from;
    for (std::size_t k = 0; k < shape.counts[2]; ++k)
        for (std::size_t j = 0; j < shape.counts[1]; ++j)
            for (std::size_t i = 0; i < shape.counts[0]; ++i) {
                std::array<std::size_t, 3> at{i, j, k};
                at[d] = (*numbers)[at[d]];
                from.push_back(points.index({at[0], at[1], at[2]}));
            }
    // One line alone is a row, whichever way it ran.
    if (shape.counts[2] == 1 && (shape.counts[0] == 1 || shape.counts[1] == 1)) {
        const bool closed = shape.counts[0] == 1 ? shape.closed[1] : shape.closed[0];
        shape = {Arrangement::row, {from.size(), 1, 1}, {closed, false, false}};
    }
    PointLattice taken = rearranged(points, shape, from);
    if (taken.point_count() == 0)
        return about_slot(Error{ErrorCode::empty_input, "", "name lines of gaps only", "Take others."},
                          "numbers");
    return Value(std::move(taken));
}

}  // namespace

StepKind take_lines() {
    return {
        .key = "points.lines",
        .verb = "Take rows or columns",
        .synonyms = "row column layer extract slice",
        .sentence = "Take the {lines} {numbers} of {points}.",
        .slots = {choice_slot("lines", "Lines",
                              {{"rows", "rows", "points along i"},
                               {"columns", "columns", "points along j"},
                               {"layers", "layers", "of a block, along k"}}),
                  text_slot("numbers", "Numbers", "0"),
                  reference_slot("points", "Points", {Kind::points, Kind::field})},
        .results = {Kind::points},
        .result_name = "line",
        .help =
            "Rows, columns or layers by number from 0: 0 3 5..8, -1 is the last. One alone is a row of "
            "points.",
        .estimate =
            [](const Inputs& in) {
                const auto bytes = static_cast<double>(bytes_of(in.value("points")));
                return Estimate{bytes / 2 + 8 * static_cast<double>(in.lattice("points").address_count()),
                                bytes * 1e-9};
            },
        .make = make,
    };
}

}  // namespace plume

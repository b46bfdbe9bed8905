#include "core/geometry/curves/curve_division.hpp"
#include "core/geometry/moves/copies.hpp"
#include "core/geometry/parts/subset.hpp"
#include "core/study/step_kind.hpp"

namespace plume {
namespace {

Result<Value> rows_stacked(const Inputs& in) {
    const PointLattice &first = in.lattice("first"), &second = in.lattice("second");
    for (const auto& [points, slot] : {std::pair{&first, "first"}, {&second, "second"}}) {
        const bool rows = points->arrangement() == Arrangement::row ||
                          points->arrangement() == Arrangement::grid ||
                          points->arrangement() == Arrangement::polar;
        if (!rows || points->counts()[2] > 1)
            return about_slot(Error{ErrorCode::wrong_kind, "", "are " + arrangement_text(*points),
                                    "Choose a row, or rows of a grid."},
                              slot);
    }
    if (first.counts()[0] != second.counts()[0])
        return about_slot(Error{ErrorCode::unlike_arrangement, "",
                                "have " + std::to_string(second.counts()[0]) +
                                    " points each, and the first have " + std::to_string(first.counts()[0]),
                                "Divide both into as many bays."},
                          "second");
    if (first.closed(0) != second.closed(0))
        return about_slot(
            Error{ErrorCode::unlike_arrangement, "",
                  second.closed(0) ? "are closed, and the first are not" : "are open, and the first are not",
                  "Close both, or neither."},
            "second");
    PointLattice::Parts parts = stacked_parts({first, second});
    parts.arrangement = Arrangement::grid;
    parts.counts = {first.counts()[0], first.counts()[1] + second.counts()[1], 1};
    parts.closed = {first.closed(0), false, false};
    return as_value(PointLattice::make(std::move(parts)));
}

Result<Value> curves_stacked(const Inputs& in, const Run& run) {
    const std::vector<SplineCurve>& curves = in.held<CurveSet>("curves").curves;
    if (curves.empty())
        return about_slot(Error{ErrorCode::empty_input, "", "are none", "Choose others."}, "curves");
    const std::size_t bays = in.count("bays");
    const bool closed = curves.front().closed();
    const std::size_t columns = bays + (closed ? 0 : 1);
    std::vector<Vec3> places;
    for (std::size_t row = 0; row < curves.size(); ++row) {
        if (run.cancelled()) return cancelled_error();
        run.report(static_cast<double>(row) / static_cast<double>(curves.size()));
        if (curves[row].closed() != closed)
            return about_slot(Error{ErrorCode::unlike_arrangement, "",
                                    "number 0 is " + std::string(closed ? "closed" : "open") +
                                        ", and number " + std::to_string(row) + " is not",
                                    "Take curves that are all closed, or all open."},
                              "curves");
        const CurveLength measure(curves[row]);
        for (std::size_t at = 0; at < columns; ++at) {
            const double share = static_cast<double>(at) / static_cast<double>(bays);
            places.push_back(evaluate(curves[row], measure.parameter_at(share * measure.total())).position);
        }
    }
    return Value(points_at({Arrangement::grid, {columns, curves.size(), 1}, {closed, false, false}}, places));
}

Result<Value> make(const Inputs& in, const Run& run) {
    return in.word("what") == "rows" ? rows_stacked(in) : curves_stacked(in, run);
}

Estimate estimate(const Inputs& in) {
    if (in.word("what") == "rows") {
        const auto bytes = static_cast<double>(bytes_of(in.value("first")) + bytes_of(in.value("second")));
        return {bytes * 1.2, bytes * 1e-9};
    }
    const double points =
        static_cast<double>(in.held<CurveSet>("curves").curves.size()) * (in.number("bays") + 1);
    return {points * (sizeof(Vec3) + 3 * sizeof(double)), points * 1e-6};
}

}  // namespace

StepKind stack_rows() {
    return {
        .key = "points.stack",
        .verb = "Stack rows into a grid",
        .synonyms = "two rows curves between ruled loft span join lattice",
        .sentence =
            "Stack {what}[what=rows| {first} and {second}][what=curves| {curves}, {bays} bays along each,] "
            "into a grid.",
        .slots = {choice_slot("what", "What",
                              {{"rows", "the rows", "of two results, one behind the other"},
                               {"curves", "the curves", "each a row of points at even lengths"}}),
                  reference_slot("first", "First rows", {Kind::points, Kind::field}),
                  reference_slot("second", "Second rows", {Kind::points, Kind::field}),
                  reference_slot("curves", "Curves", {Kind::curves}),
                  count_slot("bays", "Bays along i", "24", 1)},
        .results = {Kind::points},
        .result_name = "grid",
        .help =
            "A grid whose rows, along i, are two rows of as many points, rows of grids, or points on curves. "
            "It can be skinned, pushed and joined like any other. Fields that both have are kept. Closed "
            "rows "
            "stay closed.",
        .estimate = estimate,
        .make = make,
    };
}

}  // namespace plume

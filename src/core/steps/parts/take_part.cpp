#include "core/geometry/parts/address_list.hpp"
#include "core/geometry/parts/subset.hpp"
#include "core/geometry/points/sub_lattice.hpp"
#include "core/study/step_kind.hpp"

namespace plume {
namespace {

Estimate estimate(const Inputs& in) {
    const PointLattice& points = in.lattice("points");
    double count = static_cast<double>(points.address_count());
    const std::string& part = in.word("part");
    if (part == "refined") count *= in.number("times") * (points.counts()[1] > 1 ? in.number("times") : 1);
    if (part == "checkerboard") {
        const auto sides = static_cast<double>(points.counts()[0] + points.counts()[1]);
        count = sides * sides / 4;
    }
    return {count * static_cast<double>(3 + points.fields().size()) * 3 * sizeof(double), count * 1e-7};
}

Result<Value> masked(const PointLattice& points, bool border) {
    std::vector<std::uint8_t> mask = border_mask(points);
    if (!border) turn_over(mask);
    PointLattice part = with_gaps(points, mask);
    if (part.point_count() == 0)
        return Error{ErrorCode::empty_input, "",
                     "Every point stands at the border, so that there is no interior",
                     "Give the lattice at least two bays each way."};
    return Value(std::move(part));
}

Result<Value> make(const Inputs& in, const Run& run) {
    const PointLattice& points = in.lattice("points");
    const std::string& part = in.word("part");
    if (part == "border" || part == "interior") return masked(points, part == "border");
    Result<PointLattice> taken =
        part == "checkerboard"
            ? checkerboard(points, in.word("half") == "odd" ? BoardHalf::odd : BoardHalf::even)
        : part == "nth"     ? every_nth(points, in.count("along_i"), in.count("along_j"))
        : part == "centres" ? cell_centres(points)
                            : refined(points, in.count("times"));
    if (!taken) return taken.error();
    const bool opened = (points.closed(0) && !taken->closed(0)) || (points.closed(1) && !taken->closed(1));
    if (opened) run.remark("A closed direction was opened: its count does not go into the new arrangement.");
    return Value(*std::move(taken));
}

}  // namespace

StepKind take_part() {
    SlotSpec times = count_slot("times", "Times", "2", 1);
    times.most = 1000;
    return {
        .key = "lattice.part",
        .verb = "Take a part of a lattice",
        .synonyms =
            "checkerboard diagonal diagrid every second nth row column border edge interior centres refine "
            "subdivide sub-lattice",
        .sentence =
            "Take {part}[part=checkerboard| of {half} points][part=nth| {along_i} along i and {along_j} "
            "along j][part=refined| {times} times] of {points}.",
        .slots = {choice_slot("part", "Part",
                              {{"checkerboard", "a checkerboard",
                                "every second point; its neighbours are the diagonal ones"},
                               {"nth", "one point in", "every n-th row and column"},
                               {"border", "the border", "points with a neighbour missing"},
                               {"interior", "the interior", "points with all neighbours"},
                               {"centres", "the cell centres", "the middle of each cell"},
                               {"refined", "a refinement", "more points between neighbours"}}),
                  choice_slot("half", "Half",
                              {{"even", "even", "i + j is even"}, {"odd", "odd", "i + j is odd"}}),
                  count_slot("along_i", "Along i", "2", 1), count_slot("along_j", "Along j", "2", 1), times,
                  reference_slot("points", "Points", {Kind::points, Kind::field})},
        .results = {Kind::points},
        .result_name = "part",
        .help =
            "A lattice out of another, in an arrangement of its own, so that what is joined or skinned later "
            "finds the right neighbours. The checkerboard's i and j run along the diagonals.",
        .estimate = estimate,
        .make = make,
    };
}

}  // namespace plume

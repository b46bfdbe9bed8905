#include <cmath>

#include "core/geometry/parts/coincident_points.hpp"
#include "core/steps/parts/kept_points.hpp"

namespace plume {
namespace {

Result<Value> make(const Inputs& in, const Run& run) {
    const PointLattice& points = in.lattice("points");
    const auto [places, address] = finite_points(points);
    const std::vector<std::size_t> first = first_within(places, in.number("tolerance"));
    std::vector<std::uint8_t> mask(points.address_count(), 1);
    std::size_t removed = 0;
    for (std::size_t at = 0; at < first.size(); ++at)
        if (first[at] != at) {
            mask[address[at]] = 0;
            ++removed;
        }
    run.remark(removed == 0
                   ? "No two points coincide."
                   : std::to_string(removed) + (removed == 1 ? " point was" : " points were") + " removed.");
    return kept(in, mask, "There is no point", "Choose other points.");
}

}  // namespace

StepKind merge_coincident() {
    SlotSpec tolerance = length_slot("tolerance", "Tolerance", "1 mm");
    tolerance.least = 0;
    return {
        .key = "points.unique",
        .verb = "Remove coincident points",
        .synonyms = "duplicates same place tolerance unique merge weld",
        .sentence =
            "Remove the points of {points} that lie within {tolerance} of an earlier one, and {gaps}.",
        .slots = {reference_slot("points", "Points", {Kind::points, Kind::field}), tolerance, gaps_slot()},
        .results = {Kind::points},
        .result_name = "unique",
        .help = "Of points at one place the first stays. A tolerance of 0 removes exact copies only.",
        .estimate =
            [](const Inputs& in) {
                const auto points = static_cast<double>(in.lattice("points").address_count());
                return Estimate{points * 100, points * 1e-6};
            },
        .make = make,
    };
}

}  // namespace plume

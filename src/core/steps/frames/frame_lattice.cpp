#include "core/geometry/frames/frame_assembly.hpp"
#include "core/geometry/frames/lattice_members.hpp"
#include "core/study/step_kind.hpp"

namespace plume {
namespace {

Diagonals diagonals_from(const std::string& word) {
    if (word == "one") return Diagonals::one;
    if (word == "other") return Diagonals::other;
    if (word == "both") return Diagonals::both;
    return word == "alternating" ? Diagonals::alternating : Diagonals::none;
}

LatticePattern pattern_of(const Inputs& in) {
    const std::string& ways = in.word("ways");
    const bool along_i = ways == "all" || ways == "i", along_j = ways == "all" || ways == "j";
    return {.along_i = along_i,
            .along_j = along_j,
            .along_k = ways == "all" || ways == "k",
            .every_row = along_i ? in.count("every_row") : 1,
            .every_column = along_j ? in.count("every_column") : 1,
            .diagonals = diagonals_from(in.word("diagonals"))};
}

// Neighbours have up to three members from a point, faces of cells two each.
Estimate estimate(const Inputs& in) {
    const auto points = static_cast<double>(in.lattice("points").address_count());
    const double members = points * (in.lattice("points").counts()[2] > 1 ? 9 : 4);
    return {members * 3 * sizeof(Member), members * 1e-7};
}

Result<Value> make(const Inputs& in, const Run& run) {
    const PointLattice& points = in.lattice("points");
    auto made = members_of(points, pattern_of(in));
    if (!made) return about_slot(made.error(), "points");
    if (made->seam_repeats)
        run.remark("An odd number of cells round: on both sides of the seam their diagonals run alike.");
    auto frame = assembled_frame({points, std::move(made->members)}, run);
    if (!frame) return about_slot(frame.error(), "points");
    return Value(*std::move(frame));
}

}  // namespace

StepKind frame_lattice() {
    return {
        .key = "frame.lattice",
        .verb = "Frame points along their rows",
        .synonyms = "bars members struts beams edges grid triangulated bracing space rings structure",
        .sentence =
            "Frame {points} with members {ways}[ways=all,i|, rows {every_row} apart]"
            "[ways=all,j|, columns {every_column} apart], and {diagonals}.",
        .slots = {reference_slot("points", "Points", {Kind::points, Kind::field}),
                  choice_slot("ways", "Ways",
                              {{"all", "between all neighbours", "along its rows every way it has"},
                               {"i", "along i", "rows, rings"},
                               {"j", "along j", "from row to row"},
                               {"k", "along k", "from layer to layer of a block"},
                               {"none", "across cells alone", "only diagonals"}}),
                  count_slot("every_row", "Rows apart", "1", 1),
                  count_slot("every_column", "Columns apart", "1", 1),
                  choice_slot("diagonals", "Diagonals",
                              {{"none", "no diagonals", "of its cells"},
                               {"one", "a diagonal a cell", "from its first corner: all are triangles"},
                               {"other", "the other diagonal a cell", "from its second corner"},
                               {"both", "both diagonals", "crossing, without a node between"},
                               {"alternating", "diagonals by turns", "one way, then the other"}})},
        .results = {Kind::frame},
        .result_name = "frame",
        .help =
            "Nodes and members over the points of a lattice, whose addresses name them. Members run between "
            "neighbours: along i and j of a grid, three ways in a triangular lattice, round the hexagons of "
            "a "
            "honeycomb, along k too in a block. A closed direction joins its last point to its first, once. "
            "Points at one place, as round a pole, become one node. Gaps have no members.",
        .estimate = estimate,
        .make = make,
    };
}

}  // namespace plume

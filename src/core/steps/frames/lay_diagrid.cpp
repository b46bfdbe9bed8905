#include "core/geometry/frames/diagrid.hpp"
#include "core/geometry/frames/frame_assembly.hpp"
#include "core/study/step_kind.hpp"

namespace plume {
namespace {

DiagridRings rings_from(const std::string& word) {
    if (word == "rims") return DiagridRings::rims;
    if (word == "modules") return DiagridRings::modules;
    return word == "levels" ? DiagridRings::levels : DiagridRings::none;
}

// Of every level two members a module, and one of a ring.
Estimate estimate(const Inputs& in) {
    const double members = in.number("around") * (2 * in.number("up") + 2) * 3;
    const double points = static_cast<double>(in.lattice("points").address_count());
    const double most = std::min(members, points * 3);
    return {most * 3 * sizeof(Member) + points * 10, most * 1e-7 + points * 1e-8};
}

Result<Value> make(const Inputs& in, const Run& run) {
    const PointLattice& points = in.lattice("points");
    auto members = diagrid_members(
        points, {in.count("around"), in.number("up"), in.number("start"), rings_from(in.word("rings"))}, run);
    if (!members) return members.error();
    auto frame = assembled_frame({points, *std::move(members)}, run);
    if (!frame) return about_slot(frame.error(), "points");
    return Value(*std::move(frame));
}

}  // namespace

StepKind lay_diagrid() {
    SlotSpec up = number_slot("up", "Modules along j", "4");
    up.least = 0;
    up.above_least = true;
    return {
        .key = "frame.diagrid",
        .verb = "Lay a diagrid",
        .synonyms = "diamonds lozenges bars members structure tower skin triangulated modules frame",
        .sentence =
            "Lay a diagrid of {around} modules along i and {up} along j over {points}[more|, from {start} of "
            "a module on], {rings}.",
        .slots = {reference_slot("points", "Points", {Kind::points, Kind::field}),
                  count_slot("around", "Modules along i", "6", 1), up, number_slot("start", "Start", "0"),
                  choice_slot("rings", "Rings",
                              {{"rims", "with rings along its rims", "and members along open sides"},
                               {"none", "without rings", "diagonals alone"},
                               {"modules", "with a ring a module", "where diamonds have their points"},
                               {"levels", "with a ring a level", "at every row of corners"}})},
        .results = {Kind::frame},
        .result_name = "diagrid",
        .help =
            "Diamonds over a grid of points: two members rise from every corner, half a module to either "
            "side. A module takes an even number of bays along i and of bays along j, or their half where it "
            "ends in a half module (4.5 along j); numbers that do not come out even are refused with the "
            "nearest that do. Modules that the last row cuts end there. To lay one over a surface, place "
            "points on it before, twice as many bays as modules each way.",
        .estimate = estimate,
        .make = make,
    };
}

}  // namespace plume

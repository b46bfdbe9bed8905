#include "core/geometry/moves/copies.hpp"
#include "core/steps/moves/axis_slots.hpp"

namespace plume {
namespace {

Estimate estimate(const Inputs& in) {
    return {copies_bytes(in.value("thing"),
                         static_cast<double>(in.held<Placements>("to").origins().point_count())),
            0};
}

Result<Value> make(const Inputs& in, const Run& run) {
    const Placement from = in.word("from") == "placed"
                               ? in.held<Placements>("source").present_placements().front()
                               : Placement{};
    std::vector<Affine> maps;
    for (const Placement& to : in.held<Placements>("to").present_placements())
        maps.push_back(between_placements(from, to));
    const PointLattice& origins = in.held<Placements>("to").origins();
    return copied(in.value("thing"), maps,
                  origins.closed(0) && origins.counts()[1] == 1 && !origins.has_gaps(), run);
}

}  // namespace

StepKind copy_to_placements() {
    return {
        .key = "thing.place",
        .verb = "Copy to placements",
        .synonyms = "instance place placement plane distribute",
        .sentence = "Copy {thing} from {from}[from=placed| {source}] to {to}.",
        .slots = {thing_slot(),
                  choice_slot("from", "From",
                              {{"origin", "the origin", "the XY plane of the study"},
                               {"placed", "the placement", "the first placement of it"}}),
                  reference_slot("source", "Source", {Kind::placements}),
                  reference_slot("to", "Placements", {Kind::placements})},
        .results = movable_kinds(),
        .result_name = "placed",
        .help =
            "A copy of anything on each placement, standing there as it stands in the placement it is taken "
            "from.",
        .estimate = estimate,
        .make = make,
    };
}

}  // namespace plume

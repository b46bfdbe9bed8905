#include "core/geometry/curves/curve_placements.hpp"
#include "core/geometry/parts/subset.hpp"
#include "core/steps/moves/axis_slots.hpp"

namespace plume {
namespace {

Result<Value> make(const Inputs& in, const Run& run) {
    const Result<SplineCurve> single = single_curve(in, "curve");
    if (!single) return single.error();
    const SplineCurve& curve = *single;
    Result<std::vector<Placement>> placements = placements_along(
        curve, in.count("bays") + (curve.closed() ? 0 : 1),
        in.word("turning") == "upright" ? PlacementTurning::upright : PlacementTurning::least, run);
    if (!placements) return placements.error();
    std::vector<Vec3> origins;
    for (const Placement& placement : *placements)
        origins.push_back(placement.origin);
    const PointLattice row =
        points_at({Arrangement::row, {placements->size(), 1, 1}, {curve.closed(), false, false}}, origins);
    Result<Placements> made = Placements::make(row, *std::move(placements));
    if (!made) return made.error();
    return Value(*std::move(made));
}

}  // namespace

StepKind set_placements_on_curve() {
    return {
        .key = "placement.on_curve",
        .verb = "Set placements along a curve",
        .synonyms = "coordinate systems frames planes tangents perpendicular stations",
        .sentence = "Set placements along {curve} in {bays} bays, {turning}.",
        .slots = {reference_slot("curve", "Curve", {Kind::curves}), count_slot("bays", "Bays", "12", 1),
                  choice_slot("turning", "Turning",
                              {{"least", "turning least", "no more twist than the curve has"},
                               {"upright", "kept upright", "the first axis stays level"}})},
        .results = {Kind::placements},
        .result_name = "stations",
        .help =
            "Axes at even lengths of a curve, their up along it. n bays of an open curve have n + 1 "
            "placements, of a closed one n.",
        .estimate =
            [](const Inputs& in) {
                // Carried placements stand closer where there are few.
                const double fine = std::max(in.number("bays"), std::min(8192.0, in.number("bays") * 16));
                return Estimate{fine * 6 * sizeof(Vec3) + in.number("bays") * 3 * sizeof(Placement),
                                fine * 4e-6};
            },
        .make = make,
    };
}

}  // namespace plume

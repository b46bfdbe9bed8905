#include "core/geometry/curve_frames.hpp"
#include "core/geometry/subset.hpp"
#include "core/steps/axis_slots.hpp"

namespace plume {
namespace {

Result<Value> make(const Inputs& in, const Run& run) {
    const Result<SplineCurve> single = single_curve(in, "curve");
    if (!single) return single.error();
    const SplineCurve& curve = *single;
    Result<std::vector<Frame>> frames =
        frames_along(curve, in.count("bays") + (curve.closed() ? 0 : 1),
                     in.word("turning") == "upright" ? FrameTurning::upright : FrameTurning::least, run);
    if (!frames) return frames.error();
    std::vector<Vec3> origins;
    for (const Frame& frame : *frames)
        origins.push_back(frame.origin);
    const PointLattice row =
        points_at({Arrangement::row, {frames->size(), 1, 1}, {curve.closed(), false, false}}, origins);
    Result<Placements> placements = Placements::make(row, *std::move(frames));
    if (!placements) return placements.error();
    return Value(*std::move(placements));
}

}  // namespace

StepKind place_on_curve() {
    return {
        .key = "placement.on_curve",
        .verb = "Place frames along a curve",
        .synonyms = "coordinate systems planes tangents perpendicular stations",
        .sentence = "Place frames along {curve} in {bays} bays, {turning}.",
        .slots = {reference_slot("curve", "Curve", {Kind::curves}), count_slot("bays", "Bays", "12", 1),
                  choice_slot("turning", "Turning",
                              {{"least", "turning least", "no more twist than the curve has"},
                               {"upright", "kept upright", "the first axis stays level"}})},
        .results = {Kind::placements},
        .result_name = "stations",
        .help =
            "Coordinate frames at even lengths of a curve, their up axis along it. n bays of an open curve "
            "have "
            "n + 1 frames, of a closed one n.",
        .estimate =
            [](const Inputs& in) {
                // Carried frames stand closer where there are few.
                const double fine = std::max(in.number("bays"), std::min(8192.0, in.number("bays") * 16));
                return Estimate{fine * 6 * sizeof(Vec3) + in.number("bays") * 3 * sizeof(Frame), fine * 4e-6};
            },
        .make = make,
    };
}

}  // namespace plume

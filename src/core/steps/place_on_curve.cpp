#include "core/geometry/curve_frames.hpp"
#include "core/study/step_kind.hpp"

namespace plume {
namespace {

Result<Value> make(const Inputs& in, const Run& /*run*/) {
    const CurveSet& set = in.curves("curve");
    if (set.curves.size() != 1)
        return Error{ErrorCode::wrong_kind, "Curve", "holds " + std::to_string(set.curves.size()) + " curves",
                     "Choose a single curve."};
    const SplineCurve& curve = set.curves.front();
    std::vector<Frame> frames =
        frames_along(curve, in.count("bays") + (curve.closed() ? 0 : 1),
                     in.word("turning") == "upright" ? FrameTurning::upright : FrameTurning::least);
    Doubles x, y, z;
    for (const Frame& frame : frames) {
        x.push_back(frame.origin.x);
        y.push_back(frame.origin.y);
        z.push_back(frame.origin.z);
    }
    PointLattice::Parts parts;
    parts.arrangement = Arrangement::row;
    parts.counts = {frames.size(), 1, 1};
    parts.closed = {curve.closed(), false, false};
    parts.x = std::move(x);
    parts.y = std::move(y);
    parts.z = std::move(z);
    Result<PointLattice> points = PointLattice::make(std::move(parts));
    if (!points) return points.error();
    Result<Placements> placements = Placements::make(*points, std::move(frames));
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
                return Estimate{in.number("bays") * 200, in.number("bays") * 1e-5};
            },
        .make = make,
    };
}

}  // namespace plume

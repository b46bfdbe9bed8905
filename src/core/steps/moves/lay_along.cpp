#include <cmath>

#include "core/geometry/curves/curve_division.hpp"
#include "core/geometry/curves/curve_placements.hpp"
#include "core/geometry/measures/bounds.hpp"
#include "core/steps/moves/axis_slots.hpp"
#include "core/steps/moves/mapped_thing.hpp"

namespace plume {
namespace {

// Between two of so many placements the turning is that of the curve alone.
constexpr std::size_t station_count = 1025;

// Lengths along a curve to placements: X along it, Y to its left and Z up, or as they are carried.
class AlongCurve {
public:
    static Result<AlongCurve> make(const SplineCurve& curve, PlacementTurning turning, const Run& run) {
        auto stations =
            placements_along(curve, curve.closed() ? station_count - 1 : station_count, turning, run);
        if (!stations) return stations.error();
        return AlongCurve(curve, turning, *std::move(stations));
    }
    double total() const { return measure_.total(); }
    bool closed() const { return curve_.closed(); }

    Vec3 at(double along, double left, double up) const {
        const CurvePoint on = evaluate(curve_, measure_.parameter_at(along));
        const auto bays = static_cast<double>(station_count - 1);
        const auto station = std::min(static_cast<std::size_t>(along / total() * bays), stations_.size() - 1);
        const Placement& near = stations_[station];
        // Level, or the nearest station's axes, turned as little as its direction has to be.
        const Vec3 level = cross({0, 0, 1}, on.along);
        const bool upright = turning_ == PlacementTurning::upright && level != Vec3{};
        const Placement here =
            placement_of(on.position, on.along, upright ? level : turned(near.along, near.up, on.along));
        return here.origin + here.along * left + here.across * up;
    }

private:
    AlongCurve(SplineCurve curve, PlacementTurning turning, std::vector<Placement> stations)
        : curve_(std::move(curve)), measure_(curve_), turning_(turning), stations_(std::move(stations)) {}

    static Vec3 turned(Vec3 side, Vec3 from, Vec3 to) {
        const Vec3 goal = unit_or_zero(to), sum = from + goal;
        return side - sum * (dot(side, goal) / (1 + dot(from, goal)));
    }

    SplineCurve curve_;
    CurveLength measure_;
    PlacementTurning turning_;
    std::vector<Placement> stations_;
};

Result<Value> make(const Inputs& in, const Run& run) {
    const auto curve = single_curve(in, "curve");
    if (!curve) return curve.error();
    const auto line = AlongCurve::make(
        *curve, in.word("turning") == "upright" ? PlacementTurning::upright : PlacementTurning::least, run);
    if (!line) return line.error();
    const Box extent = bounds_of(in.value("thing"));
    const bool stretched = in.word("rule") == "stretched";
    if (extent.empty() || (stretched && !(extent.size().x > 0)))
        return about_slot(
            Error{ErrorCode::out_of_range, "", "has no extent along X", "Lay it at its own length instead."},
            extent.empty() ? "thing" : "rule");
    const double scale = stretched ? line->total() / extent.size().x : 1,
                 start = stretched ? 0 : in.number("start");
    const double size = bounds_of(*curve).diagonal(), slack = 1e-9 * line->total();
    const ThingMap map{[&](Vec3 place) -> std::optional<Vec3> {
                           double along = start + (place.x - extent.low.x) * scale;
                           if (line->closed())
                               along -= std::floor(along / line->total()) * line->total();
                           else if (!(along > -slack && along < line->total() + slack))
                               return {};
                           return line->at(std::clamp(along, 0.0, line->total()), place.y, place.z);
                       },
                       std::max(size, extent.diagonal()), "lies beyond the end of the curve",
                       "Stretch it over the whole curve, or begin earlier."};
    return mapped_thing(in.value("thing"), map, in, run);
}

Estimate estimate(const Inputs& in) {
    double knots = 0;
    for (const SplineCurve& curve : in.held<CurveSet>("curve").curves)
        knots += static_cast<double>(curve.x().size());
    return mapped_estimate(in.value("thing"), 1.5e-6, knots);
}

}  // namespace

StepKind lay_along() {
    return {
        .key = "thing.lay_along",
        .verb = "Lay along a curve",
        .synonyms = "map bend flow wrap pattern curve follow deform rail",
        .sentence = "Lay {thing} along {curve}, {rule}[rule=true| from {start}], {turning}.",
        .slots = {reference_slot("thing", "Thing", mapped_kinds()),
                  reference_slot("curve", "Curve", {Kind::curves}),
                  choice_slot("rule", "Length",
                              {{"stretched", "stretched over it", "from its start to its end"},
                               {"true", "at its own length", "x counts lengths along the curve"}}),
                  length_slot("start", "Start", "0 m"),
                  choice_slot("turning", "Turning",
                              {{"upright", "upright", "y stays level, to its left"},
                               {"least", "turning as little as can be", "carried along the curve"}})},
        .results = mapped_kinds(),
        .result_name = "laid",
        .help =
            "What was drawn along X, bent to run along a curve: x from its own left end is the length along "
            "the curve, y goes across it, z up. Round a closed curve it goes on; beyond the end of an open "
            "one "
            "points are gaps and anything else is refused.",
        .estimate = estimate,
        .make = make,
    };
}

}  // namespace plume

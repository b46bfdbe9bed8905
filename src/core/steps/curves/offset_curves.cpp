#include "core/geometry/curves/curve_sampling.hpp"
#include "core/geometry/curves/offset_curve.hpp"
#include "core/geometry/measures/best_fit.hpp"
#include "core/steps/curves/curve_support.hpp"

namespace plume {
namespace {

// The normal of its own plane, rising; of what is straight, upright.
Vec3 own_normal(const SplineCurve& curve) {
    const BestFit fit = best_fit(sample(curve, usual_tolerance(curve)).points);
    return fit.spread.y > 1e-9 * fit.spread.x ? fit.placement.up : Vec3{0, 0, 1};
}

Result<Value> make(const Inputs& in, const Run& run) {
    const std::string& view = in.word("view");
    CurveOffset offset;
    offset.distance = in.word("side") == "left" ? in.number("distance") : -in.number("distance");
    offset.round_corners = in.word("corners") == "round";
    double deviation = 0;
    Result<Value> made = each_curve(in, run, [&](const SplineCurve& curve) -> Result<SplineCurve> {
        offset.up = view == "placed" ? in.held<Placements>("placement").present_placements().front().up
                    : view == "own"  ? own_normal(curve)
                                     : Vec3{0, 0, 1};
        auto beside = offset_curve(curve, offset, run);
        if (!beside) return beside.error();
        deviation = std::max(deviation, beside->deviation);
        return beside->curve;
    });
    if (!made)
        return about_slot(made.error(), made.error().code == ErrorCode::out_of_range ? "distance" : "curve");
    if (deviation > 0)
        run.remark("What bends freely is true to " + quantity_text({deviation, a_length}, in.units()) + ".");
    return made;
}

// What bends freely gets knots between its knots; straight pieces are put end to end.
Estimate estimate(const Inputs& in) {
    Estimate all;
    const bool above = in.word("view") == "above";
    for (const SplineCurve& curve : in.held<CurveSet>("curve").curves) {
        const auto poles = static_cast<double>(curve.x().size());
        const bool line = above && runs_straight(curve, {0, 0, 1});
        all.bytes += 700 + poles * (line ? 32 : curve.basis().degree == 1 ? 400 : 6000);
        all.seconds += poles * (line ? 1e-7 : curve.basis().degree == 1 ? 3e-5 : 1e-4);
    }
    return all;
}

}  // namespace

StepKind offset_curves() {
    return {
        .key = "curve.offset",
        .verb = "Offset a curve",
        .synonyms = "parallel beside equidistant kerb edge rail distance side",
        .sentence =
            "Offset {curve} by {distance} to the {side}, seen {view}[view=placed| of {placement}], with "
            "{corners} "
            "corners.",
        .slots = {curves_slot(), length_above_zero_slot("distance", "Distance", "1 m"),
                  choice_slot("side", "Side",
                              {{"left", "left", "as it runs"}, {"right", "right", "as it runs"}}),
                  choice_slot(
                      "view", "View",
                      {{"above", "from above", "heights stay"},
                       {"own", "square to its own plane", "which rises; of a straight one from above"},
                       {"placed", "against the up", "of a placement"}}),
                  reference_slot("placement", "Placement", {Kind::placements}),
                  choice_slot("corners", "Corners",
                              {{"sharp", "sharp", "at most four distances long"}, {"round", "round", ""}})},
        .results = {Kind::curves},
        .result_name = "beside",
        .help =
            "The curve at a distance beside a curve, open or closed. Lines and arcs stay exact. A bend that "
            "is "
            "tighter than the distance is named, with the radius it has.",
        .stays_beside = true,
        .estimate = estimate,
        .make = make,
    };
}

}  // namespace plume

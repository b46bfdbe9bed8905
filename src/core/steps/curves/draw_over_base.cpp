#include "core/geometry/curves/base_line.hpp"
#include "core/steps/curves/curve_support.hpp"

namespace plume {
namespace {

Result<Value> make(const Inputs& in, const Run& /*run*/) {
    const auto curve = only_curve(in, "base");
    if (!curve) return curve.error();
    const BaseLine base(*curve, lift_axis_from(in.word("lift")));
    return held_by_poles(in, [&](Vec3 told) { return base.place(told); });
}

}  // namespace

StepKind draw_over_base() {
    SlotSpec poles = corners_slot("poles", "Poles",
                                  {{"p1", "0", "0 m", "2 m", "1"},
                                   {"p2", "0.25", "0 m", "5 m", "1"},
                                   {"p3", "0.5", "0 m", "2 m", "1"},
                                   {"p4", "0.75", "0 m", "1 m", "1"},
                                   {"p5", "1", "0 m", "3 m", "1"}});
    poles.weighted = true;
    poles.closed_by = "ends";
    poles.told_by = "base";
    poles.lifted_by = "lift";
    return {
        .key = "curve.over_base",
        .verb = "Draw a curve over a base",
        .synonyms = "control points relative offset wave ridge eaves lifted poles line spline",
        .sentence = "Draw {ends} curve of degree {degree} over {base}, held by {poles}, lifted {lift}.",
        .slots = {ends_slot(), degree_slot(), curves_slot("base", "Base"), poles,
                  choice_slot("lift", "Lift",
                              {{"up", "straight up", "along Z"},
                               {"square", "square to the base", "in the upright plane through it"},
                               {"x", "along X", ""},
                               {"y", "along Y", ""}})},
        .results = {Kind::curves},
        .result_name = "curve",
        .help =
            "Poles at shares of the way along a line or curve, so far across it and so far up. Drag them in "
            "the "
            "model; moving an end of the base carries them all.",
        .estimate =
            [](const Inputs& in) {
                const double size = pole_count(in.held<CurveSet>("base"));
                return Estimate{1e4 + size * 60, 1e-5 + size * 2e-5};
            },
        .make = make,
    };
}

}  // namespace plume

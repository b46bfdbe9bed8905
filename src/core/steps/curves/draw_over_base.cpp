#include "core/geometry/curves/base_line.hpp"
#include "core/geometry/curves/held_curve.hpp"
#include "core/steps/curves/curve_support.hpp"

namespace plume {
namespace {

Result<Value> make(const Inputs& in, const Run& /*run*/) {
    const CurveSet& set = in.held<CurveSet>("base");
    if (set.curves.size() != 1)
        return about_slot(Error{ErrorCode::wrong_kind, "",
                                set.curves.empty() ? "holds no curve"
                                                   : "holds " + std::to_string(set.curves.size()) + " curves",
                                "Choose a result with one."},
                          "base");
    const BaseLine base(set.curves.front(), lift_axis_from(in.word("lift")));
    HeldCurve held;
    held.closed = in.word("ends") == "closed";
    held.degree = static_cast<int>(in.count("degree"));
    for (const ResolvedPlace& pole : in.places("poles")) {
        held.poles.push_back(base.place(pole.position));
        held.weights.push_back(pole.weight);
    }
    Result<SplineCurve> curve = curve_held_by(held);
    if (!curve) return about_slot(curve.error(), "poles");
    return Value(CurveSet{{*std::move(curve)}});
}

}  // namespace

StepKind draw_over_base() {
    SlotSpec degree = count_slot("degree", "Degree", "3", 1);
    degree.most = 5;
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
        .slots = {choice_slot("ends", "Ends",
                              {{"open", "an open", "it touches its first and last pole"},
                               {"closed", "a closed", "the last pole is joined to the first"}}),
                  degree, curves_slot("base", "Base"), poles,
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

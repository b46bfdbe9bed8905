#include "core/geometry/curves/held_curve.hpp"
#include "core/study/step_kind.hpp"

namespace plume {
namespace {

Result<Value> make(const Inputs& in, const Run& /*run*/) {
    HeldCurve held;
    held.closed = in.word("ends") == "closed";
    held.degree = static_cast<int>(in.count("degree"));
    for (const ResolvedPlace& pole : in.places("poles")) {
        held.poles.push_back(pole.position);
        held.weights.push_back(pole.weight);
    }
    Result<SplineCurve> curve = curve_held_by(held);
    if (!curve) return about_slot(curve.error(), "poles");
    return Value(CurveSet{{*std::move(curve)}});
}

}  // namespace

StepKind draw_curve() {
    SlotSpec degree = count_slot("degree", "Degree", "3", 1);
    degree.most = 5;
    SlotSpec poles = corners_slot("poles", "Poles",
                                  {{"p1", "-12 m", "0 m", "0 m", "1"},
                                   {"p2", "-6 m", "0 m", "6 m", "1"},
                                   {"p3", "0 m", "0 m", "0 m", "1"},
                                   {"p4", "6 m", "0 m", "-2 m", "1"},
                                   {"p5", "12 m", "0 m", "3 m", "1"}});
    poles.weighted = true;
    poles.closed_by = "ends";
    return {
        .key = "curve.drawn",
        .verb = "Draw a curve by its poles",
        .synonyms = "control points spline free wave ridge eaves path weights draw click",
        .sentence = "Draw {ends} curve of degree {degree}, held by {poles}.",
        .slots = {choice_slot("ends", "Ends",
                              {{"open", "an open", "it touches its first and last pole"},
                               {"closed", "a closed", "the last pole is joined to the first"}}),
                  degree, poles},
        .results = {Kind::curves},
        .result_name = "curve",
        .help =
            "A curve that is drawn towards its poles. Drag them in the model; a weight above 1 pulls the "
            "curve "
            "closer to its pole. Degree 1 runs straight from pole to pole, 3 is smooth, 5 the calmest.",
        .make = make,
    };
}

}  // namespace plume

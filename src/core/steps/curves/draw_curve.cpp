#include "core/steps/curves/curve_support.hpp"

namespace plume {

StepKind draw_curve() {
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
        .slots = {ends_slot(), degree_slot(), poles},
        .results = {Kind::curves},
        .result_name = "curve",
        .help =
            "A curve that is drawn towards its poles. Drag them in the model; a weight above 1 pulls the "
            "curve "
            "closer to its pole. Degree 1 runs straight from pole to pole, 3 is smooth, 5 the calmest.",
        .make = [](const Inputs& in,
                   const Run&) { return held_by_poles(in, [](Vec3 place) { return place; }); },
    };
}

}  // namespace plume

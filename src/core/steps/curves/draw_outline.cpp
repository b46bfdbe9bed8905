#include "core/geometry/curves/curve_interpolation.hpp"
#include "core/geometry/curves/outline.hpp"
#include "core/study/step_kind.hpp"

namespace plume {
namespace {

Result<Value> make(const Inputs& in, const Run& /*run*/) {
    CurvePoints item;
    for (const ResolvedPlace& corner : in.places("corners"))
        item.points.push_back(corner.position);
    item.closed = in.word("ends") == "closed";
    Result<SplineCurve> curve = curve_through(
        std::move(item), in.word("edges") == "smooth" ? CurveShape::smooth : CurveShape::straight);
    if (!curve) return about_slot(curve.error(), "corners");
    if (curve->closed())
        if (const auto outline = Outline::make(*curve); !outline) return outline.error();
    return Value(CurveSet{{*std::move(curve)}});
}

}  // namespace

StepKind draw_outline() {
    SlotSpec corners = corners_slot("corners", "Corners",
                                    {{"c1", "-12 m", "-8 m", "0 m", "1"},
                                     {"c2", "12 m", "-8 m", "0 m", "1"},
                                     {"c3", "14 m", "6 m", "0 m", "1"},
                                     {"c4", "-8 m", "9 m", "0 m", "1"}});
    corners.closed_by = "ends";
    return {
        .key = "outline.drawn",
        .verb = "Draw an outline",
        .synonyms = "polygon sketch plan corners boundary path line closed curve draw click",
        .sentence = "Draw {ends} outline through {corners} with {edges} edges.",
        .slots = {choice_slot("ends", "Ends",
                              {{"closed", "a closed", "the last corner is joined to the first"},
                               {"open", "an open", "a line with two ends, as a path"}}),
                  corners,
                  choice_slot("edges", "Edges",
                              {{"straight", "straight", "corner to corner"},
                               {"smooth", "smooth", "a cubic spline through the corners"}})},
        .results = {Kind::curves},
        .result_name = "outline",
        .help =
            "A line through corners, drawn by clicking in plan. Corners snap to the grid, their lengths can "
            "be "
            "typed, and they can be dragged in the model afterwards. A closed one must not cross itself.",
        .make = make,
    };
}

}  // namespace plume

#include "core/geometry/curves/curve_interpolation.hpp"
#include "core/geometry/curves/curve_sampling.hpp"
#include "core/geometry/curves/outline.hpp"
#include "core/study/step_kind.hpp"

namespace plume {
namespace {

Result<Value> make(const Inputs& in, const Run& /*run*/) {
    const auto outline = Outline::make(in.held<CurveSet>("outline"));
    if (!outline) return about_slot(outline.error(), "outline");
    const bool inwards = in.word("side") == "in";
    const double distance = in.number("distance");
    const auto loops =
        offset_loops(*outline, inwards ? -distance : distance,
                     in.word("corners") == "round" ? OffsetCorners::round : OffsetCorners::sharp);
    if (!loops) return about_slot(loops.error(), "distance");
    CurveSet set;
    for (const auto& loop : *loops) {
        CurvePoints item;
        item.closed = true;
        for (const FlatPoint corner : loop)
            item.points.push_back(outline->plane().to_world({corner.x, corner.y, 0}));
        Result<SplineCurve> curve = curve_through(std::move(item), CurveShape::straight);
        if (!curve) return curve.error();
        set.curves.push_back(*std::move(curve));
    }
    return Value(std::move(set));
}

}  // namespace

StepKind offset_outline() {
    return {
        .key = "outline.offset",
        .verb = "Offset an outline",
        .synonyms = "parallel inset outset margin border shrink grow",
        .sentence = "Offset {outline} {side} by {distance}, with {corners} corners.",
        .slots = {reference_slot("outline", "Outline", {Kind::curves}),
                  choice_slot("side", "Side", {{"in", "inwards", ""}, {"out", "outwards", ""}}),
                  length_above_zero_slot("distance", "Distance", "1 m"),
                  choice_slot("corners", "Corners",
                              {{"sharp", "sharp", "at most four distances long"}, {"round", "round", ""}})},
        .results = {Kind::curves},
        .result_name = "inset",
        .help = "The line at a distance from an outline, in its plane. An inset may fall into several loops.",
        .stays_beside = true,
        .estimate =
            [](const Inputs& in) {
                double corners = 0;
                for (const SplineCurve& curve : in.held<CurveSet>("outline").curves)
                    corners += static_cast<double>(sample_count(curve, usual_tolerance(curve)));
                return Estimate{corners * 200, corners * 2e-6};
            },
        .make = make,
    };
}

}  // namespace plume

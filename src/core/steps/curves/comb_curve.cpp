#include "core/geometry/curves/curve_division.hpp"
#include "core/geometry/curves/curve_interpolation.hpp"
#include "core/geometry/curves/curve_sampling.hpp"
#include "core/steps/curves/curve_support.hpp"

namespace plume {
namespace {

// Teeth point away from the centre of curvature, as long as the curvature times the scale; their tips are
// joined.
Status add_comb(const SplineCurve& curve, std::size_t teeth, double scale, CurveSet& comb, const Run& run) {
    const CurveLength measure(curve);
    CurvePoints tips;
    tips.closed = curve.closed();
    const std::size_t count = teeth + (curve.closed() ? 0 : 1);
    for (std::size_t tooth = 0; tooth < count; ++tooth) {
        if (run.cancelled()) return cancelled_error();
        const double parameter =
            measure.parameter_at(measure.total() * static_cast<double>(tooth) / static_cast<double>(teeth));
        const CurveBend at = evaluate_bend(curve, parameter);
        const Vec3 normal = cross(at.along, at.bend), outwards = unit_or_zero(cross(at.along, normal));
        const double curvature = curvature_of(at);
        const Vec3 tip =
            std::isfinite(curvature) ? at.position + outwards * (curvature * scale) : at.position;
        tips.points.push_back(tip);
        if (auto line = curve_through({{at.position, tip}, {}, {}, false}, CurveShape::straight))
            comb.curves.push_back(*std::move(line));
    }
    if (auto line = curve_through(std::move(tips), CurveShape::straight))
        comb.curves.push_back(*std::move(line));
    return Done{};
}

Result<Value> make(const Inputs& in, const Run& run) {
    CurveSet comb;
    const double scale = in.number("scale") * in.number("scale");
    for (const SplineCurve& curve : in.held<CurveSet>("curve").curves)
        if (Status status = add_comb(curve, in.count("teeth"), scale, comb, run); !status)
            return status.error();
    return Value(std::move(comb));
}

}  // namespace

StepKind comb_curve() {
    SlotSpec teeth = count_slot("teeth", "Teeth", "96", 3);
    teeth.most = 1e6;
    return {
        .key = "curve.comb",
        .verb = "Show the curvature of a curve as a comb",
        .synonyms = "curvature comb graph fairness teeth bend analyse",
        .sentence =
            "Show the curvature of {curve} as a comb of {teeth} teeth, as long as the radius where that is "
            "{scale}.",
        .slots = {curves_slot(), teeth, length_above_zero_slot("scale", "Scale", "2 m")},
        .results = {Kind::curves},
        .result_name = "comb",
        .help =
            "Teeth away from the inside of every bend, the longer the tighter it is, and the line of their "
            "tips. A "
            "bend of the radius of the scale has teeth as long as that radius.",
        .stays_beside = true,
        .estimate =
            [](const Inputs& in) {
                const double all =
                    in.number("teeth") * static_cast<double>(in.held<CurveSet>("curve").curves.size());
                const Estimate curve = poles_estimate(in, 200, 4e-5);
                return Estimate{curve.bytes + all * 1100, curve.seconds + all * 4e-6};
            },
        .make = make,
    };
}

}  // namespace plume

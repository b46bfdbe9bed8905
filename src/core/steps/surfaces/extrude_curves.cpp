#include <cmath>

#include "core/data/place_text.hpp"
#include "core/geometry/curves/curve_division.hpp"
#include "core/geometry/curves/curve_edit.hpp"
#include "core/geometry/curves/curve_figures.hpp"
#include "core/geometry/curves/mapped_curve.hpp"
#include "core/geometry/curves/offset_curve.hpp"
#include "core/geometry/measures/bounds.hpp"
#include "core/geometry/surfaces/loft.hpp"
#include "core/steps/curves/curve_support.hpp"
#include "core/steps/formula_support.hpp"
#include "core/steps/moves/axis_slots.hpp"

namespace plume {
namespace {

// Of the size: how true the upper rim of a wall by a formula is.
constexpr double true_share = 1e-7;
constexpr const char* of_the_curve = "the curve";

FormulaSite site_over(const std::vector<Vec3>& places, Doubles lengths, double total, bool closed) {
    FormulaSite site = site_along(places, std::move(lengths), total, closed, of_the_curve);
    site.results.push_back({"height", "how far it goes there", true, true});
    return site;
}

// Even places of the first curve: what the editor shows.
Result<FormulaSite> site_of(const Inputs& in) {
    constexpr std::size_t bays = 96;
    const CurveSet& set = in.held<CurveSet>("curve");
    if (set.curves.empty())
        return about_slot(Error{ErrorCode::empty_input, "", "holds no curve", "Draw one."}, "curve");
    const SplineCurve& curve = set.curves.front();
    const CurveLength measure(curve);
    std::vector<Vec3> places;
    Doubles lengths;
    for (std::size_t at = 0; at < bays + (curve.closed() ? 0 : 1); ++at) {
        lengths.push_back(measure.total() * static_cast<double>(at) / bays);
        places.push_back(evaluate(curve, measure.parameter_at(lengths.back())).position);
    }
    return site_over(places, std::move(lengths), measure.total(), curve.closed());
}

Result<SplinePatch> ruled(const SplineCurve& from, const SplineCurve& to, const Run& run) {
    return lofted({{from, to}, false, false}, run);
}

Result<SplinePatch> by_formula(const SplineCurve& curve, const Inputs& in, const Run& run,
                               double& deviation) {
    const CurveLength measure(curve);
    const Vec3 way = way_of(in);
    const CurvePlace top = [&](double t) -> Result<Vec3> {
        const Vec3 place = evaluate(curve, t).position;
        const FormulaSite site = site_over({place}, {measure.length_at(t)}, measure.total(), curve.closed());
        auto formula = checked_formula(in, site);
        if (!formula) return formula.error();
        const auto height = computed(*formula, "height", a_length, site, in, run);
        if (!height) return height.error();
        const double by = (**height)[0];
        if (std::isfinite(by)) return place + way * by;
        return about_slot(
            Error{ErrorCode::not_finite, "", "gives a height that is no number at " + place_text(place),
                  "Look where its range begins."},
            "formula");
    };
    const auto image = image_of(curve, top, true_share * bounds_of(curve).diagonal(), run);
    if (!image) return image.error();
    deviation = std::max(deviation, image->deviation);
    return ruled(image->from, image->to, run);
}

// To the side that a closed curve encloses, seen against the way it goes; of an open one to its left.
Result<SplinePatch> leaning(const SplineCurve& curve, const Inputs& in, const Run& run, double& deviation) {
    const double by = in.number("by");
    CurveOffset offset;
    offset.up = way_of(in);
    const bool clockwise = curve.closed() && dot(area_vector(curve), offset.up) < 0;
    offset.distance = std::abs(by) * std::tan(in.number("lean")) * (clockwise ? -1 : 1);
    const auto pair = curve_and_offset(curve, offset, run);
    if (!pair)
        return about_slot(pair.error(), pair.error().code == ErrorCode::out_of_range ? "lean" : "curve");
    deviation = std::max(deviation, pair->deviation);
    const auto top = with_poles(pair->to, [&](Vec3 pole) { return pole + offset.up * by; });
    if (!top) return top.error();
    return ruled(pair->from, *top, run);
}

Result<Value> make(const Inputs& in, const Run& run) {
    double deviation = 0;
    Result<Value> made = surface_of_each(in, run, "by", [&](const SplineCurve& curve) {
        if (in.word("rule") == "formula") return by_formula(curve, in, run, deviation);
        if (in.word("sides") == "leaning" && in.number("lean") != 0)
            return leaning(curve, in, run, deviation);
        return extruded(curve, way_of(in) * in.number("by"));
    });
    if (made && deviation > 0) run.remark(deviation_sentence(deviation, in));
    return made;
}

Estimate estimate(const Inputs& in) {
    if (in.word("rule") == "formula") return poles_estimate(in, 6000, 2e-3);
    if (in.word("sides") == "leaning") return poles_estimate(in, 1500, 1e-4);
    return poles_estimate(in, 16, 1e-7);
}

SlotSpec lean_slot() {
    SlotSpec spec = angle_slot("lean", "Lean", "10°");
    constexpr double nearly_flat = 1.5;  // radians
    spec.least = -nearly_flat;
    spec.most = nearly_flat;
    return spec;
}

}  // namespace

StepKind extrude_curves() {
    return {
        .key = "surface.extrude",
        .verb = "Extrude a curve",
        .synonyms = "pull wall sheet height along direction translate surface taper draft leaning batter",
        .sentence =
            "Extrude {curve} {rule}[rule=by| {by}][rule=formula| {formula}] {direction}"
            "[direction=placed| of {placement}][rule=by|, {sides}][rule=by&sides=leaning| by {lean}].",
        .slots = {curves_slot(),
                  choice_slot("rule", "Rule",
                              {{"by", "by", "as far everywhere"},
                               {"formula", "to heights by", "a formula of the place along the curve"}}),
                  length_slot("by", "Length", "3 m"),
                  formula_slot("formula", formula_label, "height = 3 m + 500 mm * sin(360° * u)"),
                  choice_slot("direction", "Direction",
                              {{"z", "up", "along Z"},
                               {"x", "along X", ""},
                               {"y", "along Y", ""},
                               {"placed", "along the up", "of a placement"}}),
                  reference_slot("placement", "Placement", {Kind::placements}),
                  choice_slot("sides", "Sides",
                              {{"straight", "straight", "parallel to the way it goes"},
                               {"leaning", "leaning in",
                                "to the side that a closed curve encloses, or to the left; below 0 the "
                                "other way"}}),
                  lean_slot()},
        .results = {Kind::surface},
        .result_name = "wall",
        .help =
            "The surface a curve passes over when it is moved: exact, one for each curve. It can lean by an "
            "angle everywhere, its corners mitred, or go as far as a formula says, which reads u, s, x, y, z "
            "and length of the place along the curve and gives height; how true the upper rim is then is "
            "told "
            "below.",
        .estimate = estimate,
        .make = make,
        .contexts = {{"formula", context(site_of)}},
    };
}

}  // namespace plume

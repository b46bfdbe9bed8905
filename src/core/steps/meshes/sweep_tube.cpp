#include "core/geometry/meshes/joined_meshes.hpp"
#include "core/geometry/meshes/tube.hpp"
#include "core/steps/formula_support.hpp"

namespace plume {
namespace {

// What a formula of the radius reads at each sample.
FormulaSite place_along(const CurveSamples& samples) {
    Doubles along(samples.points.size(), 0);
    for (std::size_t at = 1; at < along.size(); ++at)
        along[at] = along[at - 1] + length(samples.points[at] - samples.points[at - 1]);
    FormulaSite site =
        site_along(samples.points, std::move(along), polyline_length(samples.points, samples.closed),
                   samples.closed, "the curve");
    for (const Field& field : samples.fields)
        add_numbers(site, field.name, field.values, field.dimension, "field of the curve");
    site.results.push_back({"", "the last line is the radius", true, true});
    return site;
}

CurveSamples samples_of(const SplineCurve& curve, const Inputs& in) {
    return sample(curve, std::min(in.number("tolerance"), usual_tolerance(curve) * 20));
}

Result<FormulaSite> site_of(const Inputs& in) {
    const CurveSet& set = in.held<CurveSet>("curves");
    if (set.curves.empty())
        return about_slot(Error{ErrorCode::empty_input, "", "are none", "Choose curves with points."},
                          "curves");
    return place_along(samples_of(set.curves.front(), in));
}

Result<std::vector<double>> radii_of(const CurveSamples& samples, const Inputs& in, const Run& run) {
    if (in.word("thickness") == "even")
        return std::vector<double>(samples.points.size(), in.number("radius"));
    const FormulaSite site = place_along(samples);
    Result<CheckedFormula> formula = checked_formula(in, site);
    if (!formula) return formula.error();
    const auto radii = computed(*formula, "", a_length, site, in, run);
    if (!radii) return radii.error();
    return std::vector<double>((*radii)->begin(), (*radii)->end());
}

Estimate estimate(const Inputs& in) {
    double samples = 0;
    for (const SplineCurve& curve : in.held<CurveSet>("curves").curves)
        samples += static_cast<double>(sample_count(curve, in.number("tolerance")));
    const double vertices = samples * in.number("sides");
    // Places and numbers of the vertices, four corners a face, and all of it once more while tubes are
    // joined.
    return {vertices * 110, vertices * 2e-7};
}

Result<Value> make(const Inputs& in, const Run& run) {
    std::vector<Mesh> meshes;
    for (const SplineCurve& curve : in.held<CurveSet>("curves").curves) {
        const CurveSamples samples = samples_of(curve, in);
        auto radii = radii_of(samples, in, run);
        if (!radii) return radii.error();
        const TubePlan plan{*std::move(radii), in.count("sides"),
                            in.word("ends") == "open" ? TubeEnds::open : TubeEnds::capped};
        Result<Mesh> mesh = tube(samples, plan, run);
        if (!mesh) return mesh.error();
        meshes.push_back(*std::move(mesh));
    }
    Result<Mesh> whole = joined(meshes);
    if (!whole) return whole.error();
    return Value(*std::move(whole));
}

SlotSpec sides_slot() {
    SlotSpec spec = count_slot("sides", "Sides", "16", 3);
    spec.most = 1000;
    return spec;
}

}  // namespace

StepKind sweep_tube() {
    return {
        .key = "mesh.tube",
        .verb = "Sweep a tube along curves",
        .synonyms = "pipe rail sweep thicken handrail cable profile",
        .sentence =
            "Sweep a tube of {sides} sides along {curves}, {thickness} [thickness=even|of radius {radius}]"
            "[thickness=formula|by {formula}], true to {tolerance}, its ends {ends}.",
        .slots = {sides_slot(), reference_slot("curves", "Curves", {Kind::curves}),
                  choice_slot("thickness", "Thickness",
                              {{"even", "even,", "the same radius all along"},
                               {"formula", "its radius", "by a formula of the place along the curve"}}),
                  length_above_zero_slot("radius", "Radius", "40 mm"),
                  formula_slot("formula", formula_label, "30 mm + 30 mm * sin(180° * u)"),
                  length_above_zero_slot("tolerance", "Tolerance", "2 mm"),
                  choice_slot(
                      "ends", "Ends",
                      {{"capped", "capped", "closed by a flat face"}, {"open", "open", "a hollow pipe"}})},
        .results = {Kind::mesh},
        .result_name = "rail",
        .help =
            "A round tube along each curve. Rings turn as little as the curve lets them; on a closed curve "
            "they meet "
            "without a jump. A formula of the radius reads u (0 to 1 along the curve), s (length along it), "
            "length, "
            "x, y, z and the curve's fields. Capped and closed tubes are watertight.",
        .companion = {},
        .estimate = estimate,
        .make = make,
        .contexts = {{"formula", context(site_of)}},
    };
}

}  // namespace plume

#include <algorithm>

#include "core/geometry/meshes/joined_meshes.hpp"
#include "core/geometry/meshes/tube.hpp"
#include "core/geometry/solids/combined.hpp"
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
    const auto radii = numbers_by_formula(in, place_along(samples), a_length, run);
    if (!radii) return radii.error();
    return std::vector<double>(radii->begin(), radii->end());
}

Estimate estimate(const Inputs& in) {
    double samples = 0;
    for (const SplineCurve& curve : in.held<CurveSet>("curves").curves)
        samples += static_cast<double>(sample_count(curve, in.number("tolerance")));
    const double vertices = samples * in.number("sides");
    // Places and numbers of the vertices, four corners a face, and all of it once more while tubes are
    // joined.
    // Merged, each is cut along all it meets, in memory that is dear.
    if (in.word("meeting") == "merged") return {vertices * 1500, vertices * 6e-5};
    return {vertices * 110, vertices * 2e-7};
}

// One skin around all of them.
Result<Value> merged_tubes(const std::vector<Mesh>& tubes, const Inputs& in, const Run& run) {
    const auto& curves = in.held<CurveSet>("curves").curves;
    const bool all_closed =
        std::ranges::all_of(curves, [](const SplineCurve& curve) { return curve.closed(); });
    if (in.word("ends") == "open" && !all_closed)
        return about_slot(Error{ErrorCode::has_gaps, "", "are open, and only closed tubes can be merged",
                                "Have them capped."},
                          "ends");
    auto made = merged(tubes, run);
    if (!made) return about_slot(made.error(), "curves");
    if (std::ranges::any_of(curves, [](const SplineCurve& curve) { return !curve.fields().empty(); }))
        run.remark("Where tubes are merged, the numbers of their curves are not kept.");
    return Value(*std::move(made));
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
    if (in.word("meeting") == "merged") return merged_tubes(meshes, in, run);
    return as_value(joined(meshes));
}

PartStory story(const Inputs& in, const Value& made, PartRef part) {
    const auto& curves = in.held<CurveSet>("curves").curves;
    const auto& mesh = std::get<Mesh>(made);
    const std::size_t tube = part.sort == PartSort::item   ? part.number
                             : part.sort == PartSort::face ? mesh.part_of(part.number)
                                                           : curves.size();
    if (mesh.part_count() != curves.size() || tube >= curves.size()) return {};
    return {{}, {{{"curves", {PartSort::item, tube}}}}};
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
            "Sweep a tube of {sides} sides along {curves}, {thickness} [thickness=even|of radius "
            "{radius}][thickness=formula|by {formula}][more|, true to {tolerance}], its ends {ends}[more|, "
            "{meeting}].",
        .slots = {sides_slot(), reference_slot("curves", "Curves", {Kind::curves}),
                  choice_slot("thickness", "Thickness",
                              {{"even", "even,", "the same radius all along"},
                               {"formula", "its radius", "by a formula of the place along the curve"}}),
                  length_above_zero_slot("radius", "Radius", "40 mm"),
                  formula_slot("formula", formula_label, "30 mm + 30 mm * sin(180° * u)"),
                  length_above_zero_slot("tolerance", "Tolerance", "2 mm"),
                  choice_slot(
                      "ends", "Ends",
                      {{"capped", "capped", "closed by a flat face"}, {"open", "open", "a hollow pipe"}}),
                  choice_slot(
                      "meeting", "Meeting",
                      {{"apart", "each by itself", "a part each, which may run into others"},
                       {"merged", "merged where they meet", "one skin around all that hangs together"}})},
        .results = {Kind::mesh},
        .result_name = "rail",
        .help =
            "A round tube along each curve. Rings turn as little as the curve lets them; on a closed curve "
            "they meet "
            "without a jump. A formula of the radius reads u (0 to 1 along the curve), s (length along it), "
            "length, "
            "x, y, z and the curve's fields. Capped and closed tubes are watertight. "
            "Merged, as branches where they fork, they are one watertight skin of triangles.",
        .companion = {},
        .estimate = estimate,
        .make = make,
        .contexts = {{"formula", context(site_of)}},
        .story = story,
    };
}

}  // namespace plume

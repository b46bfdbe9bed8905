#include <algorithm>

#include "core/base/numbers.hpp"
#include "core/geometry/surfaces/flatness.hpp"
#include "core/steps/surfaces/flatness_support.hpp"
#include "core/steps/surfaces/surface_measures.hpp"

namespace plume {
namespace {

constexpr const char* field_name = "flatness";

std::vector<Field> with_flatness(std::vector<Field> fields, Doubles gaps) {
    return with_number(std::move(fields), {field_name, std::move(gaps), a_length});
}

// Of each panel, and at each vertex the worst of those that meet there.
Result<Value> measured(const Mesh& mesh, const std::vector<double>& gaps) {
    Doubles at_vertex(mesh.vertex_count(), 0.0);
    for (std::size_t face = 0; face < mesh.face_count(); ++face)
        for (const std::uint32_t corner : mesh.face(face))
            at_vertex[corner] = std::max(at_vertex[corner], gaps[face]);
    Mesh::Parts parts = mesh.parts();
    parts.fields = with_flatness(mesh.fields(), std::move(at_vertex));
    parts.face_fields = with_flatness(mesh.face_fields(), Doubles(gaps.begin(), gaps.end()));
    return as_value(Mesh::make(std::move(parts)));
}

Result<Value> measured(const CurveSet& set) {
    CurveSet result;
    for (const SplineCurve& curve : set.curves) {
        Result<SplineCurve> made =
            SplineCurve::make({curve.basis(), curve.x(), curve.y(), curve.z(), curve.weights(),
                               with_flatness(curve.fields(), flatness_of(curve).pole_gaps)});
        if (!made) return made.error();
        result.curves.push_back(*std::move(made));
    }
    return Value(std::move(result));
}

Result<Value> make(const Inputs& in, const Run& run) {
    const auto gaps = gaps_of(in.value("panels"), run);
    if (!gaps) return gaps.error();
    const double tolerance = in.number("tolerance");
    const auto worst = std::ranges::max_element(*gaps);
    const auto beyond = std::ranges::count_if(*gaps, [&](double gap) { return gap > tolerance; });
    const auto length = [&](double value) { return quantity_text({value, a_length}, in.units(), 3); };
    run.remark("Number " + std::to_string(worst - gaps->begin()) + ", counted from 0, is the worst of " +
               grouped_text(static_cast<std::int64_t>(gaps->size())) + ": " + length(*worst) +
               " off its plane; " + grouped_text(beyond) + (beyond == 1 ? " is" : " are") + " more than " +
               length(tolerance) + " off.");
    if (const auto* mesh = std::get_if<Mesh>(&in.value("panels"))) return measured(*mesh, *gaps);
    return measured(std::get<CurveSet>(in.value("panels")));
}

}  // namespace

StepKind measure_flatness() {
    return {
        .key = "thing.flatness",
        .verb = "Measure the flatness of panels",
        .synonyms = "planarity gap plane warp twist facets outlines deviation analyse",
        .sentence = "Measure how far the panels of {panels} are from flat, with a tolerance of {tolerance}.",
        .slots = {panels_slot(), length_above_zero_slot("tolerance", "Tolerance", "2 mm")},
        .results = {Kind::mesh, Kind::curves},
        .result_name = "measured",
        .help =
            "The planarity gap: how far a corner of a panel, or a place of an outline, is at most from the "
            "plane that fits best. On meshes the field `flatness` holds it of each panel, and at each "
            "vertex the worst of those that meet there; on curves the signed distance from the plane.",
        .estimate = flatness_estimate,
        .make = make,
    };
}

}  // namespace plume

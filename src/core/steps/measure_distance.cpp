#include "core/geometry/distance.hpp"
#include "core/study/step_kind.hpp"

namespace plume {
namespace {

Combination combination_of(const std::string& word) {
    if (word == "average") return Combination::average;
    if (word == "sum") return Combination::sum;
    if (word == "product") return Combination::product;
    return Combination::nearest;
}

Response response_of(const std::string& word) {
    if (word == "straight") return Response::straight;
    if (word == "half_sine") return Response::half_sine;
    if (word == "smooth_step") return Response::smooth_step;
    if (word == "inverse") return Response::inverse;
    if (word == "inverse_square") return Response::inverse_square;
    if (word == "bell") return Response::bell;
    return Response::distance;
}

DistanceRule rule_of(const Inputs& in) {
    const Response response = response_of(in.word("response"));
    return {combination_of(in.word("combination")), response,
            response == Response::distance ? 1 : in.number("reach")};
}

Estimate estimate(const Inputs& in) {
    const auto points = static_cast<double>(in.points("points").address_count());
    const auto attractors = static_cast<double>(in.attractors("attractors").items().size());
    return {points * sizeof(double), points * attractors * 2e-9};
}

Result<Value> make(const Inputs& in, const Run& run) {
    const PointLattice& points = in.points("points");
    Result<Field> field = distance_field(points, in.attractors("attractors"), rule_of(in), run);
    if (!field) return field.error();
    field->name = in.result_name();
    return Value(FieldOnPoints{points.with_field(*std::move(field)), in.result_name()});
}

}  // namespace

StepKind measure_distance() {
    return {
        .key = "field.distance",
        .verb = "Measure distance to attractors",
        .synonyms = "field falloff response proximity near far influence",
        .sentence =
            "Measure how far each point of {points} is from the {combination} of {attractors}; let it answer "
            "as {response}[response=straight,half_sine,smooth_step,inverse,inverse_square,bell| within "
            "{reach}].",
        .slots = {reference_slot("points", "Points", {Kind::points}),
                  choice_slot(
                      "combination", "Combination",
                      {{"nearest", "nearest", "the one with the smallest distance over weight"},
                       {"average", "average", "weighted mean of the answers"},
                       {"sum", "sum", "weighted sum of the answers"},
                       {"product", "product", "product of the answers to the power of their weights"}}),
                  reference_slot("attractors", "Attractors", {Kind::attractors}),
                  choice_slot(
                      "response", "Response",
                      {{"distance", "the distance itself", "a length, without limit"},
                       {"straight", "a straight rise", "0 at the attractor, 1 from the reach on"},
                       {"half_sine", "a half sine", "from 0 to 1 at the reach, soft at both ends"},
                       {"smooth_step", "a smooth step", "from 0 to 1 at the reach, cubic"},
                       {"inverse", "the inverse", "1 at the attractor, a half at the reach"},
                       {"inverse_square", "the inverse square",
                        "1 at the attractor, a half at the reach, steeper beyond"},
                       {"bell", "a bell", "1 at the attractor, three standard deviations to the reach"}}),
                  length_above_zero_slot("reach", "Reach", "12 m")},
        .results = {Kind::field},
        .result_name = "reach",
        .help =
            "A number on each point from its distance to attractors. The response shapes it; none of them "
            "divides "
            "by the distance, so an attractor may stand on a point.",
        .companion = {},
        .estimate = estimate,
        .make = make,
        .formula_place = {},
    };
}

}  // namespace plume

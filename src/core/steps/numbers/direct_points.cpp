#include "core/geometry/numbers/direction_field.hpp"
#include "core/steps/numbers/response_words.hpp"

namespace plume {
namespace {

Estimate estimate(const Inputs& in) {
    const auto points = static_cast<double>(in.lattice("points").address_count());
    double seconds = 0;
    for (const Attractor& item : in.held<Attractors>("attractors").items())
        seconds += points * (item.path ? 5e-7 : 3e-8);
    return {points * 3 * sizeof(double), seconds};
}

Result<Value> make(const Inputs& in, const Run& run) {
    const Result<Shaping> fading = shaping_in(in);
    if (!fading) return fading.error();
    DirectionRule rule;
    const std::string& sense = in.word("sense");
    rule.sense = sense == "towards"  ? DirectionSense::towards
                 : sense == "around" ? DirectionSense::around
                                     : DirectionSense::away;
    rule.nearest_only = in.word("which") == "nearest";
    rule.fading = *fading;
    if (fading->response != Response::distance) rule.reach = in.number("reach");
    const PointLattice& points = in.lattice("points");
    Result<DirectionColumns> columns = direction_field(points, in.held<Attractors>("attractors"), rule, run);
    if (!columns) return columns.error();
    return Value(with_directions(points, in.result_name(), std::move(columns->x), std::move(columns->y),
                                 std::move(columns->z), plain_number));
}

}  // namespace

StepKind direct_points() {
    return {
        .key = "directions.attractors",
        .verb = "Direct points by attractors",
        .synonyms = "vector field direction flow swirl away towards around arrows",
        .sentence =
            "Direct each point of {points} {sense} {which} of {attractors}, fading {response}"
            "[response=inverse,inverse_square,bell| within {reach}].",
        .slots =
            {reference_slot("points", "Points", {Kind::points, Kind::field}),
             choice_slot("sense", "Sense",
                         {{"away", "away from", ""},
                          {"towards", "towards", ""},
                          {"around", "around", "anticlockwise in plan, or around a curve's own direction"}}),
             choice_slot("which", "Which",
                         {{"all", "all", "the sum of their directions"}, {"nearest", "the nearest", ""}}),
             reference_slot("attractors", "Attractors", {Kind::attractors}),
             response_slot(
                 "response", "Response",
                 {{"inverse", "as the inverse", "half as strong at the reach"},
                  {"inverse_square", "as the inverse square", "half as strong at the reach, then steeper"},
                  {"bell", "as a bell", "all but nothing at the reach"},
                  {"distance", "not at all", "equally strong everywhere"}}),
             length_above_zero_slot("reach", "Reach", "6 m")},
        .results = {Kind::directions},
        .result_name = "flow",
        .help =
            "A direction on each point: the sum of the unit directions away from, towards or around "
            "attractors, "
            "each as strong as its weight and as its distance leaves it. Drawn as arrows; points are pushed "
            "along it.",
        .bears_name = true,
        .estimate = estimate,
        .make = make,
    };
}

}  // namespace plume

#include "core/geometry/numbers/distance.hpp"
#include "core/steps/numbers/response_words.hpp"

namespace plume {
namespace {

constexpr std::array<std::pair<const char*, Combination>, 4> combinations{
    {{"nearest", Combination::nearest},
     {"average", Combination::average},
     {"sum", Combination::sum},
     {"product", Combination::product}}};

Result<DistanceRule> rule_of(const Inputs& in) {
    const Result<Shaping> shaping = shaping_in(in);
    if (!shaping) return shaping.error();
    DistanceRule rule{Combination::nearest, *shaping, 1};
    for (const auto& [word, combination] : combinations)
        if (in.word("combination") == word) rule.combination = combination;
    if (shaping->response != Response::distance) rule.reach = in.number("reach");
    return rule;
}

Estimate estimate(const Inputs& in) {
    const auto points = static_cast<double>(in.lattice("points").address_count());
    double seconds = 0;
    for (const Attractor& item : in.held<Attractors>("attractors").items())
        seconds += points * (item.path ? 4e-7 : 2e-9);
    return {points * sizeof(double) * (in.word("combination") == "all" ? 4 : 1), seconds};
}

Result<Value> make(const Inputs& in, const Run& run) {
    Result<DistanceRule> rule = rule_of(in);
    if (!rule) return rule.error();
    PointLattice points = in.lattice("points");
    const auto add = [&](const std::string& name) -> Status {
        Result<Field> field =
            distance_field(in.lattice("points"), in.held<Attractors>("attractors"), *rule, run);
        if (!field) return field.error();
        field->name = name;
        points = points.with_field(*std::move(field));
        return Done{};
    };
    if (in.word("combination") == "all")
        for (const auto& [word, combination] : combinations) {
            if (combination == Combination::nearest) continue;  // the one in hand
            rule->combination = combination;
            if (Status added = add(in.result_name() + "_" + word); !added) return added.error();
        }
    if (in.word("combination") == "all") rule->combination = Combination::nearest;
    if (Status added = add(in.result_name()); !added) return added.error();
    return Value(FieldOnPoints{std::move(points), in.result_name()});
}

// Distances to the nearest one against its response.
Result<ResponseNumbers> through_response(const Inputs& in, const Run& run) {
    Result<DistanceRule> rule = rule_of(in);
    if (!rule) return rule.error();
    const Result<Field> distances = distance_field(in.lattice("points"), in.held<Attractors>("attractors"),
                                                   {Combination::nearest, Response::distance, 1}, run);
    if (!distances) return distances.error();
    std::vector<double> shares = present_numbers(in.lattice("points"), Column(distances->values));
    for (double& share : shares)
        share = std::abs(share);
    const bool plain = rule->shaping.response == Response::distance;
    // The distance itself has no reach: it goes from nothing to the farthest point.
    const double farthest = shares.empty() ? 0 : std::ranges::max(shares);
    const double reach = !plain ? rule->reach : farthest > 0 ? farthest : 1;
    for (double& share : shares)
        share /= reach;
    ResponseNumbers result = flow_of(shares, plain ? Shaping(Response::straight) : rule->shaping);
    result.in_high = reach;
    result.in_dimension = a_length;
    if (plain) {
        result.out_high = reach;
        result.out_dimension = a_length;
    }
    return result;
}

}  // namespace

StepKind measure_distance() {
    return {
        .key = "field.distance",
        .verb = "Measure distance to attractors",
        .synonyms = "field falloff response proximity near far influence",
        .sentence =
            "Measure how far each point of {points} is from the {combination} of {attractors}; let it answer "
            "as {response}" +
            waves_text() +
            "[response=straight,half_sine,sine_hump,waves,smooth_step,inverse,inverse_square,bell,drawn| "
            "within {reach}].",
        .slots = with_wave_slots(
            {reference_slot("points", "Points", {Kind::points}),
             choice_slot("combination", "Combination",
                         {{"nearest", "nearest", "the one with the smallest distance over weight"},
                          {"average", "average", "weighted mean of the answers"},
                          {"sum", "sum", "weighted sum of the answers"},
                          {"product", "product", "product of the answers to the power of their weights"},
                          {"all", "nearest, average, sum and product", "each as a field of its own"}}),
             reference_slot("attractors", "Attractors", {Kind::attractors}),
             response_slot("response", "Response",
                           {{"distance", "the distance itself", "a length, without limit"},
                            {"straight", "a straight rise", "0 at the attractor, 1 from the reach on"},
                            rise_word("from 0 to 1 at the reach, soft at both ends"),
                            hump_word("from 0 to 1 half way to the reach, and back to 0 at it"),
                            waves_word(),
                            {"smooth_step", "a smooth step", "from 0 to 1 at the reach, cubic"},
                            {"inverse", "the inverse", "1 at the attractor, a half at the reach"},
                            {"inverse_square", "the inverse square",
                             "1 at the attractor, a half at the reach, steeper beyond"},
                            {"bell", "a bell", "1 at the attractor, three standard deviations to the reach"},
                            {"drawn", "drawn", "a curve of your own, from the attractor to the reach"}}),
             length_above_zero_slot("reach", "Reach", "12 m")}),
        .results = {Kind::field},
        .result_name = "reach",
        .help =
            "A number on each point from its distance to attractors. The response shapes it; none of them "
            "divides by the distance, so an attractor may stand on a point. A negative weight turns an "
            "attractor's answer round.",
        .bears_name = true,
        .estimate = estimate,
        .make = make,
        .contexts = {{"response", context(through_response)}},
    };
}

}  // namespace plume

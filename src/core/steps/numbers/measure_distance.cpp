#include <algorithm>
#include <cmath>

#include "core/geometry/numbers/distance.hpp"
#include "core/steps/numbers/response_words.hpp"
#include "core/study/told_number.hpp"

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

// How far an attractor is from one point.
double distance_to(const Attractor& attractor, Vec3 place) {
    PointLattice::Parts alone_there;
    alone_there.arrangement = Arrangement::scatter;
    alone_there.counts = {1, 1, 1};
    alone_there.x = Doubles{place.x};
    alone_there.y = Doubles{place.y};
    alone_there.z = Doubles{place.z};
    const auto point = PointLattice::make(std::move(alone_there));
    Attractor plain = attractor;
    plain.weight = 1;
    const auto alone = Attractors::make({std::move(plain)});
    if (!point || !alone) return std::nan("");
    const auto field = distance_field(*point, *alone, {Combination::nearest, Response::distance, 1}, Run());
    return field ? field->values[0] : std::nan("");
}

constexpr std::size_t most_told = 4;

// "north, 9.3 m away, weight 2; within 12 m that is t = 0.78, answered by 0.43".
PartStory story(const Inputs& in, const Value& /*made*/, PartRef part) {
    const Result<DistanceRule> rule = rule_of(in);
    if (!rule) return {};
    const std::vector<Attractor>& all = in.held<Attractors>("attractors").items();
    std::vector<std::pair<double, std::size_t>> felt;  // distance over weight, and which
    const Vec3 place = in.lattice("points").point(part.number);
    for (std::size_t at = 0; at < all.size(); ++at)
        felt.emplace_back(distance_to(all[at], place) / std::abs(all[at].weight), at);
    std::ranges::sort(felt);
    const bool nearest = in.word("combination") == "nearest";
    PartStory story{{}, {{{"points", part}}}};
    for (std::size_t at = 0; at < felt.size() && at < (nearest ? 1 : most_told); ++at) {
        const auto& [apart, which] = felt[at];
        const Attractor& attractor = all[which];
        const double distance = apart * std::abs(attractor.weight);
        std::string line = (nearest ? "the nearest is " : "") + attractor.name + ", " +
                           told_number({distance, a_length}, in.units()) + " away";
        if (attractor.weight != 1) line += ", weight " + told_number(attractor.weight);
        if (rule->shaping.response != Response::distance) {
            const double share = (nearest ? apart : distance) / rule->reach;
            line += "; within " + told_number({rule->reach, a_length}, in.units()) +
                    " that is t = " + told_number(share) + ", answered by " +
                    told_number(answer_to(rule->shaping, share));
        }
        story.lines.push_back(std::move(line));
        story.origins->push_back({"attractors", {PartSort::item, which}});
    }
    if (!nearest && felt.size() > most_told)
        story.lines.push_back("and " + std::to_string(felt.size() - most_told) + " farther ones");
    return story;
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
        .story = story,
    };
}

}  // namespace plume

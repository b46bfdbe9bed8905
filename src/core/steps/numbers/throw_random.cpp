#include <cmath>

#include "core/base/numbers.hpp"
#include "core/base/parallel.hpp"
#include "core/base/text.hpp"
#include "core/data/address_text.hpp"
#include "core/formula/expression.hpp"
#include "core/geometry/numbers/random_field.hpp"
#include "core/steps/numbers/quantity_range.hpp"
#include "core/steps/numbers/response_words.hpp"

namespace plume {
namespace {

struct Choices {
    std::vector<WeightedChoice> list;
    Dimension dimension;
};

// "0.3 m : 2; 0.5 m : 1": values, each with a weight behind a colon or without.
Result<Choices> choices_of(const Inputs& in) {
    Choices choices;
    const Scope scope{
        in.units(), [](std::string_view) { return std::optional<Quantity>(); }, {}, in.text_units()};
    for (const std::string_view item : words_between(in.word("choices"), ";\n")) {
        if (item.find_first_not_of(" \t\r") == std::string_view::npos) continue;
        const std::size_t colon = std::min(item.find(':'), item.size());
        const Result<Quantity> value = evaluate(item.substr(0, colon), scope);
        if (!value) return about_slot(value.error(), "choices");
        double weight = 1;
        if (colon < item.size()) {
            const Result<double> read = evaluate_as(plain_number, item.substr(colon + 1), scope);
            if (!read) return about_slot(read.error(), "choices");
            weight = *read;
        }
        if (!(weight > 0))
            return about_slot(Error{ErrorCode::out_of_range, "",
                                    "have a weight that is not above 0: ‘" + std::string(item) + "’",
                                    "Type a positive weight behind the colon, or leave the choice out."},
                              "choices");
        if (!choices.list.empty() && value->dimension != choices.dimension)
            return about_slot(Error{ErrorCode::unit_mismatch, "",
                                    "mix " + dimension_name(choices.dimension, in.units()) + " with " +
                                        dimension_name(value->dimension, in.units()),
                                    "Give all the same unit."},
                              "choices");
        choices.dimension = value->dimension;
        choices.list.push_back({value->value, weight});
    }
    if (choices.list.empty())
        return about_slot(
            Error{ErrorCode::empty_input, "", "are none", "Type some, as in 0.3 m : 2; 0.5 m : 1."},
            "choices");
    return choices;
}

// What becomes of a share of 0 to 1.
struct Distribution {
    std::function<double(double)> value_of;
    Dimension dimension;
};

Result<Distribution> distribution_of(const Inputs& in, const Shaping& shaping) {
    const std::string& kind = in.word("distribution");
    if (kind == "choice") {
        Result<Choices> choices = choices_of(in);
        if (!choices) return choices.error();
        return Distribution{[list = choices->list](double share) { return chosen(list, share); },
                            choices->dimension};
    }
    if (kind == "normal") {
        const auto both = range_between(in.quantity("mean"), in.quantity("deviation"), "Mean", in.units());
        if (!both) return about_slot(both.error(), "mean");
        if (both->to < 0)
            return about_slot(Error{ErrorCode::out_of_range, "", "may not be below 0", "Type 0 or more."},
                              "deviation");
        // A share of exactly 0 would be minus infinity.
        return Distribution{[mean = both->from, deviation = both->to](double share) {
                                return mean + deviation * inverse_normal(std::max(share, 0x1p-54));
                            },
                            both->dimension};
    }
    if (kind == "whole") {
        const double low = in.number("low_count"), high = in.number("high_count");
        if (!(low <= high))
            return about_slot(Error{ErrorCode::out_of_range, "", "is below the smallest", "Turn them round."},
                              "high_count");
        if (low != std::floor(low) || high != std::floor(high))
            return about_slot(
                Error{ErrorCode::bad_number, "", "and largest have to be whole numbers", "Round them."},
                "low_count");
        return Distribution{[low, many = high - low + 1](double share) {
                                return low + std::min(std::floor(share * many), many - 1);
                            },
                            plain_number};
    }
    const auto range = range_between(in.quantity("low"), in.quantity("high"), "Smallest", in.units());
    if (!range) return about_slot(range.error(), "low");
    return Distribution{[low = range->from, width = range->to - range->from, shaping](double share) {
                            respond(shaping, 1, {&share, 1});
                            return low + width * share;
                        },
                        range->dimension};
}

Result<Shaping> shaping_here(const Inputs& in) {
    return in.has("response") ? shaping_in(in) : Result<Shaping>(Shaping(Response::straight));
}

Estimate estimate(const Inputs& in) {
    const auto points = static_cast<double>(in.lattice("points").address_count());
    return {points * sizeof(double), points * 6e-8};
}

Result<Value> make(const Inputs& in, const Run& run) {
    const PointLattice& points = in.lattice("points");
    const Result<Shaping> shaping = shaping_here(in);
    if (!shaping) return shaping.error();
    const Result<Distribution> distribution = distribution_of(in, *shaping);
    if (!distribution) return distribution.error();
    Result<Doubles> shares = random_shares(points, static_cast<std::uint64_t>(in.number("seed")), run);
    if (!shares) return shares.error();
    const bool finished =
        parallel_blocks(shares->size(), usual_block, run, [&](std::size_t begin, std::size_t end) {
            for (std::size_t index = begin; index < end; ++index)
                (*shares)[index] = distribution->value_of((*shares)[index]);
        });
    if (!finished) return cancelled_error();
    Field field{in.result_name(), *std::move(shares), distribution->dimension};
    return Value(FieldOnPoints{points.with_field(std::move(field)), in.result_name()});
}

Result<ResponseNumbers> through_response(const Inputs& in, const Run& run) {
    const Result<Shaping> shaping = shaping_in(in);
    if (!shaping) return shaping.error();
    const auto range = range_between(in.quantity("low"), in.quantity("high"), "Smallest", in.units());
    if (!range) return about_slot(range.error(), "low");
    const PointLattice& points = in.lattice("points");
    Result<Doubles> shares = random_shares(points, static_cast<std::uint64_t>(in.number("seed")), run);
    if (!shares) return shares.error();
    ResponseNumbers result = flow_of(present_numbers(points, *std::move(shares)), *shaping);
    result.out_low = range->from;
    result.out_high = range->to;
    result.out_dimension = range->dimension;
    return result;
}

PartStory story(const Inputs& in, const Value& /*made*/, PartRef part) {
    return {{"thrown for the address " + address_text(in.lattice("points"), part.number) + " from seed " +
             short_text(in.number("seed"), 12)}};
}

}  // namespace

StepKind throw_random() {
    return {
        .key = "field.random",
        .verb = "Throw random numbers",
        .synonyms = "random seed uniform normal gauss integer choice dice jitter vary",
        .sentence =
            "Throw a random number for each point of {points}, {distribution} "
            "[distribution=uniform|{low} … {high}, answering {response}]" +
            waves_text("distribution=uniform") +
            "[distribution=normal|{mean} ± {deviation}][distribution=whole|{low_count} … {high_count}]"
            "[distribution=choice|{choices}], from seed {seed}.",
        .slots = with_wave_slots(
            {reference_slot("points", "Points", {Kind::points, Kind::field}),
             choice_slot("distribution", "Distribution",
                         {{"uniform", "evenly from", "any number between two"},
                          {"normal", "about", "a normal distribution: mean and standard deviation"},
                          {"whole", "whole from", "whole numbers, both ends among them"},
                          {"choice", "one of", "given numbers, each with a weight"}}),
             quantity_slot("low", "Smallest", "0 m"), quantity_slot("high", "Largest", "1 m"),
             share_response_slot(), quantity_slot("mean", "Mean", "1 m"),
             quantity_slot("deviation", "Deviation", "0.2 m"), number_slot("low_count", "Smallest", "1"),
             number_slot("high_count", "Largest", "6"),
             text_slot("choices", "Choices", "0.3 m : 2; 0.5 m : 1"), seed_slot("seed", "Seed", "1")}),
        .results = {Kind::field},
        .result_name = "chance",
        .help =
            "A random number on each point. The seed names the throw: the same seed gives the same numbers, "
            "always. "
            "A control as the seed is shared by all steps that name it. N is another throw, P the one "
            "before.",
        .bears_name = true,
        .estimate = estimate,
        .make = make,
        .contexts = {{"response", context(through_response)}},
        .story = story,
    };
}

}  // namespace plume

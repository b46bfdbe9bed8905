#include "core/geometry/parts/address_list.hpp"
#include "core/steps/parts/kept_points.hpp"

namespace plume {
namespace {

Result<Value> make(const Inputs& in, const Run& run) {
    Result<NamedAddresses> named = named_addresses(in.word("addresses"), in.lattice("points"));
    if (!named) return about_slot(named.error(), "addresses");
    if (named->missing > 0)
        run.remark_loss(std::to_string(named->missing) +
                        (named->missing == 1 ? " address is" : " addresses are") +
                        " not in these points, the first being ‘" + named->first_missing +
                        "’; it counts again when it is.");
    if (in.word("side") == "without") turn_over(named->mask);
    return kept(in, named->mask, "None of these addresses is left in the points",
                "Name others, or pick points in the model.");
}

}  // namespace

StepKind keep_addresses() {
    return {
        .key = "points.keep_addresses",
        .verb = "Keep points by address",
        .synonyms = "pick select indices list range choose by hand remove",
        .sentence = "Keep the points of {points} {side} {addresses}, and {gaps}.",
        .slots = {reference_slot("points", "Points", {Kind::points, Kind::field}),
                  choice_slot("side", "Side", {{"at", "at", ""}, {"without", "other than", ""}}),
                  addresses_slot("addresses", "Addresses", "0,0"), gaps_slot()},
        .results = {Kind::points},
        .result_name = "picked",
        .help =
            "Points by their address: 3,2 is i 3, j 2; 2..5,0 a range; *,3 a whole row; -1,0 counts from the "
            "end. Picked "
            "in the model they are addresses, too, and stay what they are when the counts change.",
        .estimate = kept_estimate,
        .make = make,
    };
}

}  // namespace plume

#include <algorithm>

#include "core/base/text.hpp"
#include "core/data/part_counts.hpp"
#include "core/geometry/parts/subset.hpp"
#include "core/study/slots/picked_names.hpp"
#include "core/study/step_kind.hpp"

namespace plume {
namespace {

const PartTree* tree_of(const Inputs& in) {
    return in.held<Placements>("placements").tree().get();
}

Error did_not_grow() {
    return about_slot(Error{ErrorCode::wrong_kind, "", "did not grow, so that they bear no names",
                            "Choose what ‘Grow parts by rules’ made."},
                      "placements");
}

Result<Offers> offers_of_names(const Inputs& in) {
    const PartTree* tree = tree_of(in);
    if (!tree) return did_not_grow();
    const std::vector<std::size_t> counts = counts_by_name(*tree);
    Offers offers;
    for (std::size_t name = 0; name < counts.size(); ++name)
        offers.offers.push_back({tree->part_names[name], count_text(counts[name], "part", "parts")});
    return offers;
}

// Of each part, whether it bears one of the names; all where none is picked.
std::vector<std::uint8_t> named_mask(const PartTree& tree, const std::vector<std::string>& wanted,
                                     const Run& run) {
    std::vector<std::uint8_t> of_name(tree.part_names.size(), wanted.empty() ? 1 : 0);
    for (const std::string& name : wanted) {
        const auto found = std::ranges::find(tree.part_names, name);
        if (found == tree.part_names.end())
            run.remark_loss("No part is called ‘" + name + "’; it counts again when one is.");
        else
            of_name[static_cast<std::size_t>(found - tree.part_names.begin())] = 1;
    }
    std::vector<std::uint8_t> mask(tree.names.size());
    std::ranges::transform(tree.names, mask.begin(), [&](std::uint16_t name) { return of_name[name]; });
    return mask;
}

Result<Value> make(const Inputs& in, const Run& run) {
    const auto& placements = in.held<Placements>("placements");
    const PartTree* tree = tree_of(in);
    if (!tree) return did_not_grow();
    const std::string& side = in.word("side");
    std::vector<std::uint8_t> mask =
        side == "ends" ? ends_among(tree->parents) : named_mask(*tree, picked_names(in.word("names")), run);
    if (side == "without")
        std::ranges::transform(mask, mask.begin(),
                               [](std::uint8_t kept) { return kept ? std::uint8_t{0} : std::uint8_t{1}; });
    PointLattice kept = with_gaps(placements.origins(), mask);
    if (kept.point_count() == 0)
        return about_slot(Error{ErrorCode::empty_input, "", "leave no part", "Choose other names."},
                          side == "ends" ? "placements" : "names");
    return Value(placements.with_origins(std::move(kept)));
}

}  // namespace

StepKind keep_named_parts() {
    return {
        .key = "growth.keep",
        .verb = "Keep some of what grew",
        .synonyms = "select filter grown parts branch leaf tip only",
        .sentence = "Keep of {placements} {side}[side=at,without| {names}].",
        .slots = {reference_slot("placements", "Placements", {Kind::placements}),
                  choice_slot("side", "Side",
                              {{"at", "the parts called", ""},
                               {"without", "all but the parts called", ""},
                               {"ends", "the ends", "the parts that nothing came of"}}),
                  picks_slot("names", "Names", "anything")},
        .results = {Kind::placements},
        .result_name = "kept",
        .help =
            "The parts of some names out of what grew, or its ends, so that something can be copied to these "
            "alone. The others are gaps: what is left knows still what it came of.",
        .estimate =
            [](const Inputs& in) {
                const auto parts =
                    static_cast<double>(in.held<Placements>("placements").origins().address_count());
                return Estimate{parts * 2, parts * 1e-8};
            },
        .make = make,
        .contexts = {{"names", context(offers_of_names)}},
    };
}

}  // namespace plume

#include <algorithm>

#include "core/base/text.hpp"
#include "core/data/part_counts.hpp"
#include "core/geometry/parts/mesh_parts.hpp"
#include "core/geometry/parts/subset.hpp"
#include "core/growth/grown_faces.hpp"
#include "core/steps/growth/rules_support.hpp"

namespace plume {
namespace {

const Mesh* mesh_of(const Inputs& in) {
    return std::get_if<Mesh>(&in.value("placements"));
}

const PartTree* tree_of(const Inputs& in) {
    if (const Mesh* mesh = mesh_of(in)) return mesh->part_marks() ? mesh->part_marks()->grown.get() : nullptr;
    return in.held<Placements>("placements").tree().get();
}

Error did_not_grow() {
    return about_slot(Error{ErrorCode::wrong_kind, "", "did not grow, so that they bear no names",
                            "Choose what ‘Grow parts by rules’ or ‘Cut faces by rules’ made."},
                      "placements");
}

// Each name that there is, and how many have it; of faces those that are left.
std::vector<std::size_t> counts_of(const Inputs& in, const PartTree& tree) {
    const Mesh* mesh = mesh_of(in);
    if (!mesh) return counts_by_name(tree);
    std::vector<std::size_t> counts(tree.part_names.size(), 0);
    for (std::size_t part = 0; part < mesh->part_count(); ++part) {
        const auto name = std::ranges::find(tree.part_names, name_in_mark(mesh->part_mark(part)));
        const auto [begin, end] = mesh->part(part);
        if (name != tree.part_names.end())
            counts[static_cast<std::size_t>(name - tree.part_names.begin())] += end - begin;
    }
    return counts;
}

Result<Offers> offers_of_names(const Inputs& in) {
    const PartTree* tree = tree_of(in);
    if (!tree) return did_not_grow();
    const std::vector<std::size_t> counts = counts_of(in, *tree);
    const bool faces = mesh_of(in) != nullptr;
    Offers offers;
    for (std::size_t name = 0; name < counts.size(); ++name)
        offers.offers.push_back({tree->part_names[name], count_text(counts[name], faces ? "face" : "part",
                                                                    faces ? "faces" : "parts")});
    return offers;
}

// Of each part, whether it is called so.
std::vector<std::uint8_t> named_mask(const Inputs& in, const PartTree& tree,
                                     const std::vector<std::uint8_t>& wanted) {
    if (const Mesh* mesh = mesh_of(in)) {
        std::vector<std::uint8_t> mask(mesh->part_count(), 0);
        for (std::size_t part = 0; part < mask.size(); ++part) {
            const auto name = std::ranges::find(tree.part_names, name_in_mark(mesh->part_mark(part)));
            if (name != tree.part_names.end())
                mask[part] = wanted[static_cast<std::size_t>(name - tree.part_names.begin())];
        }
        return mask;
    }
    std::vector<std::uint8_t> mask(tree.names.size());
    std::ranges::transform(tree.names, mask.begin(), [&](std::uint16_t name) { return wanted[name]; });
    return mask;
}

Error leaves_nothing(const std::string& slot) {
    return about_slot(Error{ErrorCode::empty_input, "", "leave no part", "Choose other names."}, slot);
}

Result<Value> make(const Inputs& in, const Run& run) {
    const PartTree* tree = tree_of(in);
    if (!tree) return did_not_grow();
    const Mesh* mesh = mesh_of(in);
    const std::string& side = in.word("side");
    const bool ends = side == "ends";
    if (ends && mesh) return in.value("placements");
    std::vector<std::uint8_t> mask =
        ends ? ends_among(tree->parents)
             : named_mask(in, *tree, wanted_names(tree->part_names, in.word("names"), run));
    if (side == "without")
        std::ranges::transform(mask, mask.begin(),
                               [](std::uint8_t kept) { return kept ? std::uint8_t{0} : std::uint8_t{1}; });
    if (mesh) {
        if (std::ranges::count(mask, 1) == 0) return leaves_nothing("names");
        return Value(with_parts(*mesh, mask));
    }
    const auto& placements = in.held<Placements>("placements");
    PointLattice kept = with_gaps(placements.origins(), mask);
    if (kept.point_count() == 0) return leaves_nothing(ends ? "placements" : "names");
    return Value(placements.with_origins(std::move(kept)));
}

Estimate estimate(const Inputs& in) {
    if (const Mesh* mesh = mesh_of(in)) {
        const auto corners = static_cast<double>(mesh->corner_count());
        return {corners * 60, corners * 5e-8};
    }
    const auto parts = static_cast<double>(in.held<Placements>("placements").origins().address_count());
    return {parts * 2, parts * 1e-8};
}

}  // namespace

StepKind keep_named_parts() {
    return {
        .key = "growth.keep",
        .verb = "Keep some of what grew",
        .synonyms = "select filter grown parts branch leaf tip only faces tiles",
        .sentence = "Keep of {placements} {side}[side=at,without| {names}].",
        .slots = {reference_slot("placements", "What grew", {Kind::placements, Kind::mesh}),
                  choice_slot("side", "Side",
                              {{"at", "the parts called", ""},
                               {"without", "all but the parts called", ""},
                               {"ends", "the ends", "the parts that nothing came of; faces are all such"}}),
                  picks_slot("names", "Names", "anything")},
        .results = {Kind::placements, Kind::mesh},
        .result_name = "kept",
        .help =
            "The parts of some names out of what grew, or its ends, so that something can be copied to these "
            "alone; of faces that were cut by rules those of some names. Of parts the others are gaps: what "
            "is left knows still what it came of.",
        .estimate = estimate,
        .make = make,
        .contexts = {{"names", context(offers_of_names)}},
    };
}

}  // namespace plume

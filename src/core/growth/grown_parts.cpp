#include "core/growth/grown_parts.hpp"

#include <algorithm>

#include "core/data/part_counts.hpp"
#include "core/growth/descent_text.hpp"

namespace plume {
namespace {

// Of each part, whether it is kept; empty of all.
std::vector<std::uint8_t> kept_mask(const Population& parts, KeptParts kept) {
    if (kept == KeptParts::all) return {};
    if (kept == KeptParts::ends) return ends_among(parts.parents);
    std::vector<std::uint8_t> mask(parts.size(), 0);
    std::fill(mask.begin() + static_cast<std::ptrdiff_t>(parts.last_begin()), mask.end(), std::uint8_t{1});
    return mask;
}

// Everything that telling a line of descent needs.
struct Origin {
    std::shared_ptr<const GrowthRules> rules;
    GrowthStart start;
    Surroundings around;
    Units units;
    Column numbers;
};

std::vector<std::string> descent_of(const PartTree& tree, std::size_t address, const Origin& origin) {
    std::vector<std::size_t> numbers;
    while (tree.parents[address] != PartTree::none) {
        numbers.push_back(static_cast<std::size_t>(origin.numbers[address]));
        address = tree.parents[address];
    }
    std::ranges::reverse(numbers);
    const auto ancestors = retraced(*origin.rules, origin.start, address, numbers, origin.around, Run());
    return ancestors ? descent_texts(*ancestors, *origin.rules, origin.units, a_length)
                     : std::vector<std::string>();
}

}  // namespace

Field depth_field(const Population& parts) {
    Doubles depths(parts.size());
    for (std::size_t generation = 0; generation + 1 < parts.generations.size(); ++generation)
        std::fill(depths.begin() + static_cast<std::ptrdiff_t>(parts.generations[generation]),
                  depths.begin() + static_cast<std::ptrdiff_t>(parts.generations[generation + 1]),
                  static_cast<double>(generation));
    return {"depth", std::move(depths), plain_number};
}

std::shared_ptr<PartTree> tree_of(Grown& grown, const GrowthRules& rules) {
    Population& parts = grown.parts;
    auto tree = std::make_shared<PartTree>();
    tree->parents = std::move(parts.parents);
    tree->names = std::move(parts.names);
    tree->lines = std::move(parts.lines);
    tree->generations = std::move(parts.generations);
    tree->part_names = rules.parts;
    tree->line_texts = rules.line_texts;
    tree->next = grown.next;
    return tree;
}

Result<Placements> grown_parts(Grown grown, std::shared_ptr<const GrowthRules> rules, GrowthStart start,
                               Surroundings around, const Units& units, KeptParts kept) {
    Population& parts = grown.parts;
    std::vector<std::uint8_t> present = kept_mask(parts, kept);
    const Column numbers(std::move(parts.numbers));
    std::vector<Field> fields{
        depth_field(parts), {"number", numbers, plain_number}, {"size", std::move(parts.sizes), a_length}};
    for (std::size_t value = 0; value < rules->values.size(); ++value)
        fields.push_back(
            {rules->values[value].name, std::move(parts.values[value]), rules->values[value].dimension});
    for (std::size_t field = 0; field < rules->fields.size(); ++field)
        fields.push_back(
            {rules->fields[field].name, std::move(parts.fields[field]), rules->fields[field].dimension});
    if (!parts.sides.empty()) {
        Doubles mirrored(parts.sides.size());
        std::ranges::transform(parts.sides, mirrored.begin(),
                               [](std::int8_t side) { return side < 0 ? 1.0 : 0.0; });
        fields.push_back({"mirrored", std::move(mirrored), plain_number});
    }
    auto tree = tree_of(grown, *rules);
    auto origin = std::make_shared<const Origin>(
        Origin{std::move(rules), std::move(start), std::move(around), units, numbers});
    tree->descent = [origin, weak = std::weak_ptr<const PartTree>(tree)](std::size_t address) {
        const auto known = weak.lock();
        return known ? descent_of(*known, address, *origin) : std::vector<std::string>();
    };
    return placed_parts(std::move(parts.placements), std::move(fields), std::move(present), std::move(tree));
}

Result<Placements> placed_parts(std::vector<Placement> placements, std::vector<Field> fields,
                                std::vector<std::uint8_t> present, PartTreePointer tree) {
    PointLattice::Parts lattice;
    lattice.arrangement = Arrangement::scatter;
    lattice.counts = {placements.size(), 1, 1};
    lattice.present = std::move(present);
    // Placements::make() writes the coordinates; any column of the length does until then.
    lattice.x = lattice.y = lattice.z = fields.front().values;
    lattice.fields = std::move(fields);
    const auto points = PointLattice::make(std::move(lattice));
    if (!points) return points.error();
    return Placements::make(*points, std::move(placements), std::move(tree));
}

}  // namespace plume

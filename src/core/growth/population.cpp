#include "core/growth/population.hpp"

#include <algorithm>

namespace plume {
namespace {

// The entries from `first` on that are kept, moved together.
template <class Column>
void keep_in(Column& column, std::size_t first, const std::vector<std::uint8_t>& kept) {
    if (column.empty()) return;
    std::size_t to = first;
    for (std::size_t at = 0; at < kept.size(); ++at)
        if (kept[at]) column[to++] = column[first + at];
    column.resize(to);
}

}  // namespace

void Population::reserve(std::size_t count) {
    placements.reserve(count);
    names.reserve(count);
    lines.reserve(count);
    parents.reserve(count);
    sizes.reserve(count);
    numbers.reserve(count);
    for (Doubles& value : values)
        value.reserve(count);
}

void Population::add(std::size_t count) {
    const std::size_t now = size() + count;
    // Generations grow: a third one like this has room, so that what stands is copied less often.
    if (now > placements.capacity()) reserve(std::max(now + 2 * count, 2 * placements.capacity()));
    placements.resize(now);
    if (!sides.empty()) sides.resize(now);
    names.resize(now);
    lines.resize(now);
    parents.resize(now);
    sizes.resize(now);
    numbers.resize(now);
    for (Doubles& value : values)
        value.resize(now);
}

void Population::keep(const std::vector<std::uint8_t>& kept) {
    const std::size_t first = last_begin();
    keep_in(placements, first, kept);
    keep_in(sides, first, kept);
    keep_in(names, first, kept);
    keep_in(lines, first, kept);
    keep_in(parents, first, kept);
    keep_in(sizes, first, kept);
    keep_in(numbers, first, kept);
    for (Doubles& value : values)
        keep_in(value, first, kept);
    keep_in(identities, 0, kept);
    keep_in(siblings, 0, kept);
    generations.back() = size();
}

double bytes_of_part(const GrowthRules& rules) {
    // Placement, its origin again as columns, the tree, depth, number and size, and what the last generation
    // needs beside it.
    const double fixed = sizeof(Placement) + 3 * sizeof(double) + bytes_in_tree + 3 * sizeof(double) + 40;
    return fixed + static_cast<double>(sizeof(double) * (rules.values.size() + rules.fields.size()));
}

}  // namespace plume

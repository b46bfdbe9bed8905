#include "core/steps/moves/copy_story.hpp"

#include "core/study/parts_within.hpp"

namespace plume {
namespace {

// How many parts of a sort there are; 0 of what is put together anew when it is copied.
std::size_t count_of(const Value& value, PartSort sort) {
    if (sort != PartSort::item) return count_within(value, sort);
    if (const auto* mesh = std::get_if<Mesh>(&value)) return mesh->part_count();
    if (const auto* set = std::get_if<SurfaceSet>(&value)) return set->patches.size();
    if (const auto* set = std::get_if<CurveSet>(&value)) return set->curves.size();
    if (const auto* set = std::get_if<SolidSet>(&value)) return set->bodies.size();
    if (const auto* attractors = std::get_if<Attractors>(&value)) return attractors->items().size();
    if (std::holds_alternative<BarFrame>(value)) return 0;
    const PointLattice* lattice = lattice_of(value);
    return lattice ? lattice->address_count() : 0;
}

}  // namespace

std::optional<CopyOf> copy_of(const Value& thing, const Value& made, PartRef part) {
    const std::size_t one = count_of(thing, part.sort), all = count_of(made, part.sort);
    if (one == 0 || all % one != 0) return {};
    return CopyOf{part.number / one, all / one, {part.sort, part.number % one}};
}

std::string copy_text(const CopyOf& copy) {
    return "copy " + std::to_string(copy.copy + 1) + " of " + std::to_string(copy.copies);
}

}  // namespace plume

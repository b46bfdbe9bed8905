#pragma once
// Things whose places go wherever a map takes them: laid onto surfaces, along curves, back to the plane.

#include <functional>
#include <optional>

#include "core/study/step_kind.hpp"

namespace plume {

// The kinds of results that can be mapped.
std::vector<Kind> mapped_kinds();

struct ThingMap {
    // Where a place comes to lie, if anywhere; asked on several threads.
    std::function<std::optional<Vec3>(Vec3)> place;
    double size = 1;    // of what it maps onto; curves come true to 1e-7 of it
    std::string where;  // what is missed, as in "lies beside the rectangle"
    std::string mend;   // "Make the rectangle larger, or move it."
};

// Points that miss become gaps, which is remarked; anything else that does is refused. Vertices of meshes go
// where they go and faces stay flat between them; how far their middles stand off is remarked. Bodies become
// meshes first. Directions and axes of placements turn as the map does around them. Errors: at the slot
// `thing`; cancelled.
Result<Value> mapped_thing(const Value& thing, const ThingMap& map, const Inputs& in, const Run& run);

// How many places of points or a mesh a map is asked about.
std::size_t mapped_place_count(const Value& thing);

// Of a thing whose places take so many seconds each, curves `poles` more for what they cross.
Estimate mapped_estimate(const Value& thing, double seconds_a_place, double poles);

}  // namespace plume

#pragma once
// What parts of a building results can be.

#include <span>
#include <string>
#include <string_view>

namespace plume {

struct BuildingClass {
    std::string_view key, many, entity;  // "roof", "roofs", "IFCROOF"
};
std::span<const BuildingClass> building_classes();
// nullptr where there is none of that key.
const BuildingClass* find_building_class(std::string_view key);

// Told from a result's name by its words ("north_columns" are columns), else by what it is: members for bars,
// proxies for anything else.
const BuildingClass& usual_building_class(std::string_view result, bool is_bars);

}  // namespace plume

#pragma once
// What a part of a result is, in lines: where it is, how far it moved, the numbers it carries that it did not
// carry before.

#include <string>
#include <utility>
#include <vector>

#include "core/base/units.hpp"
#include "core/data/value.hpp"
#include "core/results/items.hpp"
#include "core/study/part_story.hpp"

namespace plume {

// A part it came from.
struct EarlierPart {
    const Value& value;
    PartRef part;
};

// Every number it carries, by name, and what is found out of it: the length of a member.
std::vector<std::pair<std::string, Quantity>> numbers_of(const Value& value, PartRef part);
std::vector<std::pair<std::string, Quantity>> numbers_of(const PointedAt& item);

std::vector<std::string> told_of_part(const Value& value, PartRef part,
                                      const std::vector<EarlierPart>& earlier, const Units& units);

}  // namespace plume

#pragma once
// Curved shapes of an IFC file as the STEP file that has the same ones, entity by entity: both stand on ISO
// 10303-42.

#include <map>
#include <set>
#include <string>
#include <vector>

namespace plume {

// `lines`: of the IFC file's data, "#12=IFCPLANE(#11)" each. A part for each name, of the items with these
// numbers and all that they name.
std::string curved_text(const std::vector<std::string>& lines,
                        const std::map<std::string, std::set<int>>& items, double metres_per_unit);

}  // namespace plume

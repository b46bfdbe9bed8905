#pragma once
// The parts of a received model by storey, class and material, with what they come to.

#include "core/data/box.hpp"
#include "core/receiving/received_model.hpp"

namespace plume {

enum class GroupBy { storey, building_class, material };
std::string_view plain_name(GroupBy by);  // "storey", "class", "material"

// "columns", by the class of building_classes(); of others the entity's name without "Ifc".
std::string class_name(const BuildingElement& element);
std::string storey_name(const BuildingElement& element);    // or "on no storey"
std::string material_name(const BuildingElement& element);  // or "no material"

// "columns, Oak, Ground"; "12.5 m²" or a text; "2.4 m³", or "–" where there is none; "from roof.ifc".
std::string description_of(const BuildingElement& element);
std::string value_text(const BuildingProperty& property);
std::string figure_text(std::optional<double> figure, Dimension dimension);
std::string origin_text(const PlacedPart& part);

struct ModelGroup {
    std::string name;
    std::size_t parts = 0;
    // Of those that have one; 0 where none has.
    double area_m2 = 0, volume_m3 = 0, length_m = 0;
    std::vector<ModelGroup> groups;
    std::vector<std::size_t> members;  // of the innermost groups: places in the model's parts
};

// One level for each of `by`, the first outermost; groups and their members in the order of their names.
ModelGroup grouped(const std::vector<Received::Part>& parts, const std::vector<GroupBy>& by);

// "7" comes before "12".
bool comes_before(std::string_view name, std::string_view other);

// Around all shapes, in metres as they are read here.
Box box_of(const std::vector<Received::Part>& parts);

// Sentences about what does not fit together: lengths read in another unit than their file's, volumes that
// are stated and are not those of the shapes, shapes that could not be taken.
std::vector<std::string> doubts_about(const Received& here);

}  // namespace plume

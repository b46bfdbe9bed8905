#pragma once
// Building models from IFC 4 (ISO 16739-1), as whoever receives them sees them: elements where they are
// placed, with their class, storey, material, properties and shape. By libifcplusplus in a process of its own
// (base/helper_program.hpp). Lengths are in metres, areas and volumes in square and cubic ones.
//
// Shapes: triangles, polygons and faceted bodies, outlines pulled along, axes; curved ones (advanced breps
// and shells) as the STEP that says the same, for whoever has a kernel. Openings are not cut out, mapped
// shapes and what is put together of solids are not taken; elements say what they could not bring.

#include <array>
#include <filesystem>
#include <optional>
#include <string>
#include <vector>

#include "core/base/run.hpp"
#include "core/data/material.hpp"
#include "core/data/mesh.hpp"
#include "core/data/vec3.hpp"

namespace plume {

struct BuildingProperty {
    std::string set, name;
    std::optional<Quantity> number;  // in metres, radians
    std::string text;                // where it is none
};

struct BuildingElement {
    std::string identity;  // 22 characters
    std::string entity;    // "IfcColumn"
    std::string name, storey, material;
    std::optional<std::array<double, 3>> colour;  // red, green, blue from 0 to 1
    std::vector<BuildingProperty> properties;     // quantities, too
    std::optional<Mesh> facets;
    std::vector<Vec3> axis;
    // Its shape is the part of this name in the STEP text; `frame` has where that is placed: origin, then the
    // directions along X, Y and Z.
    std::string curved;
    std::array<Vec3, 4> frame{};
    std::string not_taken;  // entities of its shape that cannot be read: "IfcMappedItem"

    // nullptr where it tells none of that set and name.
    const BuildingProperty* property(std::string_view set, std::string_view called) const;
};

struct BuildingFile {
    std::string project;
    double metres_per_unit = 1;  // of lengths in the file
    std::vector<BuildingElement> elements;
    std::string curved_shapes;        // STEP; empty where no element is curved
    std::vector<std::string> losses;  // sentences
};

// Errors: file_missing, file_unreadable where it is no IFC, file_newer where it is of another schema than IFC
// 4, file_too_large, file_damaged, empty_input without an element; broke_off where it broke the library;
// cancelled.
Result<BuildingFile> read_building_file(const std::filesystem::path& path, const Run& run);

// As one process hands it to another.
std::string bytes_of(const Result<BuildingFile>& file);
Result<BuildingFile> building_file_from(std::string_view bytes);

}  // namespace plume

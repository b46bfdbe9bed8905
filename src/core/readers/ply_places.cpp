#include "core/readers/ply_places.hpp"

#include <algorithm>
#include <array>

#include "core/base/unique_names.hpp"

namespace plume {
namespace {

constexpr std::array coordinates = {"x", "y", "z"};
constexpr std::array colours = {"red", "green", "blue", "alpha"};

bool is_any_of(const std::string& name, const auto& names) {
    return std::ranges::find(names, name) != names.end();
}

}  // namespace

std::vector<Field> ply_numbers(const PlyRows& rows, const PlyElement& element) {
    std::vector<Field> fields;
    UniqueNames names;
    for (std::size_t at = 0; at < element.properties.size(); ++at) {
        const PlyProperty& property = element.properties[at];
        if (property.list || is_any_of(property.name, coordinates)) continue;
        Doubles values = rows.columns[at];
        if (property.type == PlyType::uint8 && is_any_of(property.name, colours))
            for (double& value : values)
                value /= 255;
        fields.push_back({names.take(property.name), Column(std::move(values)), plain_number});
    }
    return fields;
}

Result<PlyPlaces> ply_places(PlyRows& rows, const PlyElement& element) {
    PlyPlaces places;
    const std::array<Doubles*, 3> columns = {&places.x, &places.y, &places.z};
    for (std::size_t axis = 0; axis < 3; ++axis) {
        const auto property = std::ranges::find(element.properties, coordinates[axis], &PlyProperty::name);
        if (property == element.properties.end() || property->list)
            return Error{ErrorCode::file_damaged, "",
                         std::string("has vertices without the number ") + coordinates[axis],
                         "Choose a file whose vertices have x, y and z."};
        *columns[axis] = rows.columns[static_cast<std::size_t>(property - element.properties.begin())];
    }
    places.fields = ply_numbers(rows, element);
    return places;
}

}  // namespace plume

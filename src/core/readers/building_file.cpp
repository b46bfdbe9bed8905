#include "core/readers/building_file.hpp"

#include <algorithm>
#include <fstream>

#include "core/base/file.hpp"
#include "core/base/handed_bytes.hpp"
#include "core/base/helper_program.hpp"
#include "core/base/numbers.hpp"

namespace plume {
namespace {

// The library takes some fifty times as much memory.
constexpr std::uintmax_t largest_file = 300'000'000;

Status check_head(const std::filesystem::path& path) {
    if (Status regular = check_regular_file(path); !regular) return regular.error();
    std::error_code problem;
    const std::uintmax_t size = std::filesystem::file_size(path, problem);
    if (problem || size == 0) return Error{ErrorCode::empty_input, "", "is empty", "Write it anew."};
    if (size > largest_file)
        return Error{ErrorCode::file_too_large, "",
                     "is " + bytes_text(static_cast<double>(size)) + ", more than the " +
                         bytes_text(static_cast<double>(largest_file)) + " such a file can have",
                     "Hand off less in one file."};
    std::ifstream stream(path, std::ios::binary);
    std::string head(4096, '\0');
    stream.read(head.data(), static_cast<std::streamsize>(head.size()));
    head.resize(static_cast<std::size_t>(stream.gcount()));
    const std::size_t schema = head.find("FILE_SCHEMA");
    if (head.find("ISO-10303-21") == std::string::npos || schema == std::string::npos ||
        head.find("'IFC", schema) == std::string::npos)
        return Error{ErrorCode::file_unreadable, "", "is no IFC file", "Choose a file of IFC 4."};
    const std::size_t named = head.find("'IFC", schema) + 1;
    const std::string which = head.substr(named, head.find('\'', named) - named);
    if (which != "IFC4")
        return Error{ErrorCode::file_newer, "", "is of the schema " + which.substr(0, 20) + ", not IFC4",
                     "Have it written as IFC 4."};
    return Done{};
}

class Writer : public BytesOut {
public:
    using BytesOut::put;
    void put(Vec3 place) {
        for (const double coordinate : {place.x, place.y, place.z})
            put(coordinate);
    }
    void put(const BuildingProperty& property) {
        for (const std::string* text : {&property.set, &property.name, &property.text})
            put(*text);
        put(property.number.has_value());
        if (!property.number) return;
        put(property.number->value);
        put(static_cast<double>(property.number->dimension.length));
        put(static_cast<double>(property.number->dimension.angle));
    }
    void put(const Mesh& mesh) {
        for (const Column* column : {&mesh.x(), &mesh.y(), &mesh.z()})
            put_numbers(column->data(), column->size());
        put(mesh.parts().first);
        put(mesh.parts().corners);
    }
    void put(const BuildingElement& element) {
        for (const std::string* text : {&element.identity, &element.entity, &element.name, &element.storey,
                                        &element.material, &element.curved, &element.not_taken})
            put(*text);
        put(element.colour.has_value());
        for (std::size_t at = 0; element.colour && at < 3; ++at)
            put((*element.colour)[at]);
        put_all(*this, element.properties);
        put(element.facets.has_value());
        if (element.facets) put(*element.facets);
        put_all(*this, element.axis);
        for (const Vec3 direction : element.frame)
            put(direction);
    }
};

class Reader : public BytesIn {
public:
    using BytesIn::BytesIn;
    Vec3 place() {
        const double x = number(), y = number();
        return {x, y, number()};
    }
    BuildingProperty property() {
        BuildingProperty made;
        for (std::string* into : {&made.set, &made.name, &made.text})
            *into = text();
        if (!flag()) return made;
        const double value = number();
        const auto length = static_cast<std::int16_t>(number());
        made.number = Quantity{value, {length, static_cast<std::int16_t>(number())}};
        return made;
    }
    Mesh mesh() {
        Mesh::Parts parts;
        for (Column* into : {&parts.x, &parts.y, &parts.z})
            *into = Column(numbers<Doubles>());
        parts.first = numbers<std::vector<std::uint32_t>>();
        parts.corners = numbers<std::vector<std::uint32_t>>();
        Result<Mesh> made = Mesh::make(std::move(parts));
        if (!made) throw BrokenBytes{};
        return *std::move(made);
    }
    BuildingElement element() {
        BuildingElement made;
        for (std::string* into : {&made.identity, &made.entity, &made.name, &made.storey, &made.material,
                                  &made.curved, &made.not_taken})
            *into = text();
        if (flag()) {
            made.colour.emplace();
            for (double& part : *made.colour)
                part = number();
        }
        made.properties = list<BuildingProperty>([this] { return property(); });
        if (flag()) made.facets = mesh();
        made.axis = list<Vec3>([this] { return place(); });
        for (Vec3& direction : made.frame)
            direction = place();
        return made;
    }
};

}  // namespace

const BuildingProperty* BuildingElement::property(std::string_view set, std::string_view called) const {
    const auto found = std::ranges::find_if(
        properties, [&](const BuildingProperty& one) { return one.set == set && one.name == called; });
    return found == properties.end() ? nullptr : &*found;
}

Result<BuildingFile> read_building_file(const std::filesystem::path& path, const Run& run) {
    if (Status checked = check_head(path); !checked) return checked.error();
    const Result<std::string> bytes = output_of_helper("plume-building-reader", {path.string()}, run);
    if (!bytes) return bytes.error();
    return building_file_from(*bytes);
}

std::string bytes_of(const Result<BuildingFile>& file) {
    return handed_bytes<Writer>(file, [](Writer& writer, const BuildingFile& whole) {
        writer.put(whole.project);
        writer.put(whole.metres_per_unit);
        put_all(writer, whole.elements);
        writer.put(whole.curved_shapes);
        put_all(writer, whole.losses);
    });
}

Result<BuildingFile> building_file_from(std::string_view bytes) {
    return from_handed_bytes<BuildingFile, Reader>(bytes, [](Reader& reader) {
        BuildingFile made;
        made.project = reader.text();
        made.metres_per_unit = reader.number();
        made.elements = reader.list<BuildingElement>([&reader] { return reader.element(); });
        made.curved_shapes = reader.text();
        made.losses = reader.list<std::string>([&reader] { return reader.text(); });
        return made;
    });
}

}  // namespace plume

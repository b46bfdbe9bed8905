// glTF 2.0 as one binary file (Khronos Group, glTF 2.0 Specification, 2021; ISO/IEC 12113:2022).
//
// Metres, Y up: a node on top turns ours over. Facets are triangles, shaded flat unless they are samples of a
// smooth surface. Every result is a node about its own middle, so that places far from zero stay sharp; parts
// that are one shape, moved, turned and stretched, are nodes that share a mesh.

#include <nlohmann/json.hpp>

#include "core/base/numbers.hpp"
#include "core/base/parallel.hpp"
#include "core/base/text.hpp"
#include "core/exchange/formats.hpp"
#include "core/exchange/gltf_buffer.hpp"
#include "core/exchange/scene.hpp"
#include "core/exchange/shared_parts.hpp"
#include "core/exchange/table_export.hpp"
#include "core/exchange/tally.hpp"
#include "core/geometry/meshes/triangulate.hpp"

namespace plume {
namespace {

using Json = nlohmann::ordered_json;

// Every part is described in words: more of them would be more words than geometry.
constexpr std::size_t most_parts = 20'000;

enum Mode { points = 0, lines = 1, triangles = 4 };

// Entries of a mesh as vertices of a primitive: where colours belong to faces each face has its own.
struct Corners {
    std::vector<std::uint32_t> vertices;  // of the mesh; empty: as they are
    GltfBuffer::Kept<std::uint32_t> triangles;
};

std::size_t triangle_count(const Mesh& mesh) {
    return mesh.corner_count() - 2 * mesh.face_count();
}

GltfBuffer::Array<std::uint32_t> triangles_of(const Mesh& mesh) {
    GltfBuffer::Array<std::uint32_t> corners(3 * triangle_count(mesh));
    parallel_blocks(mesh.face_count(), 4096, Run(), [&](std::size_t begin, std::size_t end) {
        std::uint32_t* to = corners.data() + 3 * (mesh.parts().first[begin] - 2 * begin);
        for (std::size_t face = begin; face < end; ++face) {
            const auto around = mesh.face(face);
            for_each_triangle(mesh, face, [&](std::uint32_t a, std::uint32_t b, std::uint32_t c) {
                *to++ = around[a];
                *to++ = around[b];
                *to++ = around[c];
            });
        }
    });
    return corners;
}

// Those of a mesh of triangles stand in it as they are to be written.
Corners shared_corners(const Mesh& mesh) {
    if (mesh.corner_count() != 3 * mesh.face_count())
        return {{}, GltfBuffer::Kept<std::uint32_t>(triangles_of(mesh))};
    const auto kept = std::make_shared<const Mesh>(mesh);
    return {{}, {kept, kept->parts().corners}};
}

Corners corners_of_faces(const Mesh& mesh) {
    GltfBuffer::Array<std::uint32_t> triangles;
    triangles.reserve(3 * triangle_count(mesh));
    for (std::size_t face = 0; face < mesh.face_count(); ++face)
        for_each_triangle(mesh, face, [&](std::uint32_t a, std::uint32_t b, std::uint32_t c) {
            for (const std::uint32_t corner : {a, b, c})
                triangles.push_back(mesh.parts().first[face] + corner);
        });
    return {mesh.parts().corners, GltfBuffer::Kept<std::uint32_t>(std::move(triangles))};
}

class GltfWriter {
public:
    GltfWriter(const ExportJob& job, const Run& run) : job_(job), scale_(job.scale()), run_(run) {}

    Status add(const SceneObject& object) {
        const std::size_t node = new_node(object.name);
        switch (object.form.form) {
            case WrittenForm::facets:
                add_facets(object, node);
                break;
            case WrittenForm::lines:
                add_lines(object, node);
                break;
            case WrittenForm::bars:
                add_bars(object, node);
                break;
            default:
                add_points(object, node);
        }
        roots_.push_back(node);
        return run_.cancelled() ? Status(cancelled_error()) : Status(Done{});
    }

    Result<ExportReport> write(const ByteSink& sink) {
        // Z up becomes Y up.
        const std::size_t root = new_node("Plume Lattice");
        nodes_[root]["rotation"] = {-std::sqrt(0.5), 0, 0, std::sqrt(0.5)};
        nodes_[root]["children"] = roots_;
        Json json{{"asset", {{"version", "2.0"}, {"generator", "Plume Lattice"}}},
                  {"scene", 0},
                  {"scenes", {{{"nodes", {root}}}}},
                  {"nodes", std::move(nodes_)},
                  {"meshes", std::move(meshes_)},
                  {"materials", std::move(materials_)}};
        buffer_.describe(json);
        if (!buffer_.write(json.dump(-1, ' ', false, Json::error_handler_t::replace), sink))
            return Error{ErrorCode::out_of_range, "", "is larger than the 4 GB that a GLB file can have",
                         "Export it in parts."};
        report_.what = tally_.text();
        return std::move(report_);
    }

private:
    std::size_t new_node(const std::string& name) {
        nodes_.push_back({{"name", printable(name)}});
        return nodes_.size() - 1;
    }
    Json& node(std::size_t index) { return nodes_[index]; }

    // Colours, where there are any, are those of vertices: the material is white then.
    std::size_t material_of(const SceneObject& object, const std::optional<Rgb>& base) {
        const Material material = object.material.value_or(Material{});
        const bool white = !base;
        const Rgb colour = base.value_or(Rgb{1, 1, 1});
        const MaterialKey key{material.key, colour, white};
        const auto found =
            static_cast<std::size_t>(std::ranges::find(material_keys_, key) - material_keys_.begin());
        if (found < material_keys_.size()) return found;
        material_keys_.push_back(key);
        const auto [red, green, blue] = GltfBuffer::linear_light(colour);
        const double opacity = 1 - static_cast<double>(material.transparency);
        Json json{{"name", object.material ? std::string(material.label) : "plain"},
                  {"pbrMetallicRoughness",
                   {{"baseColorFactor", {red, green, blue, opacity}},
                    {"metallicFactor", static_cast<double>(material.metalness)},
                    {"roughnessFactor", static_cast<double>(material.roughness)}}},
                  {"doubleSided", true}};
        if (opacity < 1) json["alphaMode"] = "BLEND";
        materials_.push_back(std::move(json));
        return found;
    }

    std::size_t add_mesh(const std::string& name, Json primitive) {
        meshes_.push_back({{"name", printable(name)}, {"primitives", Json::array({std::move(primitive)})}});
        return meshes_.size() - 1;
    }

    // "length (m)"
    std::string titled(const Field& field) const {
        const std::string unit = unit_of(field.dimension, job_);
        return printable(field.name) + (unit.empty() ? "" : " (" + unit + ')');
    }

    // Numbers as attributes of our own, whose names begin with a line below and are told in the extras.
    void add_numbers(const std::vector<Field>& fields, const std::vector<std::uint32_t>& of,
                     Json& primitive) {
        for (const Field& field : fields) {
            auto values = attribute_values(field, of);
            if (!values) {
                report_.leave_out("the number " + field.name + ", which is not finite everywhere");
                continue;
            }
            std::string name = "_";
            for (const char c : field.name) {
                const bool letter = c >= 'a' && c <= 'z';
                name += letter                                             ? static_cast<char>(c - 32)
                        : (c >= 'A' && c <= 'Z') || (c >= '0' && c <= '9') ? c
                                                                           : '_';
            }
            if (primitive["attributes"].contains(name)) continue;
            primitive["attributes"][name] = buffer_.add_numbers(*std::move(values));
            primitive["extras"][name] = titled(field);
        }
    }
    std::optional<GltfBuffer::Array<float>> attribute_values(const Field& field,
                                                             const std::vector<std::uint32_t>& of) const {
        const double factor = factor_of(field.dimension, job_);
        GltfBuffer::Array<float> values(of.empty() ? field.values.size() : of.size());
        for (std::size_t at = 0; at < values.size(); ++at) {
            values[at] = static_cast<float>(field.values[of.empty() ? at : of[at]] * factor);
            if (!std::isfinite(values[at])) return {};
        }
        return values;
    }

    template <class PlaceAt>
    Json primitive_of(std::size_t count, PlaceAt place_at, Vec3 origin, Mode mode) {
        GltfBuffer::Array<GltfBuffer::Floats3> places(count);
        parallel_blocks(count, 16384, Run(), [&](std::size_t begin, std::size_t end) {
            for (std::size_t at = begin; at < end; ++at)
                places[at] = GltfBuffer::narrowed((place_at(at) - origin) * scale_);
        });
        Json primitive{{"attributes", {{"POSITION", buffer_.add_places(std::move(places))}}},
                       {"mode", static_cast<int>(mode)}};
        return primitive;
    }
    void place_at(std::size_t index, Vec3 origin) {
        node(index)["translation"] = {origin.x * scale_, origin.y * scale_, origin.z * scale_};
    }

    void add_facets(const SceneObject& object, std::size_t index) {
        const Mesh& mesh = *object.form.facets;
        tally_.add(triangle_count(mesh), "triangle", "triangles");
        if (mesh.part_count() > 1 && mesh.part_count() <= most_parts) {
            if (auto shared = shared_parts(mesh, run_);
                shared && one_colour_a_part(object) && vertices_tell_of_parts(mesh))
                return add_shared(object, *shared, index);
            return add_parts(object, index);
        }
        if (mesh.part_count() == 1)
            tell_numbers(mesh, 0, index);
        else
            report_.leave_out("the parts of " + object.name + ", which are more than " +
                              grouped_text(static_cast<std::int64_t>(most_parts)) +
                              (mesh.face_fields().empty() ? "" : ", and the numbers of its faces"));
        const Vec3 origin = mesh.bounds().centre();
        place_at(index, origin);
        node(index)["mesh"] = add_mesh(
            object.name, facets_of(object, mesh, object.vertex_colours, object.face_colours, origin));
    }

    Json facets_of(const SceneObject& object, const Mesh& mesh, const std::vector<Rgb>& vertex_colours,
                   const std::vector<Rgb>& face_colours, Vec3 origin) {
        const std::vector<Rgb> at_vertices = colours_at_vertices(mesh, face_colours);
        const bool split = !face_colours.empty() && at_vertices.empty();
        Corners corners = split ? corners_of_faces(mesh) : shared_corners(mesh);
        const auto vertex_of = [&](std::size_t at) {
            return corners.vertices.empty() ? at : std::size_t{corners.vertices[at]};
        };
        const std::size_t count = corners.vertices.empty() ? mesh.vertex_count() : corners.vertices.size();
        Json primitive = primitive_of(
            count, [&](std::size_t at) { return mesh.vertex(vertex_of(at)); }, origin, triangles);
        if (object.form.smooth) primitive["attributes"]["NORMAL"] = buffer_.add_normals(vertex_normals(mesh));
        std::vector<Rgb> colours = !at_vertices.empty() ? at_vertices : vertex_colours;
        if (split)
            for (std::size_t face = 0; face < mesh.face_count(); ++face)
                colours.insert(colours.end(), mesh.face(face).size(), face_colours[face]);
        finish(primitive, object, colours);
        add_numbers(mesh.fields(), corners.vertices, primitive);
        primitive["indices"] = buffer_.add_indices(std::move(corners.triangles));
        return primitive;
    }
    void finish(Json& primitive, const SceneObject& object, const std::vector<Rgb>& colours) {
        if (!colours.empty()) primitive["attributes"]["COLOR_0"] = buffer_.add_colours(colours);
        primitive["material"] =
            material_of(object, colours.empty() ? std::optional(object.plain) : std::nullopt);
    }

    // Numbers that are the same all over a part go to its node; side by side, since many readers know no
    // extras within extras. Those of vertices are attributes, too; others of faces have no place.
    void tell_numbers(const Mesh& mesh, std::size_t part, std::size_t index) {
        const std::vector<NumberOfPart> numbers = numbers_of_part(mesh, part);
        for (const auto& [field, value] : numbers)
            node(index)["extras"].emplace(titled(*field), value * factor_of(field->dimension, job_));
        for (const Field& field : mesh.face_fields())
            if (!tells(numbers, field))
                report_.leave_out("the number " + field.name + " of faces, which varies within a part");
    }
    // Vertices that are shared by parts have no numbers of their own.
    static bool vertices_tell_of_parts(const Mesh& mesh) {
        for (std::size_t part = 0; part < mesh.part_count() && !mesh.fields().empty(); ++part) {
            const std::vector<NumberOfPart> numbers = numbers_of_part(mesh, part);
            if (!std::ranges::all_of(mesh.fields(),
                                     [&](const Field& field) { return tells(numbers, field); }))
                return false;
        }
        return true;
    }
    std::size_t part_node(const SceneObject& object, std::size_t part, std::size_t parent) {
        const std::size_t child = new_node(object.name + ' ' + object.form.facets->part_mark(part));
        tell_numbers(*object.form.facets, part, child);
        node(parent)["children"].push_back(child);
        return child;
    }

    // Every part by itself, with the vertices it uses.
    void add_parts(const SceneObject& object, std::size_t index) {
        const Mesh& mesh = *object.form.facets;
        for (std::size_t part = 0; part < mesh.part_count() && !run_.cancelled(); ++part) {
            const ColouredPart alone = coloured_part(mesh, part, object.vertex_colours, object.face_colours);
            const std::size_t child = part_node(object, part, index);
            const Vec3 origin = alone.mesh.bounds().centre();
            place_at(child, origin);
            node(child)["mesh"] =
                add_mesh(object.name + ' ' + mesh.part_mark(part),
                         facets_of(object, alone.mesh, alone.vertex_colours, alone.face_colours, origin));
        }
    }

    static std::optional<Rgb> colour_of_part(const SceneObject& object, std::size_t part) {
        const Mesh& mesh = *object.form.facets;
        const Mesh::Faces faces = mesh.part(part);
        const auto colour_at = [&](std::size_t face, std::uint32_t corner) {
            return object.face_colours.empty() ? object.vertex_colours[corner] : object.face_colours[face];
        };
        const Rgb first = colour_at(faces.begin, mesh.face(faces.begin)[0]);
        for (std::size_t face = faces.begin; face < faces.end; ++face)
            for (const std::uint32_t corner : mesh.face(face))
                if (colour_at(face, corner) != first) return {};
        return first;
    }
    static bool one_colour_a_part(const SceneObject& object) {
        if (object.face_colours.empty() && object.vertex_colours.empty()) return true;
        for (std::size_t part = 0; part < object.form.facets->part_count(); ++part)
            if (!colour_of_part(object, part)) return false;
        return true;
    }

    // One set of vertices, a mesh of them for each colour, a node for each part.
    void add_shared(const SceneObject& object, const SharedParts& shared, std::size_t index) {
        const Mesh& shape = shared.shape;
        Json primitive = primitive_of(
            shape.vertex_count(), [&](std::size_t at) { return shape.vertex(at); }, {}, triangles);
        primitive["indices"] = buffer_.add_indices(shared_corners(shape).triangles);
        const bool coloured = !object.face_colours.empty() || !object.vertex_colours.empty();
        std::vector<std::pair<std::size_t, std::size_t>> mesh_of_material;
        for (std::size_t part = 0; part < shared.places.size(); ++part) {
            primitive["material"] =
                material_of(object, coloured ? colour_of_part(object, part) : std::optional(object.plain));
            const std::size_t material = primitive["material"].get<std::size_t>();
            auto known =
                std::ranges::find(mesh_of_material, material, &std::pair<std::size_t, std::size_t>::first);
            if (known == mesh_of_material.end())
                known = mesh_of_material.insert(known, {material, add_mesh(object.name, primitive)});
            const std::size_t child = part_node(object, part, index);
            const SharedPlace& place = shared.places[part];
            place_at(child, place.to);
            node(child)["rotation"] = place.rotation;
            node(child)["scale"] = place.scale;
            node(child)["mesh"] = known->second;
        }
    }

    void add_points(const SceneObject& object, std::size_t index) {
        const std::vector<Vec3>& places = object.form.points;
        const Vec3 origin = middle_of(places);
        place_at(index, origin);
        Json primitive = primitive_of(
            places.size(), [&](std::size_t at) { return places[at]; }, origin, points);
        finish(primitive, object, object.place_colours);
        add_numbers(object.form.numbers, {}, primitive);
        node(index)["mesh"] = add_mesh(object.name, std::move(primitive));
        tally_.add(places.size(), "point", "points");
    }

    void add_lines(const SceneObject& object, std::size_t index) {
        std::vector<Vec3> places;
        for (const WrittenLine& line : object.form.lines)
            places.insert(places.end(), line.places.begin(), line.places.end());
        GltfBuffer::Array<std::uint32_t> ends;
        for (const auto& edge : edges_of(object.form.lines))
            ends.insert(ends.end(), edge.begin(), edge.end());
        const Vec3 origin = middle_of(places);
        place_at(index, origin);
        Json primitive = primitive_of(
            places.size(), [&](std::size_t at) { return places[at]; }, origin, lines);
        finish(primitive, object, object.place_colours);
        add_numbers(object.form.numbers, {}, primitive);
        primitive["indices"] = buffer_.add_indices(GltfBuffer::Kept<std::uint32_t>(std::move(ends)));
        node(index)["mesh"] = add_mesh(object.name, std::move(primitive));
        tally_.add(object.form.lines.size(), "curve", "curves");
    }

    // Colours and numbers of bars are those of vertices: both ends of each bar are its own.
    void add_bars(const SceneObject& object, std::size_t index) {
        const Written& frame = object.form;
        const Vec3 origin = middle_of(frame.points);
        place_at(index, origin);
        std::vector<std::uint32_t> of_bar, ends;
        std::vector<Rgb> colours;
        for (std::uint32_t bar = 0; bar < frame.bars.size(); ++bar) {
            of_bar.insert(of_bar.end(), 2, bar);
            ends.insert(ends.end(), frame.bars[bar].begin(), frame.bars[bar].end());
            for (const std::uint32_t end : frame.bars[bar])
                if (!object.bar_colours.empty() || !object.place_colours.empty())
                    colours.push_back(object.bar_colours.empty() ? object.place_colours[end]
                                                                 : object.bar_colours[bar]);
        }
        Json primitive = primitive_of(
            ends.size(), [&](std::size_t at) { return frame.points[ends[at]]; }, origin, lines);
        finish(primitive, object, colours);
        add_numbers(frame.numbers_of_bars, of_bar, primitive);
        add_numbers(frame.numbers, ends, primitive);
        node(index)["mesh"] = add_mesh(object.name, std::move(primitive));
        tally_.add(frame.bars.size(), "member", "members");
    }

    static Vec3 middle_of(const std::vector<Vec3>& places) {
        Box box;
        for (const Vec3 place : places)
            box.include(place);
        return box.centre();
    }

    struct MaterialKey {
        std::string_view key;
        Rgb colour;
        bool white;
        bool operator==(const MaterialKey&) const = default;
    };

    const ExportJob& job_;
    double scale_;
    const Run& run_;
    GltfBuffer buffer_;
    Json nodes_ = Json::array(), meshes_ = Json::array(), materials_ = Json::array();
    std::vector<MaterialKey> material_keys_;
    std::vector<std::size_t> roots_;
    Tally tally_;
    ExportReport report_;
};

}  // namespace

Result<ExportReport> write_glb(const ExportJob& job, const ByteSink& sink, const Run& run) {
    const auto scene = scene_of(job, largest_float, run);
    if (!scene) return scene.error();
    GltfWriter writer(job, run);
    for (const SceneObject& object : *scene)
        if (Status added = writer.add(object); !added) return added.error();
    return writer.write(sink);
}

}  // namespace plume

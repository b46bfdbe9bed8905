#include <algorithm>
#include <array>
#include <cmath>
#include <limits>
#include <map>

#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/base/unique_names.hpp"
#include "core/readers/gltf_source.hpp"
#include "core/readers/mesh_draft.hpp"
#include "core/readers/mesh_formats.hpp"
#include "core/readers/welded_places.hpp"

namespace plume {
namespace {

using Json = GltfSource::Json;

constexpr std::size_t deepest = 128, most_nodes = 4'000'000, most_corners = 400'000'000;
constexpr double nan = std::numeric_limits<double>::quiet_NaN();

using Colour = std::array<double, 3>;

// Column by column, as files have it.
using Matrix = std::array<double, 16>;
constexpr Matrix identity = {1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1};

Matrix product(const Matrix& a, const Matrix& b) {
    Matrix made{};
    for (std::size_t column = 0; column < 4; ++column)
        for (std::size_t row = 0; row < 4; ++row)
            for (std::size_t at = 0; at < 4; ++at)
                made[4 * column + row] += a[4 * at + row] * b[4 * column + at];
    return made;
}

template <std::size_t count>
std::optional<std::array<double, count>> numbers_in(const Json& object, const char* key) {
    const auto found = object.find(key);
    if (found == object.end() || !found->is_array() || found->size() != count) return {};
    std::array<double, count> numbers{};
    for (std::size_t at = 0; at < count; ++at) {
        if (!(*found)[at].is_number()) return {};
        numbers[at] = (*found)[at].get<double>();
    }
    return numbers;
}

// Its own matrix, or scaled, turned by a quaternion and moved.
Matrix matrix_of(const Json& node) {
    if (const auto matrix = numbers_in<16>(node, "matrix")) return *matrix;
    const auto scale = numbers_in<3>(node, "scale").value_or(std::array<double, 3>{1, 1, 1});
    const auto move = numbers_in<3>(node, "translation").value_or(std::array<double, 3>{});
    const auto [x, y, z, w] = numbers_in<4>(node, "rotation").value_or(std::array<double, 4>{0, 0, 0, 1});
    return {(1 - 2 * (y * y + z * z)) * scale[0],
            2 * (x * y + z * w) * scale[0],
            2 * (x * z - y * w) * scale[0],
            0,
            2 * (x * y - z * w) * scale[1],
            (1 - 2 * (x * x + z * z)) * scale[1],
            2 * (y * z + x * w) * scale[1],
            0,
            2 * (x * z + y * w) * scale[2],
            2 * (y * z - x * w) * scale[2],
            (1 - 2 * (x * x + y * y)) * scale[2],
            0,
            move[0],
            move[1],
            move[2],
            1};
}

bool mirrors(const Matrix& m) {
    return m[0] * (m[5] * m[10] - m[6] * m[9]) - m[4] * (m[1] * m[10] - m[2] * m[9]) +
               m[8] * (m[1] * m[6] - m[2] * m[5]) <
           0;
}

// Three corners a triangle, of the three ways in which files list them; nothing for points and lines.
std::optional<std::vector<double>> triangles_of(const std::vector<double>& indices, std::size_t mode) {
    if (mode == 4)
        return std::vector<double>(indices.begin(),
                                   indices.end() - static_cast<std::ptrdiff_t>(indices.size() % 3));
    if (mode != 5 && mode != 6) return {};
    std::vector<double> triangles;
    for (std::size_t at = 2; at < indices.size(); ++at) {
        const bool odd = mode == 5 && at % 2 == 1;
        const double first = mode == 6 ? indices[0] : indices[at - 2];
        for (const double corner : {first, indices[at - (odd ? 0 : 1)], indices[at - (odd ? 1 : 0)]})
            triangles.push_back(corner);
    }
    return triangles;
}

// One primitive of a mesh, as often as nodes place it.
struct Primitive {
    std::vector<double> places;                          // three a vertex
    std::vector<double> triangles;                       // three a face
    std::vector<double> colours;                         // three a vertex; empty: none
    bool face_colours = false;                           // every triangle has one colour
    std::map<std::string, std::vector<double>> numbers;  // of vertices
    std::optional<std::size_t> material;
    // Of each vertex which of those that differ it is, and the first of each of these.
    std::vector<std::uint32_t> same_as, differing;
};

// Writers split vertices where normals, pictures or colours of faces differ, none of which is kept: what is
// the same in all that is kept is one vertex again.
void find_equal_vertices(Primitive& primitive) {
    const std::size_t count = primitive.places.size() / 3;
    WeldedPlaces<double> welded(count);
    const std::vector<double>& places = primitive.places;
    for (std::size_t at = 0; at < count; ++at)
        primitive.same_as.push_back(
            welded.index_of({places[3 * at] + 0.0, places[3 * at + 1] + 0.0, places[3 * at + 2] + 0.0}));
    const auto tell_apart = [&](auto value_at) {
        WeldedPlaces<double> pairs(count);
        for (std::size_t at = 0; at < count; ++at)
            primitive.same_as[at] =
                pairs.index_of({static_cast<double>(primitive.same_as[at]), value_at(at) + 0.0, 0});
    };
    for (const auto& [name, values] : primitive.numbers)
        tell_apart([&values = values](std::size_t at) { return values[at]; });
    for (std::size_t part = 0; part < 3 && !primitive.colours.empty() && !primitive.face_colours; ++part)
        tell_apart([&](std::size_t at) { return primitive.colours[3 * at + part]; });
    for (std::size_t at = 0; at < count; ++at)
        if (primitive.same_as[at] == primitive.differing.size())
            primitive.differing.push_back(static_cast<std::uint32_t>(at));
}

// Numbers of vertices or faces that only some of what is put together has.
class Gathered {
public:
    // The column of that name, up to an entry; NaN where it had none.
    std::vector<double>& column(const std::string& name, std::size_t up_to) {
        std::vector<double>& column = columns_[name];
        column.resize(up_to, nan);
        return column;
    }
    std::vector<Field> fields(std::size_t count) {
        std::vector<Field> fields;
        UniqueNames names;
        for (auto& [name, column] : columns_) {
            column.resize(count, nan);
            fields.push_back({names.take(name), Doubles(column.begin(), column.end()), plain_number});
        }
        return fields;
    }

private:
    std::map<std::string, std::vector<double>> columns_;
};

class GltfReader {
public:
    GltfReader(const GltfSource& source, const Run& run) : source_(source), run_(run) {}

    Result<MeshFile> read() {
        for (const std::size_t node : roots())
            if (Status added = add_tree(node); !added) return added.error();
        draft_.fields = vertex_numbers_.fields(draft_.x.size());
        draft_.face_fields = face_numbers_.fields(draft_.face_count());
        Result<MeshFile> made = finished(std::move(draft_), run_);
        if (!made) return made;
        made->metres_per_unit = 1;  // by specification
        made->y_up = true;
        for (std::size_t at = 0; source_.entry("materials", at); ++at)
            made->materials.push_back(printable(text_in(*source_.entry("materials", at), "name")));
        made->companions = source_.companions();
        if (others_ > 0)
            made->losses.push_back(
                count_text(others_, "set of points or lines was", "sets of points or lines were") +
                " left out: they are no faces.");
        return made;
    }

private:
    static Error damaged(std::string what) {
        return {ErrorCode::file_damaged, "", std::move(what), "Get it anew."};
    }

    // Of the scene that is shown, else all nodes that are no other's child.
    std::vector<std::size_t> roots() const {
        const Json* scene = source_.entry("scenes", index_in(source_.root(), "scene").value_or(0));
        if (scene) return indices_in(*scene, "nodes");
        std::vector<std::uint8_t> is_child;
        std::size_t count = 0;
        for (; const Json* node = source_.entry("nodes", count); ++count)
            for (const std::size_t child : indices_in(*node, "children")) {
                if (child >= most_nodes) continue;
                is_child.resize(std::max(is_child.size(), child + 1), 0);
                is_child[child] = 1;
            }
        std::vector<std::size_t> made;
        for (std::size_t at = 0; at < count; ++at)
            if (at >= is_child.size() || is_child[at] == 0) made.push_back(at);
        return made;
    }
    static std::vector<std::size_t> indices_in(const Json& object, const char* key) {
        std::vector<std::size_t> indices;
        const auto found = object.find(key);
        if (found == object.end() || !found->is_array()) return indices;
        for (const Json& index : *found)
            if (index.is_number_unsigned()) indices.push_back(index.get<std::size_t>());
        return indices;
    }

    struct Placed {
        std::size_t node = 0, depth = 0;
        Matrix matrix = identity;
    };
    // A node and what hangs below it. Nodes that contain themselves would never end.
    Status add_tree(std::size_t root) {
        std::vector<Placed> left{{root}};
        while (!left.empty()) {
            const Placed placed = left.back();
            left.pop_back();
            const Json* node = source_.entry("nodes", placed.node);
            if (!node) return damaged("has no node " + std::to_string(placed.node));
            if (placed.depth > deepest)
                return damaged("has nodes within nodes without an end (node " + std::to_string(placed.node) +
                               ")");
            if (++nodes_ > most_nodes)
                return damaged("places more than " + grouped_text(most_nodes) + " nodes");
            if (run_.cancelled()) return cancelled_error();
            const Matrix matrix = product(placed.matrix, matrix_of(*node));
            if (const auto mesh = index_in(*node, "mesh"))
                if (Status added = add_mesh(*mesh, name_of(*node, *mesh, placed.node), matrix); !added)
                    return added;
            std::vector<std::size_t> children = indices_in(*node, "children");
            std::ranges::reverse(children);  // the first one is looked at first
            for (const std::size_t child : children)
                left.push_back({child, placed.depth + 1, matrix});
        }
        return Done{};
    }

    std::string name_of(const Json& node, std::size_t mesh, std::size_t index) const {
        std::string name = text_in(node, "name");
        if (const Json* shape = source_.entry("meshes", mesh); name.empty() && shape)
            name = text_in(*shape, "name");
        return name.empty() ? "node " + std::to_string(index) : printable(name);
    }

    Status add_mesh(std::size_t mesh, std::string name, const Matrix& matrix) {
        const auto primitives = primitives_of(mesh);
        if (!primitives) return primitives.error();
        const auto part = static_cast<std::uint32_t>(draft_.part_names.size());
        draft_.part_names.push_back(std::move(name));
        for (const Primitive& primitive : **primitives)
            add_primitive(primitive, matrix, part);
        if (draft_.corners.size() > most_corners) draft_.too_large = true;
        return draft_.too_large ? Status(damaged("places more triangles than can be held")) : Status(Done{});
    }

    void add_primitive(const Primitive& primitive, const Matrix& m, std::uint32_t part) {
        const std::size_t before = draft_.x.size();
        for (const std::uint32_t at : primitive.differing) {
            const double *p = &primitive.places[3 * std::size_t{at}], x = p[0], y = p[1], z = p[2];
            draft_.add_vertex(m[0] * x + m[4] * y + m[8] * z + m[12], m[1] * x + m[5] * y + m[9] * z + m[13],
                              m[2] * x + m[6] * y + m[10] * z + m[14]);
        }
        for (const auto& [name, values] : primitive.numbers) {
            std::vector<double>& column = vertex_numbers_.column(name, before);
            for (const std::uint32_t at : primitive.differing)
                column.push_back(values[at]);
        }
        if (!primitive.colours.empty() && !primitive.face_colours)
            add_colours(vertex_numbers_, before, primitive.differing.size(),
                        [&](std::size_t at) { return colour_at(primitive, primitive.differing[at]); });
        const std::size_t first_face = draft_.face_count();
        add_faces(primitive, before, mirrors(m), part);
        add_face_numbers(primitive, first_face);
    }
    void add_faces(const Primitive& primitive, std::size_t before, bool turned, std::uint32_t part) {
        for (std::size_t at = 0; at + 2 < primitive.triangles.size(); at += 3) {
            std::array<std::uint32_t, 3> face{};
            for (std::size_t corner = 0; corner < 3; ++corner) {
                const auto index = static_cast<std::size_t>(primitive.triangles[at + corner]);
                face[turned ? 2 - corner : corner] =
                    index < primitive.same_as.size()
                        ? static_cast<std::uint32_t>(primitive.same_as[index] + before)
                        : MeshDraft::no_vertex;
            }
            draft_.add_face(face, part);
        }
    }
    void add_face_numbers(const Primitive& primitive, std::size_t first) {
        if (draft_.too_large) return;
        const std::size_t count = draft_.face_count() - first;
        if (primitive.face_colours)
            add_colours(face_numbers_, first, count, [&](std::size_t face) {
                const auto corner = static_cast<std::size_t>(primitive.triangles[3 * face]);
                return corner < primitive.same_as.size() ? colour_at(primitive, corner)
                                                         : Colour{nan, nan, nan};
            });
        if (!primitive.material) return;
        std::vector<double>& materials = face_numbers_.column("material", first);
        materials.resize(first + count, static_cast<double>(*primitive.material + 1));
        if (primitive.colours.empty())
            add_colours(
                face_numbers_, first, count,
                [colour = material_colour(*primitive.material)](std::size_t /*face*/) { return colour; });
    }
    static Colour colour_at(const Primitive& primitive, std::size_t vertex) {
        return {primitive.colours[3 * vertex], primitive.colours[3 * vertex + 1],
                primitive.colours[3 * vertex + 2]};
    }
    template <class ColourAt>
    static void add_colours(Gathered& numbers, std::size_t first, std::size_t count, ColourAt colour_at) {
        constexpr std::array names = {"red", "green", "blue"};
        for (std::size_t part = 0; part < 3; ++part) {
            std::vector<double>& column = numbers.column(names[part], first);
            for (std::size_t at = 0; at < count; ++at)
                column.push_back(colour_at(at)[part]);
        }
    }
    const Colour& material_colour(std::size_t material) {
        const auto [at, added] = material_colours_.try_emplace(material, Colour{1, 1, 1});
        const Json* said = added ? source_.entry("materials", material) : nullptr;
        if (said && said->contains("pbrMetallicRoughness") && (*said)["pbrMetallicRoughness"].is_object())
            if (const auto colour = numbers_in<4>((*said)["pbrMetallicRoughness"], "baseColorFactor"))
                at->second = {(*colour)[0], (*colour)[1], (*colour)[2]};
        return at->second;
    }

    // Read once a mesh, however many nodes place it.
    Result<const std::vector<Primitive>*> primitives_of(std::size_t mesh) {
        const auto known = meshes_.find(mesh);
        if (known != meshes_.end()) return &known->second;
        const Json* said = source_.entry("meshes", mesh);
        if (!said) return damaged("has no mesh " + std::to_string(mesh));
        std::vector<Primitive> made;
        const auto list = said->find("primitives");
        if (list != said->end() && list->is_array())
            for (const Json& primitive : *list) {
                Result<std::optional<Primitive>> read = read_primitive(primitive);
                if (!read) return read.error();
                if (*read) made.push_back(**std::move(read));
            }
        return &meshes_.emplace(mesh, std::move(made)).first->second;
    }

    Result<std::optional<Primitive>> read_primitive(const Json& said) {
        const std::size_t mode = said.is_object() ? index_in(said, "mode").value_or(4) : 0;
        if (!said.is_object() || !said.contains("attributes") || mode < 4) {
            ++others_;
            return std::optional<Primitive>();
        }
        const Json& attributes = said["attributes"];
        Primitive made;
        auto places = attribute(attributes, "POSITION");
        if (!places) return places.error();
        if (places->width != 3) return damaged("has places of vertices that are not three numbers each");
        made.places = std::move(places->values);
        const std::size_t count = made.places.size() / 3;
        if (Status taken = take_triangles(said, mode, count, made); !taken) return taken.error();
        if (Status taken = take_colours(attributes, count, made); !taken) return taken.error();
        if (Status taken = take_numbers(said, count, made); !taken) return taken.error();
        made.material = index_in(said, "material");
        find_equal_vertices(made);
        return std::optional(std::move(made));
    }
    Result<GltfSource::Numbers> attribute(const Json& attributes, const char* key) const {
        const auto accessor = index_in(attributes, key);
        if (!accessor) return damaged(std::string("has a mesh without ") + key);
        return source_.numbers(*accessor);
    }
    Status take_triangles(const Json& said, std::size_t mode, std::size_t count, Primitive& made) const {
        std::vector<double> indices(said.contains("indices") ? 0 : count);
        for (std::size_t at = 0; at < indices.size(); ++at)
            indices[at] = static_cast<double>(at);
        if (said.contains("indices")) {
            auto read = source_.numbers(index_in(said, "indices").value_or(SIZE_MAX));
            if (!read) return read.error();
            indices = std::move(read->values);
        }
        for (double& index : indices)
            if (!(index >= 0 && index < static_cast<double>(count))) index = 4e9;
        auto triangles = triangles_of(indices, mode);
        if (!triangles) return damaged("has a mesh of an unknown mode");
        made.triangles = *std::move(triangles);
        return Done{};
    }
    Status take_colours(const Json& attributes, std::size_t count, Primitive& made) const {
        if (!attributes.contains("COLOR_0")) return Done{};
        const auto colours = attribute(attributes, "COLOR_0");
        if (!colours) return colours.error();
        if (colours->width < 3 || colours->count() != count)
            return damaged("has colours that are not one a vertex");
        for (std::size_t at = 0; at < count; ++at)
            for (std::size_t part = 0; part < 3; ++part)
                made.colours.push_back(colours->values[at * colours->width + part]);
        made.face_colours = true;
        for (std::size_t at = 0; at + 2 < made.triangles.size() && made.face_colours; at += 3)
            for (std::size_t corner = 1; corner < 3; ++corner) {
                const double here = made.triangles[at + corner], first = made.triangles[at];
                if (here < static_cast<double>(count) && first < static_cast<double>(count))
                    made.face_colours =
                        made.face_colours && colour_at(made, static_cast<std::size_t>(here)) ==
                                                 colour_at(made, static_cast<std::size_t>(first));
            }
        return Done{};
    }
    // Attributes that begin with a line below are numbers of whoever wrote the file; extras may say their
    // names.
    Status take_numbers(const Json& said, std::size_t count, Primitive& made) const {
        for (const auto& [key, accessor] : said["attributes"].items()) {
            if (!key.starts_with("_") || !accessor.is_number_unsigned()) continue;
            auto numbers = source_.numbers(accessor.get<std::size_t>());
            if (!numbers) return numbers.error();
            if (numbers->width != 1 || numbers->count() != count) continue;
            std::string name = said.contains("extras") ? text_in(said["extras"], key.c_str()) : std::string();
            if (name.empty()) name = key.substr(1);
            made.numbers[printable(name)] = std::move(numbers->values);
        }
        return Done{};
    }

    const GltfSource& source_;
    const Run& run_;
    MeshDraft draft_;
    Gathered vertex_numbers_, face_numbers_;
    std::map<std::size_t, std::vector<Primitive>> meshes_;
    std::map<std::size_t, Colour> material_colours_;
    std::size_t nodes_ = 0, others_ = 0;
};

}  // namespace

Result<MeshFile> read_gltf(std::string_view bytes, const std::filesystem::path& path, const Run& run) {
    const auto source = GltfSource::open(bytes, path);
    if (!source) return source.error();
    return GltfReader(*source, run).read();
}

}  // namespace plume

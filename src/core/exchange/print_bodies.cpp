#include "core/exchange/print_bodies.hpp"

#include <cmath>

#include "core/base/text.hpp"
#include "core/exchange/part_ids.hpp"
#include "core/exchange/shared_parts.hpp"
#include "core/geometry/meshes/mesh_volume.hpp"
#include "core/geometry/meshes/triangulate.hpp"

namespace plume {
namespace {

PrintColour print_colour(Rgb colour, float opacity = 1) {
    const auto part = [](float value) { return static_cast<std::uint8_t>(std::lround(value * 255)); };
    return {part(colour.red), part(colour.green), part(colour.blue), part(opacity)};
}

class Bodies {
public:
    Bodies(double scale, const Run& run) : scale_(scale), run_(run) {}

    void add(const SceneObject& object) {
        const Mesh& mesh = *object.form.facets;
        if (mesh.part_count() == 1) return add(object, mesh, object.vertex_colours, object.face_colours, 0);
        for (std::size_t part = 0; part < mesh.part_count() && !run_.cancelled(); ++part) {
            const ColouredPart alone = coloured_part(mesh, part, object.vertex_colours, object.face_colours);
            add(object, alone.mesh, alone.vertex_colours, alone.face_colours, part);
        }
    }
    std::vector<PrintBody> made() { return std::move(bodies_); }

private:
    void add(const SceneObject& object, const Mesh& mesh, const std::vector<Rgb>& vertex_colours,
             const std::vector<Rgb>& face_colours, std::size_t part) {
        PrintBody body;
        const bool whole = object.form.facets->part_count() == 1;
        const std::string mark = whole ? std::string() : object.form.facets->part_mark(part);
        body.name = printable(object.name) + (whole ? "" : ' ' + mark);
        body.material = object.material ? std::string(object.material->label) : "plain";
        body.colour = print_colour(object.plain, object.material ? 1 - object.material->transparency : 1);
        body.id = uuid_text(identity_of(object.name, mark, whole ? "result" : "part"));
        body.item_id = uuid_text(identity_of(object.name, mark, whole ? "printed result" : "printed part"));
        body.closed = is_closed(mesh);
        body.vertices.resize(mesh.vertex_count());
        for (std::size_t vertex = 0; vertex < mesh.vertex_count(); ++vertex) {
            const Vec3 place = mesh.vertex(vertex) * scale_;
            body.vertices[vertex] = {static_cast<float>(place.x), static_cast<float>(place.y),
                                     static_cast<float>(place.z)};
        }
        body.triangles.reserve(mesh.corner_count() - 2 * mesh.face_count());
        for (std::size_t face = 0; face < mesh.face_count(); ++face) {
            const auto corners = mesh.face(face);
            const auto colour_at = [&](std::uint32_t vertex) {
                return print_colour(face_colours.empty() ? vertex_colours[vertex] : face_colours[face]);
            };
            for_each_triangle(mesh, face, [&](std::uint32_t a, std::uint32_t b, std::uint32_t c) {
                const std::array<std::uint32_t, 3> triangle{corners[a], corners[b], corners[c]};
                body.triangles.push_back(triangle);
                if (!vertex_colours.empty() || !face_colours.empty())
                    body.corner_colours.push_back(
                        {colour_at(triangle[0]), colour_at(triangle[1]), colour_at(triangle[2])});
            });
        }
        bodies_.push_back(std::move(body));
    }

    double scale_;
    const Run& run_;
    std::vector<PrintBody> bodies_;
};

}  // namespace

std::vector<PrintBody> print_bodies(const std::vector<SceneObject>& scene, double scale, const Run& run) {
    Bodies bodies(scale, run);
    for (const SceneObject& object : scene)
        bodies.add(object);
    return bodies.made();
}

}  // namespace plume

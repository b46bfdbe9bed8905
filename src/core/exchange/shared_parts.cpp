#include "core/exchange/shared_parts.hpp"

#include <algorithm>
#include <atomic>
#include <cmath>

#include "core/base/parallel.hpp"
#include "core/geometry/measures/best_fit.hpp"
#include "core/geometry/parts/mesh_parts.hpp"
#include "core/picture/repeated_parts.hpp"

namespace plume {
namespace {

constexpr double most_off = 1e-6;  // of a part's size

// Of a rotation given by where it takes the axes (Shepperd, Quaternion from rotation matrix, Journal of
// Guidance and Control 1(3), 1978).
std::array<double, 4> quaternion_of(Vec3 x, Vec3 y, Vec3 z) {
    const std::array<double, 4> squares{x.x - y.y - z.z, y.y - x.x - z.z, z.z - x.x - y.y, x.x + y.y + z.z};
    const auto largest = static_cast<std::size_t>(std::ranges::max_element(squares) - squares.begin());
    const double twice = std::sqrt(1 + squares[largest]), by = 0.5 / twice;
    switch (largest) {
        case 0:
            return {twice / 2, (x.y + y.x) * by, (z.x + x.z) * by, (y.z - z.y) * by};
        case 1:
            return {(x.y + y.x) * by, twice / 2, (y.z + z.y) * by, (z.x - x.z) * by};
        case 2:
            return {(z.x + x.z) * by, (y.z + z.y) * by, twice / 2, (x.y - y.x) * by};
        default:
            return {(y.z - z.y) * by, (z.x - x.z) * by, (x.y - y.x) * by, twice / 2};
    }
}

// A map as a stretch along the axes of a placement and a turn; nothing where it shears.
struct Stretch {
    Vec3 x, y, z;  // where the axes go, of length 1
    std::array<double, 3> scale;
};
std::optional<Stretch> stretch_of(const Affine& map, const Placement& axes) {
    Vec3 x = map.turned(axes.along), y = map.turned(axes.across), z = map.turned(axes.up);
    Stretch stretch{{}, {}, {}, {length(x), length(y), length(z)}};
    if (!(stretch.scale[0] > 0) || !(stretch.scale[1] > 0) || !(stretch.scale[2] > 0)) return {};
    // What is no right angle by rounding alone is made one; what else it comes to is measured later.
    stretch.x = unit_or_zero(x);
    stretch.y = unit_or_zero(y - stretch.x * dot(stretch.x, y));
    stretch.z = cross(stretch.x, stretch.y);
    if (dot(stretch.z, z) < 0) stretch.scale[2] = -stretch.scale[2];
    return stretch;
}

struct Shape {
    Mesh mesh;
    Placement axes;
};
Shape shape_of(const Mesh& mesh, std::uint32_t first, std::size_t count) {
    std::vector<Vec3> places(count);
    for (std::size_t at = 0; at < count; ++at)
        places[at] = mesh.vertex(first + at);
    Placement axes = best_fit(places).placement;
    Box box;
    Doubles x(count), y(count), z(count);
    for (std::size_t at = 0; at < count; ++at)
        box.include(axes.to_local(places[at]));
    axes.origin = axes.to_world(box.centre());
    for (std::size_t at = 0; at < count; ++at) {
        const Vec3 local = axes.to_local(places[at]);
        x[at] = local.x;
        y[at] = local.y;
        z[at] = local.z;
    }
    Mesh::Parts parts;
    parts.x = std::move(x);
    parts.y = std::move(y);
    parts.z = std::move(z);
    for (std::size_t face = 0; face < mesh.part(0).end; ++face) {
        for (const std::uint32_t corner : mesh.face(face))
            parts.corners.push_back(corner - first);
        parts.first.push_back(static_cast<std::uint32_t>(parts.corners.size()));
    }
    return {*Mesh::make(std::move(parts)), axes};
}

double farthest_off(const Mesh& mesh, std::uint32_t first, const Mesh& shape, const Stretch& stretch,
                    Vec3 to) {
    double off = 0;
    for (std::size_t at = 0; at < shape.vertex_count(); ++at) {
        const Vec3 local = shape.vertex(at);
        const Vec3 place = to + stretch.x * (local.x * stretch.scale[0]) +
                           stretch.y * (local.y * stretch.scale[1]) +
                           stretch.z * (local.z * stretch.scale[2]);
        off = std::max(off, length(place - mesh.vertex(first + at)));
    }
    return off;
}

}  // namespace

std::optional<SharedParts> shared_parts(const Mesh& mesh, const Run& run) {
    const auto maps = repeats_of(mesh, run);
    if (!maps) return {};
    const VertexRange vertices = vertices_of_part(mesh, 0);
    const std::uint32_t first = vertices.first;
    const Shape shape = shape_of(mesh, first, vertices.count);
    const double size = shape.mesh.bounds().diagonal();
    SharedParts shared{shape.mesh, std::vector<SharedPlace>(maps->size())};
    std::atomic<bool> all = true;
    const bool done = parallel_blocks(maps->size(), 1024, run, [&](std::size_t begin, std::size_t end) {
        for (std::size_t part = begin; part < end && all; ++part) {
            const auto stretch = stretch_of((*maps)[part], shape.axes);
            const std::uint32_t later = mesh.face(mesh.part(part).begin)[0] - mesh.face(0)[0];
            const Vec3 to = (*maps)[part].at(shape.axes.origin);
            const double largest =
                stretch ? std::max({stretch->scale[0], stretch->scale[1], std::abs(stretch->scale[2])}) : 0;
            if (!stretch ||
                farthest_off(mesh, first + later, shape.mesh, *stretch, to) > most_off * size * largest) {
                all = false;
                return;
            }
            shared.places[part] = {to, quaternion_of(stretch->x, stretch->y, stretch->z), stretch->scale};
        }
    });
    if (!done || !all) return {};
    return shared;
}

bool tells(const std::vector<NumberOfPart>& numbers, const Field& field) {
    return std::ranges::any_of(numbers,
                               [&](const NumberOfPart& number) { return number.field->name == field.name; });
}

std::vector<NumberOfPart> numbers_of_part(const Mesh& mesh, std::size_t part) {
    std::vector<NumberOfPart> numbers;
    const auto add = [&](const Field& field, std::size_t count, const auto& entry) {
        const double value = field.values[entry(0)];
        bool same = std::isfinite(value) && !tells(numbers, field);
        for (std::size_t at = 0; at < count && same; ++at)
            same = field.values[entry(at)] == value;
        if (same) numbers.push_back({&field, value});
    };
    const Mesh::Faces faces = mesh.part(part);
    for (const Field& field : mesh.face_fields())
        add(field, faces.end - faces.begin, [&](std::size_t at) { return faces.begin + at; });
    const auto corners = corners_of_part(mesh, part);
    for (const Field& field : mesh.fields())
        add(field, corners.size(), [&](std::size_t at) { return corners[at]; });
    return numbers;
}

ColouredPart coloured_part(const Mesh& mesh, std::size_t part, const std::vector<Rgb>& vertex_colours,
                           const std::vector<Rgb>& face_colours) {
    PartAlone alone = part_alone(mesh, part);
    ColouredPart coloured{std::move(alone.mesh), {}, {}};
    const Mesh::Faces faces = mesh.part(part);
    if (!face_colours.empty())
        coloured.face_colours.assign(face_colours.begin() + static_cast<std::ptrdiff_t>(faces.begin),
                                     face_colours.begin() + static_cast<std::ptrdiff_t>(faces.end));
    if (!vertex_colours.empty())
        for (const std::uint32_t vertex : alone.vertices)
            coloured.vertex_colours.push_back(vertex_colours[vertex]);
    return coloured;
}

}  // namespace plume

#include "core/picture/repeated_parts.hpp"

#include <algorithm>
#include <array>
#include <atomic>

#include "core/base/parallel.hpp"
#include "core/geometry/parts/mesh_parts.hpp"

namespace plume {
namespace {

// The vertices of part 0 are [first_vertex, first_vertex + count), its corners the first ones of the mesh.
struct Shape {
    std::uint32_t first_vertex = 0;
    std::size_t count = 0;
    std::size_t face_count = 0;
};

Shape shape_of(const Mesh& mesh) {
    const VertexRange vertices = vertices_of_part(mesh, 0);
    return {vertices.first, vertices.count, mesh.part(0).end};
}

// Four vertices of the shape, as far apart as is found by looking for the farthest three times, and the
// directions from the first of them to the others. The last is the normal of a shape that is flat.
class Axes {
public:
    Axes(const Mesh& mesh, const Shape& shape) {
        const auto at = [&](std::size_t index) { return mesh.vertex(shape.first_vertex + index); };
        const auto farthest = [&](auto measure) {
            std::size_t best = 0;
            for (std::size_t index = 0; index < shape.count; ++index)
                if (measure(at(index) - at(0)) > measure(at(best) - at(0))) best = index;
            return best;
        };
        chosen_[0] = farthest([](Vec3 d) { return length(d); });
        const Vec3 x = at(chosen_[0]) - at(0);
        chosen_[1] = farthest([&](Vec3 d) { return length(cross(x, d)); });
        const Vec3 normal = cross(x, at(chosen_[1]) - at(0));
        chosen_[2] = farthest([&](Vec3 d) { return std::abs(dot(normal, d)); });
        size_ = length(x);
        const double height = std::abs(dot(unit_or_zero(normal), at(chosen_[2]) - at(0)));
        flat_ = !(height > 1e-6 * size_);
        thin_ = !(length(normal) > 1e-6 * size_ * size_);
        const std::array<Vec3, 3> e = directions(mesh, shape.first_vertex);
        const double volume = dot(cross(e[0], e[1]), e[2]);
        inverse_ = {cross(e[1], e[2]) * (1 / volume), cross(e[2], e[0]) * (1 / volume),
                    cross(e[0], e[1]) * (1 / volume)};
    }

    // Without three vertices apart there is nothing to tell turns by.
    bool usable() const { return !thin_; }
    double size() const { return size_; }

    Affine map_to(const Mesh& mesh, std::uint32_t from, std::uint32_t first_vertex) const {
        const std::array<Vec3, 3> to = directions(mesh, first_vertex);
        const auto column = [&](double Vec3::*axis) {
            return to[0] * (inverse_[0].*axis) + to[1] * (inverse_[1].*axis) + to[2] * (inverse_[2].*axis);
        };
        Affine map{column(&Vec3::x), column(&Vec3::y), column(&Vec3::z), {}};
        map.shift = mesh.vertex(first_vertex) - map.turned(mesh.vertex(from));
        return map;
    }

private:
    std::array<Vec3, 3> directions(const Mesh& mesh, std::uint32_t first_vertex) const {
        const auto at = [&](std::size_t index) {
            return mesh.vertex(first_vertex + index) - mesh.vertex(first_vertex);
        };
        const Vec3 x = at(chosen_[0]), y = at(chosen_[1]);
        return {x, y, flat_ ? unit_or_zero(cross(x, y)) : at(chosen_[2])};
    }

    std::array<std::size_t, 3> chosen_{};
    std::array<Vec3, 3> inverse_;
    double size_ = 0;
    bool flat_ = false, thin_ = false;
};

// Whether a part's faces are those of the first, all corners later by the same number; that number.
std::optional<std::uint32_t> corners_later(const Mesh& mesh, std::size_t part, const Shape& shape) {
    const Mesh::Faces faces = mesh.part(part);
    if (faces.end - faces.begin != shape.face_count) return {};
    const std::uint32_t later = mesh.face(faces.begin)[0] - mesh.face(0)[0];
    for (std::size_t face = 0; face < shape.face_count; ++face) {
        const auto own = mesh.face(face), other = mesh.face(faces.begin + face);
        if (own.size() != other.size()) return {};
        for (std::size_t corner = 0; corner < own.size(); ++corner)
            if (other[corner] - own[corner] != later) return {};
    }
    return later;
}

bool fits(const Mesh& mesh, const Shape& shape, std::uint32_t first_vertex, const Affine& map, double most) {
    for (std::size_t index = 0; index < shape.count; ++index) {
        const Vec3 mapped = map.at(mesh.vertex(shape.first_vertex + index));
        if (!(length(mapped - mesh.vertex(first_vertex + index)) <= most)) return false;
    }
    return true;
}

}  // namespace

std::optional<std::vector<Affine>> repeats_of(const Mesh& mesh, const Run& run) {
    if (mesh.part_count() < 2) return {};
    const Shape shape = shape_of(mesh);
    // A first part that shares vertices all over the mesh is no shape by itself.
    if (shape.count > mesh.vertex_count() / mesh.part_count()) return {};
    const Axes axes(mesh, shape);
    if (!axes.usable()) return {};
    std::vector<Affine> maps(mesh.part_count());
    std::atomic<bool> all = true;
    const bool finished = parallel_blocks(maps.size(), 1024, run, [&](std::size_t begin, std::size_t end) {
        for (std::size_t part = begin; part < end && all; ++part) {
            const auto later = corners_later(mesh, part, shape);
            if (!later) {
                all = false;
                return;
            }
            const std::uint32_t first_vertex = shape.first_vertex + *later;
            maps[part] = axes.map_to(mesh, shape.first_vertex, first_vertex);
            const double size =
                axes.size() * std::max({length(maps[part].x), length(maps[part].y), length(maps[part].z)});
            if (!fits(mesh, shape, first_vertex, maps[part], 1e-5 * size)) all = false;
        }
    });
    if (!finished || !all) return {};
    return maps;
}

}  // namespace plume

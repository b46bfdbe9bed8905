#include "core/geometry/meshes/relaxed_mesh.hpp"

#include <cmath>

#include "core/base/incidence.hpp"
#include "core/base/parallel.hpp"
#include "core/geometry/meshes/mesh_sides.hpp"
#include "core/geometry/meshes/mesh_volume.hpp"
#include "core/geometry/meshes/vertex_places.hpp"

namespace plume {
namespace {

// Taubin's second factor: a little more outwards than the first went in.
constexpr double outwards_times = -1.04;

// Who pulls on each vertex: neighbours[first[v] .. first[v + 1] - 1].
Incidence pulls_of(const Mesh& mesh, RimRule rule) {
    const MeshSides sides = sides_of(mesh);
    std::vector<std::uint8_t> on_rim(mesh.vertex_count(), 0);
    const auto is_rim = [&](std::size_t side) { return sides.face_count(side) != 2; };
    for (std::size_t side = 0; side < sides.count(); ++side)
        if (is_rim(side))
            for (const std::uint32_t end : sides.ends[side])
                on_rim[end] = 1;
    const auto pulls = [&](std::uint32_t vertex, std::size_t side) {
        if (on_rim[vertex] == 0 || rule == RimRule::freed) return true;
        return rule == RimRule::slid && is_rim(side);
    };
    return incidence(mesh.vertex_count(), [&](auto use) {
        for (std::size_t side = 0; side < sides.count(); ++side) {
            const auto [a, b] = sides.ends[side];
            if (pulls(a, side)) use(a, b);
            if (pulls(b, side)) use(b, a);
        }
    });
}

bool step(std::vector<Vec3>& places, std::vector<Vec3>& next, const Incidence& pulls, double share,
          const Run& run) {
    const bool done = parallel_blocks(places.size(), 8192, run, [&](std::size_t begin, std::size_t end) {
        for (std::size_t vertex = begin; vertex < end; ++vertex) {
            const std::uint32_t first = pulls.first[vertex], count = pulls.first[vertex + 1] - first;
            next[vertex] = places[vertex];
            if (count == 0) continue;
            Vec3 sum;
            for (std::uint32_t at = first; at < first + count; ++at)
                sum = sum + places[pulls.of[at]];
            next[vertex] = places[vertex] + (sum * (1.0 / count) - places[vertex]) * share;
        }
    });
    places.swap(next);
    return done;
}

Mesh with_places(const Mesh& mesh, const std::vector<Vec3>& places) {
    Mesh::Parts parts = mesh.parts();
    set_vertices(parts, places);
    return *Mesh::make(std::move(parts));
}

void scale_to_volume(std::vector<Vec3>& places, const Mesh& before) {
    const double now = volume_of(with_places(before, places)), then = volume_of(before);
    if (!(now * then > 0)) return;
    const double scale = std::cbrt(then / now);
    Vec3 middle;
    for (const Vec3 place : places)
        middle = middle + place * (1.0 / static_cast<double>(places.size()));
    for (Vec3& place : places)
        place = middle + (place - middle) * scale;
}

}  // namespace

Result<Mesh> relaxed(const Mesh& mesh, const RelaxRule& rule, const Run& run) {
    const Incidence pulls = pulls_of(mesh, rule.rim);
    std::vector<Vec3> places = vertex_places(mesh), next(places.size());
    for (int round = 0; round < rule.rounds; ++round) {
        if (!step(places, next, pulls, rule.share, run)) return cancelled_error();
        if (rule.keeps_form && !step(places, next, pulls, outwards_times * rule.share, run))
            return cancelled_error();
    }
    if (rule.keeps_form && is_closed(mesh)) scale_to_volume(places, mesh);
    return with_places(mesh, places);
}

}  // namespace plume

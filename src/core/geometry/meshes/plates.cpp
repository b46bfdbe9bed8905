#include "core/geometry/meshes/plates.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <functional>
#include <map>
#include <numbers>
#include <set>
#include <utility>

#include "core/geometry/measures/outline_area.hpp"

namespace plume {
namespace {

// Of what looks within 20° of a direction, or square to it.
const double along_it = std::cos(std::numbers::pi / 9), square_to_it = std::sin(std::numbers::pi / 9);

double area_within(const Mesh& mesh, const VertexLoop& loop) {
    std::vector<Vec3> places;
    for (const std::uint32_t vertex : loop)
        places.push_back(mesh.vertex(vertex));
    return length(area_vector(places));
}

Vec3 largest_area(const Mesh& mesh, Mesh::Faces part) {
    Vec3 largest;
    double most = 0;
    for (std::size_t face = part.begin; face < part.end; ++face) {
        const Vec3 area = area_vector(mesh, face);
        // What is larger by a rounding alone does not count.
        if (length(area) <= most * (1 + 1e-9)) continue;
        most = length(area);
        largest = area;
    }
    return largest;
}

// Directions that much of a part looks in, roughly, the most first.
std::vector<Vec3> usual_directions(const Mesh& mesh, Mesh::Faces part) {
    constexpr double cells = 6;
    constexpr std::size_t most = 8;
    std::map<std::array<long, 3>, Vec3> sums;
    for (std::size_t face = part.begin; face < part.end; ++face) {
        const Vec3 area = area_vector(mesh, face), way = unit_or_zero(area) * cells;
        Vec3& sum = sums[{std::lround(way.x), std::lround(way.y), std::lround(way.z)}];
        sum = sum + area;
    }
    std::vector<Vec3> directions;
    directions.reserve(sums.size());
    for (const auto& [cell, sum] : sums)
        directions.push_back(sum);
    std::ranges::stable_sort(directions, std::greater(), [](Vec3 sum) { return length(sum); });
    directions.resize(std::min(directions.size(), most));
    return directions;
}

// Of what looks within 20° of a direction, and of everything.
struct AreaAlong {
    double along = 0, all = 0;
};
AreaAlong area_along(const Mesh& mesh, Mesh::Faces part, Vec3 way) {
    AreaAlong sum;
    for (std::size_t face = part.begin; face < part.end; ++face) {
        const Vec3 area = area_vector(mesh, face);
        const double size = length(area);
        if (dot(area, way) >= along_it * size) sum.along += size;
        sum.all += size;
    }
    return sum;
}

// Which way a plate looks: as its largest face does, unless more of it looks another way, as where the small
// faces of its rim are larger than those its sides were cut into.
Vec3 way_of(const Mesh& mesh, Mesh::Faces part) {
    constexpr double surely = 1.0 / 3, by_rounding = 1 + 1e-6;
    Vec3 best = unit_or_zero(largest_area(mesh, part));
    AreaAlong most = area_along(mesh, part, best);
    if (most.along >= surely * most.all) return best;
    for (const Vec3 direction : usual_directions(mesh, part)) {
        const Vec3 way = unit_or_zero(direction);
        const AreaAlong area = area_along(mesh, part, way);
        if (area.along <= most.along * by_rounding) continue;
        most = area;
        best = way;
    }
    return best;
}

}  // namespace

std::vector<VertexLoop> loops_around(const Mesh& mesh, std::span<const std::size_t> faces) {
    std::set<std::pair<std::uint32_t, std::uint32_t>> edges;
    for (const std::size_t face : faces) {
        const auto corners = mesh.face(face);
        for (std::size_t at = 0; at < corners.size(); ++at)
            edges.emplace(corners[at], corners[(at + 1) % corners.size()]);
    }
    std::multimap<std::uint32_t, std::uint32_t> onwards;
    for (const auto& [from, to] : edges)
        if (!edges.contains({to, from})) onwards.emplace(from, to);
    std::vector<VertexLoop> loops;
    while (!onwards.empty()) {
        VertexLoop loop{onwards.begin()->first};
        for (auto next = onwards.begin(); next != onwards.end(); next = onwards.find(loop.back())) {
            const std::uint32_t to = next->second;
            onwards.erase(next);
            if (to == loop.front()) break;
            loop.push_back(to);
        }
        loops.push_back(std::move(loop));
    }
    const auto largest =
        std::ranges::max_element(loops, {}, [&](const VertexLoop& loop) { return area_within(mesh, loop); });
    if (largest != loops.end()) std::iter_swap(loops.begin(), largest);
    return loops;
}

std::optional<Plate> plate_of(const Mesh& mesh, std::size_t part) {
    const Mesh::Faces faces = mesh.part(part);
    const Vec3 way = way_of(mesh, faces);
    if (way == Vec3{}) return {};
    Plate plate;
    Vec3 sum;
    for (std::size_t face = faces.begin; face < faces.end; ++face) {
        const Vec3 area = area_vector(mesh, face);
        const double share = dot(unit_or_zero(area), way);
        if (std::abs(share) < along_it && std::abs(share) > square_to_it) return {};
        if (share < along_it) continue;
        plate.faces.push_back(face);
        sum = sum + area;
    }
    const Vec3 normal = unit_or_zero(sum), upwards = Vec3{0, 0, 1} - normal * normal.z;
    const Vec3 across = length(upwards) > 1e-6 ? upwards : Vec3{0, 1, 0} - normal * normal.y;
    plate.plane =
        placement_of(mesh.vertex(mesh.face(plate.faces.front()).front()), normal, cross(across, normal));
    plate.loops = loops_around(mesh, plate.faces);
    return plate.loops.empty() ? std::nullopt : std::optional(std::move(plate));
}

}  // namespace plume

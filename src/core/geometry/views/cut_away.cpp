#include "core/geometry/views/cut_away.hpp"

#include <algorithm>
#include <map>
#include <utility>

#include "core/geometry/levels/mesh_levels.hpp"
#include "core/geometry/meshes/face_builder.hpp"
#include "core/geometry/meshes/mesh_volume.hpp"
#include "core/geometry/meshes/triangulate.hpp"
#include "core/geometry/views/straight_pieces.hpp"

namespace plume {
namespace {

// How far each vertex lies behind the plane.
std::vector<double> behind_plane(const Mesh& mesh, Vec3 away, double depth) {
    std::vector<double> behind(mesh.vertex_count());
    for (std::size_t vertex = 0; vertex < behind.size(); ++vertex)
        behind[vertex] = dot(mesh.vertex(vertex), away) - depth;
    return behind;
}

Vec3 crossing(Vec3 from, double from_behind, Vec3 to, double to_behind) {
    return from + (to - from) * (from_behind / (from_behind - to_behind));
}

class MeshCutter {
public:
    MeshCutter(const Mesh& mesh, const std::vector<double>& behind) : mesh_(mesh), behind_(behind) {
        for (const auto& [column, to] :
             {std::pair(&mesh.x(), &x_), std::pair(&mesh.y(), &y_), std::pair(&mesh.z(), &z_)})
            to->assign(column->span().begin(), column->span().end());
    }

    std::optional<Mesh> take() {
        for (std::size_t face = 0; face < mesh_.face_count(); ++face)
            add_face(face);
        if (parts_.corners.empty()) return {};
        parts_.x = std::move(x_);
        parts_.y = std::move(y_);
        parts_.z = std::move(z_);
        auto mesh = Mesh::make(std::move(parts_));
        if (!mesh) return {};
        return without_loose_vertices(*mesh);
    }

private:
    bool is_behind(std::uint32_t vertex) const { return behind_[vertex] >= 0; }

    void add_face(std::size_t face) {
        const auto corners = mesh_.face(face);
        const auto kept = std::ranges::count_if(corners, [&](std::uint32_t at) { return is_behind(at); });
        if (static_cast<std::size_t>(kept) == corners.size()) return add({corners.begin(), corners.end()});
        if (kept == 0) return;
        for_each_triangle(mesh_, face, [&](std::uint32_t a, std::uint32_t b, std::uint32_t c) {
            std::vector<std::uint32_t> left;
            const std::array triangle{corners[a], corners[b], corners[c]};
            for (std::size_t at = 0; at < 3; ++at) {
                const std::uint32_t from = triangle[at], to = triangle[(at + 1) % 3];
                if (is_behind(from)) left.push_back(from);
                // A corner in the plane is where it is cut.
                if (is_behind(from) != is_behind(to) && behind_[from] != 0 && behind_[to] != 0)
                    left.push_back(cut(from, to));
            }
            if (left.size() >= 3) add(left);
        });
    }
    void add(const std::vector<std::uint32_t>& corners) {
        parts_.corners.insert(parts_.corners.end(), corners.begin(), corners.end());
        parts_.first.push_back(static_cast<std::uint32_t>(parts_.corners.size()));
    }
    // One vertex a side, whichever face asks.
    std::uint32_t cut(std::uint32_t from, std::uint32_t to) {
        const auto key = std::minmax(from, to);
        const auto [found, is_new] = cuts_.try_emplace(key, static_cast<std::uint32_t>(x_.size()));
        if (is_new) {
            const Vec3 place = crossing(mesh_.vertex(key.first), behind_[key.first], mesh_.vertex(key.second),
                                        behind_[key.second]);
            x_.push_back(place.x);
            y_.push_back(place.y);
            z_.push_back(place.z);
        }
        return found->second;
    }

    const Mesh& mesh_;
    const std::vector<double>& behind_;
    Doubles x_, y_, z_;
    Mesh::Parts parts_;
    std::map<std::pair<std::uint32_t, std::uint32_t>, std::uint32_t> cuts_;
};

std::vector<std::array<Vec3, 2>> lines_behind(const std::vector<std::array<Vec3, 2>>& lines, Vec3 away,
                                              double depth) {
    std::vector<std::array<Vec3, 2>> kept;
    for (const auto& [from, to] : lines) {
        const double a = dot(from, away) - depth, b = dot(to, away) - depth;
        if (a < 0 && b < 0) continue;
        const Vec3 between = a < 0 || b < 0 ? crossing(from, a, to, b) : Vec3{};
        kept.push_back({a < 0 ? between : from, b < 0 ? between : to});
    }
    return kept;
}

Status cut_faces(const Mesh& mesh, const std::vector<double>& behind, const ViewFrame& frame, CutThing& to,
                 const Run& run) {
    constexpr std::array plane{0.0};
    const auto lines = mesh_levels(mesh, behind, plane, run);
    if (!lines) return lines.error();
    std::vector<FlatRing> rings;
    const bool body = is_closed(mesh);
    for (std::size_t line = 0; line < lines->count(); ++line) {
        const std::span<const Vec3> places = lines->line(line);
        const bool closed = lines->closed[line] != 0;
        const auto pieces = straight_pieces(places, closed);
        to.cuts.insert(to.cuts.end(), pieces.begin(), pieces.end());
        if (!closed || !body) continue;
        FlatRing& ring = rings.emplace_back();
        for (const Vec3 place : places)
            ring.push_back({dot(place, frame.right), dot(place, frame.up)});
    }
    to.face = region_within(rings);
    return Done{};
}

}  // namespace

Result<CutThing> cut_away(const SeenThing& thing, const ViewFrame& frame, double depth, const Run& run) {
    CutThing left;
    left.lines = lines_behind(thing.lines, frame.away, depth);
    if (!thing.mesh) return left;
    const std::vector<double> behind = behind_plane(*thing.mesh, frame.away, depth);
    left.behind = MeshCutter(*thing.mesh, behind).take();
    if (Status done = cut_faces(*thing.mesh, behind, frame, left, run); !done) return done.error();
    return left;
}

Mesh mesh_of_cut(const FlatRegion& face, const ViewFrame& frame, double depth) {
    Doubles x, y, z;
    for (const FlatPoint place : face.places) {
        const Vec3 at = frame.right * place.x + frame.up * place.y + frame.away * depth;
        x.push_back(at.x);
        y.push_back(at.y);
        z.push_back(at.z);
    }
    Mesh::Parts parts;
    for (const auto& triangle : face.triangles) {
        parts.corners.insert(parts.corners.end(), triangle.begin(), triangle.end());
        parts.first.push_back(static_cast<std::uint32_t>(parts.corners.size()));
    }
    parts.x = std::move(x);
    parts.y = std::move(y);
    parts.z = std::move(z);
    return *Mesh::make(std::move(parts));
}

}  // namespace plume

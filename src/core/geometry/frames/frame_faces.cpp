#include "core/geometry/frames/frame_faces.hpp"

#include <algorithm>
#include <cmath>

#include "core/data/gathered.hpp"
#include "core/geometry/frames/node_normals.hpp"

namespace plume {
namespace {

constexpr auto nobody = static_cast<std::uint32_t>(-1);

// Anticlockwise about the normal.
void put_in_order(const BarFrame& frame, const std::vector<Vec3>& normals, Spokes& spokes) {
    for (std::uint32_t node = 0; node < normals.size(); ++node) {
        const std::uint32_t first = spokes.first[node], end = spokes.first[node + 1];
        if (end - first < 3) continue;
        const Vec3 normal = normals[node];
        const Vec3 start = way_of(frame, spokes.half[first]);
        const Vec3 x = unit_or_zero(start - normal * dot(start, normal)), y = cross(normal, x);
        std::vector<std::pair<double, std::uint32_t>> sorted;
        for (std::uint32_t at = first; at < end; ++at) {
            const Vec3 way = way_of(frame, spokes.half[at]);
            sorted.emplace_back(std::atan2(dot(way, y), dot(way, x)), spokes.half[at]);
        }
        std::ranges::sort(sorted);
        for (std::uint32_t at = first; at < end; ++at)
            spokes.half[at] = sorted[at - first].second;
    }
}

class Walk {
public:
    Walk(const BarFrame& frame, const std::vector<Vec3>& normals, const Spokes& spokes)
        : frame_(frame), normals_(normals), spokes_(spokes), place_(2 * frame.member_count()) {
        for (std::uint32_t at = 0; at < spokes.half.size(); ++at)
            place_[spokes.half[at]] = at;
    }

    // The half-members round the face to the left of one.
    std::vector<std::uint32_t> round(std::uint32_t from, std::vector<std::uint8_t>& walked) const {
        std::vector<std::uint32_t> halves;
        for (std::uint32_t half = from; walked[half] == 0; half = next(half)) {
            walked[half] = 1;
            halves.push_back(half);
        }
        return halves;
    }
    bool is_face(const std::vector<std::uint32_t>& corners, std::size_t most) const {
        if (corners.size() < 3 || corners.size() > most) return false;
        Vec3 area, normal;
        const Vec3 origin = frame_.nodes().point(corners[0]);
        for (std::size_t at = 0; at < corners.size(); ++at) {
            area = area + cross(frame_.nodes().point(corners[at]) - origin,
                                frame_.nodes().point(corners[(at + 1) % corners.size()]) - origin);
            normal = normal + normals_[corners[at]];
        }
        std::vector<std::uint32_t> sorted = corners;
        std::ranges::sort(sorted);
        const bool once = std::ranges::adjacent_find(sorted) == sorted.end();
        return once && dot(area, normal) > 0;
    }

private:
    // Arriving at a node, the member next to the one walked, clockwise, leaves it.
    std::uint32_t next(std::uint32_t half) const {
        const std::uint32_t back = half ^ 1U, node = goal_of(frame_, half);
        const std::uint32_t first = spokes_.first[node], end = spokes_.first[node + 1];
        const std::uint32_t at = place_[back];
        return spokes_.half[at == first ? end - 1 : at - 1];
    }

    const BarFrame& frame_;
    const std::vector<Vec3>& normals_;
    const Spokes& spokes_;
    std::vector<std::uint32_t> place_;
};

Result<Mesh> mesh_over(const BarFrame& frame, std::vector<std::uint32_t> first,
                       std::vector<std::uint32_t> corners) {
    std::vector<std::uint32_t> number(frame.nodes().address_count(), nobody);
    std::vector<std::size_t> used;
    for (std::uint32_t& corner : corners) {
        if (number[corner] == nobody) {
            number[corner] = static_cast<std::uint32_t>(used.size());
            used.push_back(corner);
        }
        corner = number[corner];
    }
    const PointLattice& nodes = frame.nodes();
    return Mesh::make({.x = gathered(nodes.x(), used),
                       .y = gathered(nodes.y(), used),
                       .z = gathered(nodes.z(), used),
                       .first = std::move(first),
                       .corners = std::move(corners),
                       .fields = gathered(nodes.fields(), used)});
}

}  // namespace

Result<FrameFaces> faces_between(const BarFrame& frame, std::size_t most_corners, const Run& run) {
    const auto made = node_normals(frame, run);
    if (!made) return made.error();
    const std::vector<Vec3>& normals = *made;
    Spokes spokes = spokes_of(frame);
    put_in_order(frame, normals, spokes);
    const Walk walk(frame, normals, spokes);
    std::vector<std::uint8_t> walked(2 * frame.member_count(), 0);
    std::vector<std::uint32_t> first{0}, corners;
    std::size_t left_out = 0;
    for (std::uint32_t half = 0; half < walked.size(); ++half) {
        if (half % 4096 == 0 && run.cancelled()) return cancelled_error();
        if (walked[half] != 0) continue;
        std::vector<std::uint32_t> face = walk.round(half, walked);
        for (std::uint32_t& at : face)
            at = origin_of(frame, at);
        if (!walk.is_face(face, most_corners)) {
            left_out += face.size() > 2 ? 1 : 0;
            continue;
        }
        corners.insert(corners.end(), face.begin(), face.end());
        first.push_back(static_cast<std::uint32_t>(corners.size()));
    }
    if (first.size() == 1)
        return Error{ErrorCode::empty_input, "", "enclose no face of so few corners",
                     "Allow more corners, or add members."};
    auto mesh = mesh_over(frame, std::move(first), std::move(corners));
    if (!mesh) return mesh.error();
    return FrameFaces{*std::move(mesh), left_out};
}

}  // namespace plume

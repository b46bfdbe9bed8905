#include "core/geometry/meshes/dual_mesh.hpp"

#include <algorithm>
#include <limits>
#include <optional>

#include "core/base/incidence.hpp"
#include "core/data/gathered.hpp"
#include "core/geometry/meshes/face_places.hpp"
#include "core/geometry/meshes/mesh_sides.hpp"

namespace plume {
namespace {

constexpr auto none = std::numeric_limits<std::uint32_t>::max();

// The corners of a mesh by their vertex.
Incidence corners_of_vertices(const Mesh& mesh) {
    const std::vector<std::uint32_t>& vertices = mesh.parts().corners;
    return incidence(mesh.vertex_count(), [&](auto use) {
        for (std::uint32_t corner = 0; corner < vertices.size(); ++corner)
            use(vertices[corner], corner);
    });
}

class Dual {
public:
    explicit Dual(const Mesh& mesh)
        : mesh_(mesh),
          sides_(sides_of(mesh)),
          faces_(faces_of_corners(mesh)),
          around_(corners_of_vertices(mesh)) {
        for (std::size_t face = 0; face < mesh.face_count(); ++face)
            places_.push_back(face_middle(mesh, face));
    }

    DualMesh made(bool with_rims) {
        DualMesh result{*Mesh::make({}), 0};
        std::vector<std::uint32_t> from;
        for (std::uint32_t vertex = 0; vertex < mesh_.vertex_count(); ++vertex) {
            const auto ring = ring_of(vertex, with_rims);
            if (!ring || ring->size() < 3) {
                result.left_out += around_.first[vertex + 1] > around_.first[vertex] ? 1 : 0;
                continue;
            }
            parts_.corners.insert(parts_.corners.end(), ring->begin(), ring->end());
            parts_.first.push_back(static_cast<std::uint32_t>(parts_.corners.size()));
            from.push_back(vertex);
        }
        Doubles x, y, z;
        for (const Vec3 place : places_) {
            x.push_back(place.x);
            y.push_back(place.y);
            z.push_back(place.z);
        }
        parts_.x = std::move(x);
        parts_.y = std::move(y);
        parts_.z = std::move(z);
        parts_.face_fields = gathered(mesh_.fields(), from);
        if (places_.size() == mesh_.face_count()) parts_.fields = mesh_.face_fields();
        result.mesh = *Mesh::make(std::move(parts_));
        return result;
    }

private:
    std::uint32_t before(std::uint32_t corner) const {
        const std::uint32_t face = faces_[corner];
        return corner == mesh_.parts().first[face] ? mesh_.parts().first[face + 1] - 1 : corner - 1;
    }
    // The corner of the next face round the vertex, anticlockwise: over the side that comes to it.
    std::uint32_t next_round(std::uint32_t corner) const {
        const std::uint32_t coming = before(corner), side = sides_.of_corner[coming];
        if (sides_.face_count(side) != 2) return none;
        const std::uint32_t first = sides_.corners[sides_.first[side]],
                            other = first == coming ? sides_.corners[sides_.first[side] + 1] : first;
        // It has to leave the vertex along that side.
        return mesh_.parts().corners[other] == mesh_.parts().corners[corner] ? other : none;
    }
    std::uint32_t middle_of(std::uint32_t side) {
        if (middles_.empty()) middles_.assign(sides_.count(), none);
        if (middles_[side] == none) {
            middles_[side] = static_cast<std::uint32_t>(places_.size());
            const auto [a, b] = sides_.ends[side];
            places_.push_back((mesh_.vertex(a) + mesh_.vertex(b)) * 0.5);
        }
        return middles_[side];
    }
    std::optional<std::vector<std::uint32_t>> ring_of(std::uint32_t vertex, bool with_rims) {
        const std::uint32_t begin = around_.first[vertex], end = around_.first[vertex + 1];
        if (begin == end) return {};
        // On a rim it begins where no face comes before.
        std::uint32_t start = around_.of[begin];
        bool rim = false;
        for (std::uint32_t at = begin; at < end; ++at) {
            const std::uint32_t side = sides_.of_corner[around_.of[at]];
            if (sides_.face_count(side) == 2) continue;
            if (rim) return {};  // two rims meet in it
            rim = true;
            start = around_.of[at];
        }
        std::vector<std::uint32_t> ring, corners;
        for (std::uint32_t corner = start; corner != none && corners.size() <= end - begin;
             corner = next_round(corner)) {
            if (!corners.empty() && corner == start) break;
            corners.push_back(corner);
            ring.push_back(faces_[corner]);
        }
        if (corners.size() != end - begin) return {};
        if (!rim) return ring;
        if (!with_rims) return {};
        ring.insert(ring.begin(), middle_of(sides_.of_corner[start]));
        ring.push_back(middle_of(sides_.of_corner[before(corners.back())]));
        ring.push_back(static_cast<std::uint32_t>(places_.size()));
        places_.push_back(mesh_.vertex(vertex));
        return ring;
    }

    const Mesh& mesh_;
    MeshSides sides_;
    std::vector<std::uint32_t> faces_;
    Incidence around_;
    std::vector<Vec3> places_;
    std::vector<std::uint32_t> middles_;  // of sides, where they are asked for
    Mesh::Parts parts_;
};

}  // namespace

DualMesh dual_of(const Mesh& mesh, bool with_rims) {
    return Dual(mesh).made(with_rims);
}

}  // namespace plume

#include "core/geometry/meshes/triangulate.hpp"

#include <algorithm>
#include <numeric>

#include "core/geometry/meshes/vertex_places.hpp"

namespace plume {
namespace {

Vec3 turn_at(Vec3 a, Vec3 b, Vec3 c) {
    return cross(b - a, c - a);
}

Vec3 area_vector_of(std::span<const Vec3> corners) {
    Vec3 sum;
    for (std::size_t at = 1; at + 1 < corners.size(); ++at)
        sum = sum + turn_at(corners[0], corners[at], corners[at + 1]);
    return sum;
}

// What is left of a face while its ears are cut.
class Remainder {
public:
    explicit Remainder(std::span<const Vec3> corners)
        : corners_(corners), up_(area_vector_of(corners)), left_(corners.size()) {
        std::iota(left_.begin(), left_.end(), 0U);
    }

    bool more() const { return left_.size() >= 3; }

    CornerTriple cut() {
        // Where no ear is clean, as in a face that crosses itself, the sharpest turn goes.
        std::size_t best = 0;
        double sharpest = -1;
        for (std::size_t at = 0; at < left_.size(); ++at) {
            const auto [a, b, c] = around(at);
            const double turn = dot(turn_at(corners_[a], corners_[b], corners_[c]), up_);
            if (turn > 0 && is_empty(a, b, c)) return taken(at);
            if (turn <= sharpest) continue;
            sharpest = turn;
            best = at;
        }
        return taken(best);
    }

private:
    CornerTriple around(std::size_t at) const {
        const std::size_t count = left_.size();
        return {left_[(at + count - 1) % count], left_[at], left_[(at + 1) % count]};
    }
    CornerTriple taken(std::size_t at) {
        const CornerTriple ear = around(at);
        left_.erase(left_.begin() + static_cast<std::ptrdiff_t>(at));
        return ear;
    }
    bool is_empty(std::uint32_t a, std::uint32_t b, std::uint32_t c) const {
        return std::ranges::none_of(left_, [&](std::uint32_t other) {
            if (other == a || other == b || other == c) return false;
            const Vec3 p = corners_[other];
            return dot(turn_at(corners_[a], corners_[b], p), up_) >= 0 &&
                   dot(turn_at(corners_[b], corners_[c], p), up_) >= 0 &&
                   dot(turn_at(corners_[c], corners_[a], p), up_) >= 0;
        });
    }

    std::span<const Vec3> corners_;
    Vec3 up_;
    std::vector<std::uint32_t> left_;
};

}  // namespace

bool is_fan(const Mesh& mesh, std::size_t face) {
    const auto corners = mesh.face(face);
    const Vec3 up = area_vector(mesh, face), origin = mesh.vertex(corners[0]);
    for (std::size_t at = 1; at + 1 < corners.size(); ++at)
        if (dot(turn_at(origin, mesh.vertex(corners[at]), mesh.vertex(corners[at + 1])), up) < 0)
            return false;
    return true;
}

std::vector<CornerTriple> ears_of(std::span<const Vec3> corners) {
    std::vector<CornerTriple> ears;
    for (Remainder remainder(corners); remainder.more();)
        ears.push_back(remainder.cut());
    return ears;
}

std::vector<CornerTriple> ears_of(const Mesh& mesh, std::size_t face) {
    return ears_of(corner_places(mesh, face));
}

}  // namespace plume

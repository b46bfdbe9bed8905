#include "core/geometry/meshes/posts.hpp"

#include <algorithm>
#include <cmath>
#include <limits>
#include <mutex>
#include <numbers>

#include "core/base/parallel.hpp"
#include "core/geometry/measures/point_tree.hpp"

namespace plume {
namespace {

// Corners of a footprint of size 1, anticlockwise.
struct Corner {
    double x = 0, y = 0;
};
std::vector<Corner> unit_footprint(const PostPlan& plan) {
    if (plan.footprint == Footprint::box) return {{-0.5, -0.5}, {0.5, -0.5}, {0.5, 0.5}, {-0.5, 0.5}};
    std::vector<Corner> corners;
    for (std::size_t at = 0; at < plan.sides; ++at) {
        const double angle = 2 * std::numbers::pi * static_cast<double>(at) / static_cast<double>(plan.sides);
        corners.push_back({std::cos(angle), std::sin(angle)});
    }
    return corners;
}

Corner sized(Corner unit, const Post& post, Footprint footprint, double c, double s) {
    const double x = unit.x * (footprint == Footprint::box ? post.width : post.radius);
    const double y = unit.y * (footprint == Footprint::box ? post.depth : post.radius);
    return {c * x - s * y, s * x + c * y};
}

void write_faces(std::size_t post, std::size_t sides, bool downwards, Mesh::Parts& parts) {
    const auto bottom = static_cast<std::uint32_t>(post * 2 * sides),
               top = bottom + static_cast<std::uint32_t>(sides);
    const std::size_t corner_count = 6 * sides, face_count = sides + 2;
    std::uint32_t* corner = parts.corners.data() + post * corner_count;
    std::uint32_t* first = parts.first.data() + post * face_count + 1;
    const auto start = static_cast<std::uint32_t>(post * corner_count);
    const auto n = static_cast<std::uint32_t>(sides);
    for (std::uint32_t side = 0; side < n; ++side) {
        const std::uint32_t next = side + 1 < n ? side + 1 : 0;
        const std::uint32_t quad[4]{bottom + side, bottom + next, top + next, top + side};
        for (std::uint32_t at = 0; at < 4; ++at)
            corner[4 * side + at] = quad[downwards ? 3 - at : at];
        first[side] = start + 4 * (side + 1);
    }
    for (std::uint32_t side = 0; side < n; ++side) {
        corner[4 * n + side] = bottom + (downwards ? side : n - 1 - side);
        corner[5 * n + side] = top + (downwards ? n - 1 - side : side);
    }
    first[n] = start + 5 * n;
    first[n + 1] = start + 6 * n;
}

// Posts as the overlap sees them.
struct Standing {
    std::vector<Corner> corners;  // around the origin of the plan; empty for circles
    double low = 0, high = 0;     // heights
    double radius = 0;            // that holds the footprint
};

Standing standing_of(const Post& post, const PostPlan& plan, const std::vector<Corner>& unit) {
    Standing result;
    const double z = post.placement.origin.z;
    result.low = std::min(z, z + post.height);
    result.high = std::max(z, z + post.height);
    result.radius = plan.footprint == Footprint::box ? std::hypot(post.width, post.depth) / 2 : post.radius;
    if (plan.footprint == Footprint::circle) return result;
    const double c = std::cos(post.turn_rad), s = std::sin(post.turn_rad);
    for (const Corner corner : unit) {
        const Corner local = sized(corner, post, plan.footprint, c, s);
        const Vec3 world = post.placement.turned({local.x, local.y, 0});
        result.corners.push_back({world.x, world.y});
    }
    return result;
}

// How deep `b`, moved by `offset`, stands in `a`: the least overlap over the edge normals of a; 0 or less:
// apart.
double depth_along_normals(const std::vector<Corner>& a, const std::vector<Corner>& b, Corner offset) {
    double least = std::numeric_limits<double>::infinity();
    for (std::size_t at = 0; at < a.size(); ++at) {
        const Corner from = a[at], to = a[(at + 1) % a.size()];
        const double size = std::hypot(to.x - from.x, to.y - from.y);
        if (!(size > 0)) continue;
        const Corner normal{(to.y - from.y) / size, (from.x - to.x) / size};
        const auto along = [&](Corner p) { return p.x * normal.x + p.y * normal.y; };
        double nearest = std::numeric_limits<double>::infinity();
        for (const Corner p : b)
            nearest = std::min(nearest, along({p.x + offset.x, p.y + offset.y}));
        least = std::min(least, along(from) - nearest);
    }
    return least;
}

double depth_of(const Standing& a, const Standing& b, Vec3 offset) {
    if (a.low >= b.high || b.low >= a.high) return 0;
    if (a.corners.empty()) return a.radius + b.radius - std::hypot(offset.x, offset.y);
    return std::min(depth_along_normals(a.corners, b.corners, {offset.x, offset.y}),
                    depth_along_normals(b.corners, a.corners, {-offset.x, -offset.y}));
}

}  // namespace

Result<Mesh> posts_mesh(const std::vector<Post>& posts, const PostPlan& plan, const Run& run) {
    const std::vector<Corner> unit = unit_footprint(plan);
    const std::size_t sides = unit.size(), vertices = 2 * sides * posts.size();
    if (6 * sides * posts.size() > std::numeric_limits<std::uint32_t>::max())
        return Error{ErrorCode::over_budget, "", "These posts would have more than 4 294 967 295 corners",
                     "Lower the sides, or keep fewer points."};
    Doubles x(vertices), y(vertices), z(vertices), height(vertices);
    Mesh::Parts parts;
    parts.corners.resize(6 * sides * posts.size());
    parts.first.resize((sides + 2) * posts.size() + 1);
    parts.first[0] = 0;
    parts.part_starts.resize(posts.size());
    for (std::size_t at = 0; at < posts.size(); ++at)
        parts.part_starts[at] = static_cast<std::uint32_t>(at * (sides + 2));
    const bool finished = parallel_blocks(posts.size(), 2048, run, [&](std::size_t begin, std::size_t end) {
        for (std::size_t at = begin; at < end; ++at) {
            const Post& post = posts[at];
            const double c = std::cos(post.turn_rad), s = std::sin(post.turn_rad);
            const Vec3 rise = post.placement.up * post.height;
            for (std::size_t side = 0; side < sides; ++side) {
                const Corner local = sized(unit[side], post, plan.footprint, c, s);
                const Vec3 low = post.placement.to_world({local.x, local.y, 0});
                const std::size_t bottom = 2 * sides * at + side, top = bottom + sides;
                x[bottom] = low.x;
                y[bottom] = low.y;
                z[bottom] = low.z;
                x[top] = low.x + rise.x;
                y[top] = low.y + rise.y;
                z[top] = low.z + rise.z;
                height[bottom] = height[top] = post.height;
            }
            write_faces(at, sides, post.height < 0, parts);
        }
    });
    if (!finished) return cancelled_error();
    parts.x = std::move(x);
    parts.y = std::move(y);
    parts.z = std::move(z);
    parts.fields.push_back({"height", std::move(height), a_length});
    return Mesh::make(std::move(parts));
}

Result<Overlaps> post_overlaps(const std::vector<Post>& posts, const PostPlan& plan, const Run& run) {
    // So many pairs say enough. Each block of posts has its share of them, so that threads change nothing.
    constexpr std::size_t most_pairs = 10'000'000, posts_a_block = 1024;
    const std::size_t most_here =
        std::max<std::size_t>(1000, most_pairs / (posts.size() / posts_a_block + 1));
    const std::vector<Corner> unit = unit_footprint(plan);
    std::vector<Vec3> places;
    std::vector<Standing> standing;
    std::vector<std::size_t> numbers;
    double widest = 0;
    for (std::size_t at = 0; at < posts.size(); ++at) {
        if (posts[at].placement.up.z < 1 - 1e-9) continue;
        const Vec3 origin = posts[at].placement.origin;
        places.push_back({origin.x, origin.y, 0});
        standing.push_back(standing_of(posts[at], plan, unit));
        numbers.push_back(at);
        widest = std::max(widest, standing.back().radius);
    }
    Overlaps whole;
    if (!(widest > 0)) return whole;
    const PointTree near(places);
    std::mutex mutex;
    // Touching posts are apart but for rounding.
    const double touching = widest * 1e-9;
    const bool finished =
        parallel_blocks(places.size(), posts_a_block, run, [&](std::size_t begin, std::size_t end) {
            Overlaps here;
            for (std::size_t a = begin; a < end && here.pairs < most_here; ++a)
                near.for_each_within(places[a], 2 * widest, [&](std::size_t b, double) {
                    if (b <= a) return true;
                    const double depth = depth_of(standing[a], standing[b], places[b] - places[a]);
                    if (!(depth > touching)) return true;
                    ++here.pairs;
                    if (depth > here.worst_depth) here = {here.pairs, depth, numbers[a], numbers[b], true};
                    return here.pairs < most_here;
                });
            const std::scoped_lock lock(mutex);
            whole.pairs += here.pairs;
            // Of equally deep pairs the first, whatever the threads do.
            const bool deeper =
                here.worst_depth > whole.worst_depth ||
                (here.worst_depth == whole.worst_depth && here.worst_first < whole.worst_first);
            if (here.pairs > 0 && deeper) {
                whole.worst_depth = here.worst_depth;
                whole.worst_first = here.worst_first;
                whole.worst_second = here.worst_second;
            }
            whole.all_counted = whole.all_counted && here.pairs < most_here;
        });
    if (!finished) return cancelled_error();
    return whole;
}

}  // namespace plume

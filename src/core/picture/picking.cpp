#include "core/picture/picking.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>
#include <utility>

#include "core/base/parallel.hpp"
#include "core/picture/projection.hpp"

namespace plume {

namespace {

bool nearer(const PickedPart& found, const std::optional<PickedPart>& best) {
    return !best || found.apart < best->apart || (found.apart == best->apart && found.depth < best->depth);
}

using Spot = Projection::Spot;

// Where a triangle is nearest to the cursor, within reach; nothing behind the eye.
struct PlaceOn {
    double apart = 0, depth = 0;
};
std::optional<PlaceOn> place_on(const std::array<Spot, 3>& corners, ViewPoint cursor, double reach) {
    const auto& [a, b, c] = corners;
    if (a.depth <= 0 || b.depth <= 0 || c.depth <= 0) return {};
    if (std::min({a.x, b.x, c.x}) > cursor.x + reach || std::max({a.x, b.x, c.x}) < cursor.x - reach ||
        std::min({a.y, b.y, c.y}) > cursor.y + reach || std::max({a.y, b.y, c.y}) < cursor.y - reach)
        return {};
    const auto side = [&](const Spot& from, const Spot& to) {
        return (to.x - from.x) * (cursor.y - from.y) - (to.y - from.y) * (cursor.x - from.x);
    };
    // Twice the areas that the cursor makes with each side: of one sign inside.
    const double over_c = side(a, b), over_a = side(b, c), over_b = side(c, a);
    const double whole = over_a + over_b + over_c;
    if (whole != 0 && over_a * whole >= 0 && over_b * whole >= 0 && over_c * whole >= 0)
        return PlaceOn{0, (over_a * a.depth + over_b * b.depth + over_c * c.depth) / whole};
    std::optional<PlaceOn> nearest;
    for (std::size_t corner = 0; corner < 3; ++corner) {
        const Spot &from = corners[corner], &to = corners[(corner + 1) % 3];
        const double x = to.x - from.x, y = to.y - from.y, size = x * x + y * y;
        const double along = (cursor.x - from.x) * x + (cursor.y - from.y) * y;
        const double share = size > 0 ? std::clamp(along / size, 0.0, 1.0) : 0;
        const double apart = std::hypot(from.x + share * x - cursor.x, from.y + share * y - cursor.y);
        if (apart <= reach && (!nearest || apart < nearest->apart))
            nearest = PlaceOn{apart, std::lerp(from.depth, to.depth, share)};
    }
    return nearest;
}

bool nearer(const Picked& found, const std::optional<Picked>& best) {
    return !best || found.apart < best->apart - 1 ||
           (found.apart < best->apart + 1 && found.depth < best->depth);
}

}  // namespace

std::optional<Picked> pick_point(const Drawable& drawable, const Camera& camera, ViewSize view,
                                 ViewPoint cursor, double reach) {
    const Projection projection(camera, view, drawable.origin);
    const std::size_t count = drawable.points.size();
    std::vector<std::optional<Picked>> found(count / usual_block + 1);
    parallel_blocks(count, usual_block, Run(), [&](std::size_t begin, std::size_t end) {
        std::optional<Picked>& best = found[begin / usual_block];
        for (std::size_t index = begin; index < end; ++index) {
            if (!projection.near(drawable.points[index], cursor, reach)) continue;
            const auto spot = projection.at(drawable.points[index]);
            const Picked here{index, std::hypot(spot.x - cursor.x, spot.y - cursor.y), spot.depth};
            if (nearer(here, best)) best = here;
        }
    });
    std::optional<Picked> best;
    for (const auto& part : found)
        if (part && nearer(*part, best)) best = part;
    return best;
}

std::optional<std::size_t> pick_place(std::size_t count, const std::function<Vec3(std::size_t)>& place,
                                      const Camera& camera, ViewSize view, ViewPoint cursor, double reach) {
    std::optional<Picked> best;
    for (std::size_t at = 0; at < count; ++at) {
        double x = 0, y = 0, depth = 0;
        const Vec3 here = place(at);
        if (!is_finite(here) || !camera.project(here, view.aspect(), x, y, depth)) continue;
        const double apart = std::hypot(x * view.width - cursor.x, y * view.height - cursor.y);
        if (const Picked picked{at, apart, depth}; apart <= reach && nearer(picked, best)) best = picked;
    }
    return best ? std::optional(best->point) : std::nullopt;
}

namespace {

// The nearest of what stands in blocks of [0, count); `visit` looks at one and improves what was found.
template <class Visit>
std::optional<PickedPart> nearest_part(std::size_t count, Visit visit) {
    std::vector<std::optional<PickedPart>> found(count / usual_block + 1);
    parallel_blocks(count, usual_block, Run(), [&](std::size_t begin, std::size_t end) {
        for (std::size_t at = begin; at < end; ++at)
            visit(at, found[begin / usual_block]);
    });
    std::optional<PickedPart> best;
    for (const auto& part : found)
        if (part && nearer(*part, best)) best = part;
    return best;
}

struct Reach {
    ViewPoint cursor;
    double pixels = 0;
};

void look_at_triangle(const std::array<Spot, 3>& corners, std::uint32_t part, const Reach& reach,
                      std::optional<PickedPart>& best) {
    const auto under =
        place_on(corners, reach.cursor, best ? std::min(reach.pixels, best->apart) : reach.pixels);
    if (!under) return;
    const PickedPart here{part, under->apart, under->depth};
    if (nearer(here, best)) best = here;
}

// Where the corners of a box around a shape may be seen at most, for a repeat to be looked at more closely.
struct Extent {
    DrawVertex low{}, high{};
};
Extent extent_of(const Drawable& drawable, const DrawShape& shape) {
    constexpr float huge = std::numeric_limits<float>::max();
    Extent extent{{huge, huge, huge, 0, 0, 0, 0}, {-huge, -huge, -huge, 0, 0, 0, 0}};
    for (std::size_t index = 0; index < shape.triangle_index_count; ++index) {
        const DrawVertex& v = drawable.vertices[drawable.triangles[shape.first_triangle_index + index]];
        for (float DrawVertex::*axis : {&DrawVertex::x, &DrawVertex::y, &DrawVertex::z}) {
            extent.low.*axis = std::min(extent.low.*axis, v.*axis);
            extent.high.*axis = std::max(extent.high.*axis, v.*axis);
        }
    }
    return extent;
}

bool may_be_under(const Projection& projection, const DrawRepeat& repeat, const Extent& extent,
                  const Reach& reach) {
    double low_x = std::numeric_limits<double>::infinity(), high_x = -low_x, low_y = low_x, high_y = -low_x;
    for (unsigned corner = 0; corner < 8; ++corner) {
        DrawVertex v = extent.low;
        if ((corner & 1U) != 0) v.x = extent.high.x;
        if ((corner & 2U) != 0) v.y = extent.high.y;
        if ((corner & 4U) != 0) v.z = extent.high.z;
        const Spot spot = projection.at(at_repeat(repeat, v));
        if (spot.depth <= 0) return true;  // it reaches behind the eye: its triangles tell
        low_x = std::min(low_x, spot.x);
        high_x = std::max(high_x, spot.x);
        low_y = std::min(low_y, spot.y);
        high_y = std::max(high_y, spot.y);
    }
    return low_x <= reach.cursor.x + reach.pixels && high_x >= reach.cursor.x - reach.pixels &&
           low_y <= reach.cursor.y + reach.pixels && high_y >= reach.cursor.y - reach.pixels;
}

std::optional<PickedPart> pick_repeat(const Drawable& drawable, const Projection& projection,
                                      const Reach& reach) {
    std::optional<PickedPart> best;
    for (const DrawShape& shape : drawable.shapes) {
        const Extent extent = extent_of(drawable, shape);
        const auto found =
            nearest_part(shape.repeat_count, [&](std::size_t at, std::optional<PickedPart>& nearest) {
                const DrawRepeat& repeat = drawable.repeats[shape.first_repeat + at];
                if (!may_be_under(projection, repeat, extent, reach)) return;
                const std::uint32_t* corner = drawable.triangles.data() + shape.first_triangle_index;
                const auto spot = [&](std::size_t index) {
                    return projection.at(at_repeat(repeat, drawable.vertices[corner[index]]));
                };
                for (std::size_t index = 0; index < shape.triangle_index_count; index += 3)
                    look_at_triangle({spot(index), spot(index + 1), spot(index + 2)}, repeat.part, reach,
                                     nearest);
            });
        if (found && nearer(*found, best)) best = found;
    }
    return best;
}

std::optional<PickedPart> pick_line(const Drawable& drawable, const Projection& projection,
                                    const Reach& reach) {
    if (drawable.vertex_parts.empty()) return {};
    return nearest_part(drawable.edges.size() / 2, [&](std::size_t at, std::optional<PickedPart>& nearest) {
        const std::uint32_t* end = drawable.edges.data() + 2 * at;
        const Spot from = projection.at(drawable.vertices[end[0]]),
                   to = projection.at(drawable.vertices[end[1]]);
        look_at_triangle({from, to, to}, drawable.vertex_parts[end[0]], reach, nearest);
    });
}

// Its number among the triangles is the part that is found.
std::optional<PickedPart> pick_triangle(const Drawable& drawable, const Projection& projection,
                                        const Reach& reach) {
    return nearest_part(
        drawable.triangles.size() / 3, [&](std::size_t at, std::optional<PickedPart>& nearest) {
            const std::uint32_t* corner = drawable.triangles.data() + 3 * at;
            look_at_triangle(
                {projection.at(drawable.vertices[corner[0]]), projection.at(drawable.vertices[corner[1]]),
                 projection.at(drawable.vertices[corner[2]])},
                static_cast<std::uint32_t>(at), reach, nearest);
        });
}

std::uint32_t corner_nearest_to(ViewPoint cursor, std::size_t triangle, const Drawable& drawable,
                                const Projection& projection) {
    const std::uint32_t* corner = drawable.triangles.data() + 3 * triangle;
    return *std::min_element(corner, corner + 3, [&](std::uint32_t one, std::uint32_t other) {
        const auto apart = [&](std::uint32_t vertex) {
            const Spot spot = projection.at(drawable.vertices[vertex]);
            return std::hypot(spot.x - cursor.x, spot.y - cursor.y);
        };
        return apart(one) < apart(other);
    });
}

// What the triangle belongs to.
PickedPart part_of(const PickedPart& triangle, ViewPoint cursor, const Drawable& drawable,
                   const Projection& projection) {
    PickedPart found{0, triangle.apart, triangle.depth};
    if (drawable.vertex_parts.empty()) return found;
    const std::uint32_t vertex = corner_nearest_to(cursor, triangle.part, drawable, projection);
    const std::size_t part = drawable.vertex_parts[vertex];
    switch (drawable.parts_are) {
        case DrawnPart::items:
            found.part = part;
            break;
        case DrawnPart::faces:
            found.face = part;
            break;
        case DrawnPart::nodes:
            found.node = part;
            found.part = static_cast<std::size_t>(std::ranges::upper_bound(drawable.node_starts, part) -
                                                  drawable.node_starts.begin()) -
                         1;
    }
    return found;
}

}  // namespace

std::optional<PickedPart> pick_part(const Drawable& drawable, const Camera& camera, ViewSize view,
                                    ViewPoint cursor, double reach) {
    const Projection projection(camera, view, drawable.origin);
    if (!drawable.shapes.empty()) return pick_repeat(drawable, projection, {cursor, reach});
    if (drawable.triangles.empty()) return pick_line(drawable, projection, {cursor, reach});
    const auto triangle = pick_triangle(drawable, projection, {cursor, reach});
    return triangle ? std::optional(part_of(*triangle, cursor, drawable, projection)) : std::nullopt;
}

namespace {

constexpr std::array<double Vec3::*, 3> axes{&Vec3::x, &Vec3::y, &Vec3::z};

std::optional<Vec3> on_plane(const Ray& ray, bool perspective, Vec3 start, Vec3 normal) {
    const double slope = dot(ray.direction, normal);
    if (std::abs(slope) < 1e-6) return {};
    const double along = dot(start - ray.origin, normal) / slope;
    if (perspective && along <= 0) return {};
    return ray.origin + ray.direction * along;
}

// The place on a line that is nearest to the ray.
std::optional<Vec3> on_axis(const Ray& ray, Vec3 start, double Vec3::*axis) {
    Vec3 along;
    along.*axis = 1;
    const Vec3 apart = start - ray.origin;
    const double skew = dot(along, ray.direction), det = 1 - skew * skew;
    if (det < 1e-6) return {};
    Vec3 to = start;
    to.*axis += (skew * dot(apart, ray.direction) - dot(apart, along)) / det;
    return to;
}

}  // namespace

std::optional<Vec3> dragged_to(const Camera& camera, ViewSize view, ViewPoint cursor, Vec3 start,
                               DragHold hold) {
    const Ray ray = camera.ray_through(cursor.x / view.width, cursor.y / view.height, view.aspect());
    if (hold >= DragHold::along_x && hold <= DragHold::along_z)
        return on_axis(ray, start, axes[static_cast<std::size_t>(hold) - 1]);
    // Below about eight degrees a pixel would move the point by metres.
    const Vec3 forward = camera.forward();
    if (hold == DragHold::free && std::abs(forward.z) < 0.14)
        return on_plane(ray, camera.perspective, start, unit_or_zero({forward.x, forward.y, 0}));
    double Vec3::*const across = hold == DragHold::free ? &Vec3::z : axes[static_cast<std::size_t>(hold) - 4];
    Vec3 normal;
    normal.*across = 1;
    std::optional<Vec3> to = on_plane(ray, camera.perspective, start, normal);
    if (to) (*to).*across = start.*across;
    return to;
}

void zoom_to(Camera& camera, ViewSize view, ViewPoint cursor, double factor, double size) {
    constexpr double least_share = 1e-6, most_sizes = 100;
    const double height = camera.view_height();
    if (size > 0) {
        // Whoever is beyond an end can come back, but go no farther.
        const double nearest = std::min(height, size * least_share);
        const double farthest = std::max(height, size * most_sizes);
        factor = height / std::clamp(height / factor, nearest, farthest);
    }
    const double x = (cursor.x / view.width - 0.5) * height * view.aspect(),
                 y = (0.5 - cursor.y / view.height) * height;
    const double kept = 1 - 1 / factor;
    camera.target = camera.target + (camera.right() * x + camera.up() * y) * kept;
    camera.distance = std::clamp(camera.distance / factor, 1e-9, 1e15);
}

void pan(Camera& camera, ViewSize view, ViewPoint by) {
    const double unit = camera.view_height() / view.height;
    camera.target = camera.target - camera.right() * (by.x * unit) + camera.up() * (by.y * unit);
}

void orbit(Camera& camera, ViewPoint by) {
    constexpr double radians_per_pixel = 0.006;
    camera.azimuth_rad = std::remainder(camera.azimuth_rad - by.x * radians_per_pixel, 2 * std::numbers::pi);
    camera.elevation_rad = std::clamp(camera.elevation_rad + by.y * radians_per_pixel, -std::numbers::pi / 2,
                                      std::numbers::pi / 2);
}

}  // namespace plume

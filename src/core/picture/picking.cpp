#include "core/picture/picking.hpp"

#include <algorithm>
#include <cmath>

namespace plume {

std::optional<Picked> pick_point(const Drawable& drawable, const Camera& camera, ViewSize view,
                                 ViewPoint cursor, double reach) {
    std::optional<Picked> best;
    const double aspect = view.aspect();
    for (std::size_t index = 0; index < drawable.points.size(); ++index) {
        const DrawPoint& point = drawable.points[index];
        double x = 0, y = 0, depth = 0;
        if (!camera.project(drawable.absolute(point.x, point.y, point.z), aspect, x, y, depth)) continue;
        const double apart = std::hypot(x * view.width - cursor.x, y * view.height - cursor.y);
        if (apart > reach) continue;
        const bool nearer =
            !best || apart < best->apart - 1 || (apart < best->apart + 1 && depth < best->depth);
        if (nearer) best = Picked{index, apart, depth};
    }
    return best;
}

std::optional<Vec3> dragged_to(const Camera& camera, ViewSize view, ViewPoint cursor, Vec3 start) {
    const Ray ray = camera.ray_through(cursor.x / view.width, cursor.y / view.height, view.aspect());
    // Below about eight degrees a pixel would move the point by metres.
    const bool from_side = std::abs(camera.forward().z) < 0.14;
    const Vec3 forward = camera.forward();
    const Vec3 normal = from_side ? unit_or_zero({forward.x, forward.y, 0}) : Vec3{0, 0, 1};
    const double slope = dot(ray.direction, normal);
    if (std::abs(slope) < 1e-6) return {};
    const double along = dot(start - ray.origin, normal) / slope;
    if (camera.perspective && along <= 0) return {};
    Vec3 to = ray.origin + ray.direction * along;
    if (!from_side) to.z = start.z;
    return to;
}

void zoom_to(Camera& camera, ViewSize view, ViewPoint cursor, double factor) {
    const double height = camera.view_height();
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

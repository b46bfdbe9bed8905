#pragma once
// Where many points come to lie in a view.

#include <cmath>

#include "core/data/camera.hpp"
#include "core/picture/drawable.hpp"
#include "core/picture/view_place.hpp"

namespace plume {

// Camera::project() of points relative to an origin as ten numbers, so that a million points cost a few
// multiplications each.
class Projection {
public:
    Projection(const Camera& camera, ViewSize view, Vec3 origin) {
        const double half_height = camera.view_height() / 2, half_width = half_height * view.aspect();
        const Vec3 offset = origin - camera.eye();
        perspective_ = camera.perspective;
        right_ = scaled(camera.right(), offset, 0.5 * view.width / half_width);
        up_ = scaled(camera.up(), offset, 0.5 * view.height / half_height);
        depth_ = scaled(camera.forward(), offset, 1);
        centre_ = {view.width / 2, view.height / 2};
        distance_ = camera.distance;
    }

    // Whether a point lies within `reach` of the cursor, without the division: |place - cursor| <= reach,
    // times the depth.
    bool near(const DrawPoint& point, ViewPoint cursor, double reach) const {
        const double depth = perspective_ ? depth_(point) : distance_;
        const double share = depth / distance_;
        const double dx = right_(point) + (centre_.x - cursor.x) * share, most = reach * share;
        // Across the view a few in a hundred are left.
        if (!(std::abs(dx) <= most)) return false;
        const double dy = (centre_.y - cursor.y) * share - up_(point);
        return depth > 0 && dx * dx + dy * dy <= most * most;
    }

    struct Spot {
        double x, y, depth;
    };
    template <class Point>
    Spot at(const Point& point) const {
        const double depth = depth_(point);
        const double factor = perspective_ ? distance_ / depth : 1;
        return {centre_.x + right_(point) * factor, centre_.y - up_(point) * factor, depth};
    }

private:
    struct Row {
        double x, y, z, offset;
        template <class Point>
        double operator()(const Point& p) const {
            return x * static_cast<double>(p.x) + y * static_cast<double>(p.y) +
                   z * static_cast<double>(p.z) + offset;
        }
    };
    static Row scaled(Vec3 axis, Vec3 offset, double by) {
        return {axis.x * by, axis.y * by, axis.z * by, dot(axis, offset) * by};
    }
    Row right_{}, up_{}, depth_{};
    ViewPoint centre_;
    double distance_ = 1;
    bool perspective_ = true;
};

}  // namespace plume

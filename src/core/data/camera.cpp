#include "core/data/camera.hpp"

#include <algorithm>
#include <cmath>

namespace plume {
namespace {

std::array<Vec3, 8> corners_of(const Box& box) {
    std::array<Vec3, 8> corners;
    for (unsigned index = 0; index < 8; ++index)
        corners[index] = {(index & 1U) ? box.high.x : box.low.x, (index & 2U) ? box.high.y : box.low.y,
                          (index & 4U) ? box.high.z : box.low.z};
    return corners;
}

constexpr double radians_per_degree = std::numbers::pi / 180;

double kept_degrees(double radians) {
    return std::round(radians / radians_per_degree * 1e9) / 1e9;
}

struct Extent {
    double left = 1e300, right = -1e300, top = 1e300, bottom = -1e300;
    double width() const { return right - left; }
    double height() const { return bottom - top; }
};

Extent extent_of(const Camera& camera, const std::array<Vec3, 8>& corners, double aspect) {
    Extent extent;
    for (const Vec3 corner : corners) {
        double x = 0, y = 0, depth = 0;
        if (!camera.project(corner, aspect, x, y, depth)) continue;
        extent.left = std::min(extent.left, x);
        extent.right = std::max(extent.right, x);
        extent.top = std::min(extent.top, y);
        extent.bottom = std::max(extent.bottom, y);
    }
    return extent;
}

}  // namespace

Vec3 Camera::forward() const {
    return {-std::cos(elevation_rad) * std::cos(azimuth_rad),
            -std::cos(elevation_rad) * std::sin(azimuth_rad), -std::sin(elevation_rad)};
}

Vec3 Camera::right() const {
    return {-std::sin(azimuth_rad), std::cos(azimuth_rad), 0};
}

Vec3 Camera::up() const {
    return cross(right(), forward());
}

double Camera::view_height() const {
    return 2 * distance * std::tan(field_of_view_rad / 2);
}

double Camera::pixels_per_length(Vec3 at, double view_height_px) const {
    const double depth = dot(at - eye(), forward());
    const double height = view_height() * (perspective && depth > 0 ? depth / distance : 1);
    return view_height_px / height;
}

Matrix4 Camera::view_projection(double aspect, Vec3 origin, const Box& scene) const {
    const Vec3 r = right(), u = up(), f = forward(), e = eye() - origin;
    double near = distance * 0.01, far = distance * 10;
    if (!scene.empty()) {
        double nearest = 1e300, farthest = -1e300;
        for (const Vec3 corner : corners_of(scene)) {
            const double depth = dot(corner - eye(), f);
            nearest = std::min(nearest, depth);
            farthest = std::max(farthest, depth);
        }
        const double margin = 0.05 * (farthest - nearest) + 0.01 * distance;
        far = std::max(farthest + margin, distance * 0.02);
        near = perspective ? std::max(nearest - margin, far * 1e-4) : nearest - margin;
    }
    const double half_height = view_height() / 2, half_width = half_height * aspect;
    const double sx = perspective ? distance / half_width : 1 / half_width;
    const double sy = perspective ? distance / half_height : 1 / half_height;
    // Rows of the view matrix: r, u, -f; then the projection.
    const double a = perspective ? (far + near) / (far - near) : 2 / (far - near);
    const double b = perspective ? -2 * far * near / (far - near) : -(far + near) / (far - near);
    Matrix4 m{};
    const auto row = [&](int index, Vec3 v, double offset, double scale) {
        m[static_cast<std::size_t>(index)] = v.x * scale;
        m[static_cast<std::size_t>(index) + 4] = v.y * scale;
        m[static_cast<std::size_t>(index) + 8] = v.z * scale;
        m[static_cast<std::size_t>(index) + 12] = offset;
    };
    row(0, r, -dot(r, e) * sx, sx);
    row(1, u, -dot(u, e) * sy, sy);
    row(2, f, -dot(f, e) * a + b, a);
    if (perspective)
        row(3, f, -dot(f, e), 1);
    else
        m[15] = 1;
    return m;
}

bool Camera::project(Vec3 point, double aspect, double& x, double& y, double& depth) const {
    const Vec3 d = point - eye();
    depth = dot(d, forward());
    if (perspective && depth <= distance * 1e-6) return false;
    const double half_height = view_height() / 2 * (perspective ? depth / distance : 1);
    x = 0.5 + 0.5 * dot(d, right()) / (half_height * aspect);
    y = 0.5 - 0.5 * dot(d, up()) / half_height;
    return true;
}

Ray Camera::ray_through(double x, double y, double aspect) const {
    const double half_height = view_height() / 2;
    const Vec3 offset = right() * ((2 * x - 1) * half_height * aspect) + up() * ((1 - 2 * y) * half_height);
    if (!perspective) return {eye() + offset, forward()};
    return {eye(), unit_or_zero(forward() * distance + offset)};
}

bool Camera::sees(const Box& box, double aspect) const {
    if (box.empty()) return true;
    return std::ranges::all_of(corners_of(box), [&](Vec3 corner) {
        double x = 0, y = 0, depth = 0;
        return project(corner, aspect, x, y, depth) && x >= 0 && x <= 1 && y >= 0 && y <= 1;
    });
}

void Camera::fit(const Box& box, double aspect) {
    if (box.empty()) return;
    target = box.centre();
    const double size = std::max(box.diagonal(), 1e-9 * (1 + length(target)));
    distance = size / std::tan(field_of_view_rad / 2);
    const auto corners = corners_of(box);
    // Each round centres what is seen and scales it; perspective makes a few of them necessary.
    for (int round = 0; round < 8; ++round) {
        const Extent extent = extent_of(*this, corners, aspect);
        if (!(extent.width() >= 0)) return;
        const double half_height = view_height() / 2;
        target = target + right() * ((extent.left + extent.right - 1) * half_height * aspect) -
                 up() * ((extent.top + extent.bottom - 1) * half_height);
        const double share = std::max(extent.width(), extent.height());
        if (share > 0) distance *= share / fit_share;
        distance = std::max(distance, size * 0.05);
    }
}

Vec3 Camera::light() const {
    return unit_or_zero(right() * -0.5 + Vec3{0, 0, 1} - forward() * 0.35);
}

double azimuth_degrees(const Camera& camera) {
    return kept_degrees(camera.azimuth_rad);
}

double elevation_degrees(const Camera& camera) {
    return kept_degrees(camera.elevation_rad);
}

void set_degrees(Camera& camera, double azimuth, double elevation) {
    camera.azimuth_rad = azimuth * radians_per_degree;
    camera.elevation_rad = elevation * radians_per_degree;
}

std::optional<StandardView> standard_view_from(std::string_view key) {
    static constexpr std::array<std::string_view, 4> keys{"above", "plan", "front", "side"};
    const auto found = std::ranges::find(keys, key);
    if (found == keys.end()) return {};
    return static_cast<StandardView>(found - keys.begin());
}

Camera seen_from(StandardView view, Camera camera) {
    constexpr double right_angle = std::numbers::pi / 2;
    const bool angled = view == StandardView::above;
    camera.perspective = angled;
    camera.azimuth_rad = angled ? Camera().azimuth_rad : view == StandardView::side ? 0 : -right_angle;
    camera.elevation_rad = angled ? Camera().elevation_rad : view == StandardView::plan ? right_angle : 0;
    return camera;
}

}  // namespace plume

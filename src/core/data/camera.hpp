#pragma once
// A camera that orbits a target; right-handed, Z up. Angles in radians: azimuth from +X towards +Y to where
// the camera stands, elevation above the ground, up to straight down (pi/2) and straight up (-pi/2).

#include <array>
#include <numbers>
#include <optional>
#include <string_view>

#include "core/data/box.hpp"

namespace plume {

using Matrix4 = std::array<double, 16>;  // column-major

struct Ray {
    Vec3 origin, direction;  // direction is unit
};

struct Camera {
    Vec3 target;
    double distance = 30;
    double azimuth_rad = -1.05;
    double elevation_rad = 0.5;
    bool perspective = true;
    bool operator==(const Camera&) const = default;

    static constexpr double field_of_view_rad = 35 * std::numbers::pi / 180;  // vertical
    static constexpr double fit_share = 0.8;                                  // of the view a form fills

    Vec3 forward() const;  // from the eye to the target
    Vec3 right() const;
    Vec3 up() const;
    Vec3 eye() const { return target - forward() * distance; }
    // Height of the view at the target; what a parallel view shows.
    double view_height() const;

    // Pixels that a length square to the view takes at a place, in a view so many pixels high; those at the
    // target for a place behind the eye.
    double pixels_per_length(Vec3 at, double view_height_px) const;

    // Turns points relative to `origin` into clip space. near and far are chosen around `scene`.
    Matrix4 view_projection(double aspect, Vec3 origin, const Box& scene) const;
    // Position in the view, (0, 0) top left to (1, 1) bottom right, and depth along the view axis; false
    // when behind the eye.
    bool project(Vec3 point, double aspect, double& x, double& y, double& depth) const;
    Ray ray_through(double x, double y, double aspect) const;

    // Where the light comes from: above and to the left of whoever looks. Unit.
    Vec3 light() const;

    // Whether the whole box lies in the view; an empty one does.
    bool sees(const Box& box, double aspect) const;
    // Moves target and distance so that the box fills fit_share of the view; keeps the direction.
    void fit(const Box& box, double aspect);
};

// Angles as they are kept: to a billionth of a degree, so that they come back as they were.
double azimuth_degrees(const Camera& camera);
double elevation_degrees(const Camera& camera);
void set_degrees(Camera& camera, double azimuth, double elevation);

// Ways to look that have a name: at an angle in perspective; straight down, along +Y and along -X, all
// parallel.
enum class StandardView { above, plan, front, side };
// By "above", "plan", "front", "side"; nothing for another word.
std::optional<StandardView> standard_view_from(std::string_view key);
// The camera turned so; target and distance stay.
Camera seen_from(StandardView view, Camera camera);

}  // namespace plume

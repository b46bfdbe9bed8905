#pragma once
// What lies under the cursor. O(points drawn).

#include <functional>
#include <optional>
#include <vector>

#include "core/data/camera.hpp"
#include "core/picture/drawable.hpp"
#include "core/picture/view_place.hpp"

namespace plume {

struct Picked {
    std::size_t point = 0;  // position in Drawable::points
    double apart = 0;       // pixels from the cursor
    double depth = 0;       // along the view
};
// The drawn point nearest to the cursor within `reach` pixels; of points equally near the one in front.
std::optional<Picked> pick_point(const Drawable& drawable, const Camera& camera, ViewSize view,
                                 ViewPoint cursor, double reach);

// Of so many places, some of which may be nowhere.
std::optional<std::size_t> pick_place(std::size_t count, const std::function<Vec3(std::size_t)>& place,
                                      const Camera& camera, ViewSize view, ViewPoint cursor, double reach);

// The part of a mesh, the surface or body under the cursor, the one in front; where there is none, the
// nearest within `reach` pixels, for posts are thin. Of curves and bars the nearest within reach.
struct PickedPart {
    std::size_t part = 0;
    double apart = 0;  // pixels from the cursor
    double depth = 0;  // along the view
    // Of a mesh of one part, or the nearest of the points that surfaces were made through.
    std::optional<std::size_t> face = {}, node = {};
};
std::optional<PickedPart> pick_part(const Drawable& drawable, const Camera& camera, ViewSize view,
                                    ViewPoint cursor, double reach);

// What a drag is held to. free: the horizontal plane, or, when that is seen from the side, the upright plane
// facing the camera; along an axis; in the plane square to one.
enum class DragHold { free, along_x, along_y, along_z, square_to_x, square_to_y, square_to_z };
// Where a dragged point goes from `start`: in the plane where the cursor's ray meets it, on the axis where it
// comes nearest to the ray; the other coordinates stay to the last digit. Nothing when the ray misses.
std::optional<Vec3> dragged_to(const Camera& camera, ViewSize view, ViewPoint cursor, Vec3 start,
                               DragHold hold = DragHold::free);

// Zooms so that what lies under the cursor stays there. factor above 1 comes nearer. Of what has a size it
// ends where no more of it could be told: at a millionth of the size, and where it is a hundredth of the
// view.
void zoom_to(Camera& camera, ViewSize view, ViewPoint cursor, double factor, double size = 0);
// Moves the target with the cursor, by pixels.
void pan(Camera& camera, ViewSize view, ViewPoint by);
// Turns around the target, by pixels; never over the top.
void orbit(Camera& camera, ViewPoint by);

}  // namespace plume

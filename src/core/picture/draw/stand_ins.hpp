#pragma once
// What stands for the first part of a mesh whose parts are one shape, where the shape itself would be too
// much to draw: a box along its axes, as long as it is and no more than its volume; of slender parts two
// rectangles through their axis, and while the camera moves one.

#include <span>

#include "core/geometry/moves/affine.hpp"
#include "core/picture/draw/drawing.hpp"

namespace plume {

inline constexpr std::size_t fewest_stand_in_triangles = 4;

class FirstPart {
public:
    explicit FirstPart(const Mesh& mesh);

    const Box& bounds() const { return bounds_; }
    // Several times as long as it is wide.
    bool slender() const;

    // Of the best stand-in that has at most so many triangles; 0 if there is none.
    std::size_t stand_in_triangles(std::size_t most) const;
    DrawShape add_stand_in(std::size_t triangles, Drawable& drawable) const;

    // For a slender part: a rectangle at each of the maps, or at every n-th, so that they are few enough.
    void add_coarse(std::span<const Affine> maps, std::span<const float> colours, std::size_t most_triangles,
                    Drawable& drawable) const;

private:
    // In the box's directions, each from -1 to 1.
    Vec3 place(double along, double across, double up) const;
    std::array<Vec3, 4> middle_rectangle(bool upright) const;

    Box bounds_;
    Vec3 centre_;
    std::array<Vec3, 3> halves_;  // from the centre to the box's sides, the longest first
};

}  // namespace plume

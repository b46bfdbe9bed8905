#pragma once
// What is drawn over the faces of a still picture: edges, curves, bars, points, labels, outlines.

#include "core/picture/still_canvas.hpp"

namespace plume {

struct StillLines {
    const std::vector<StillItem>& items;
    Camera camera;  // relative to the origin
    Vec3 origin;
    double size = 0;  // of everything
    Colour paper;     // around letters
};

// Onto what was traced. Errors: of labels that cannot be lettered.
Status draw_lines(StillCanvas& canvas, const StillLines& lines);

// Pixels of a picture of that height for what one of 800 has one of.
double still_unit(int height);

}  // namespace plume

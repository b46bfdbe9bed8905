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
    double unit = 1;  // pixels for what a view 800 high has one of
};

// Onto what was traced. Errors: of labels that cannot be lettered.
Status draw_lines(StillCanvas& canvas, const StillLines& lines);

// Pixels of such a picture for what a view 800 high has one of.
double still_unit(const StillOptions& options);

}  // namespace plume

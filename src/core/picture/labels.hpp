#pragma once
// Where labels stand in a view, clear of each other.

#include <cstdint>
#include <vector>

#include "core/data/camera.hpp"
#include "core/picture/drawable.hpp"
#include "core/picture/view_place.hpp"

namespace plume {

// Items from `begin` on, below `end`.
struct ItemRange {
    std::size_t begin = 0, end = static_cast<std::size_t>(-1);
    bool has(std::size_t item) const { return item >= begin && item < end; }
};

// Where to write labels of these items: at points in the view, in the order they are drawn, along curves
// every so often, and in the middles of bars; at most one in each cell of the screen of this size in pixels,
// and at most so many.
struct LabelSpot {
    std::size_t item = 0;
    ViewPoint at;
    bool along = false;   // a line: text stands over its middle, not beside a point
    double turn_rad = 0;  // of text along a line, clockwise on the screen, never upside down
    double depth = 0;     // along the view
};
std::vector<LabelSpot> label_spots(const Drawable& drawable, ItemRange items, const Camera& camera,
                                   ViewSize view, ViewSize cell, std::size_t most);

// Keeps labels apart: the view in small squares, each of which one label may cover.
class LabelRoom {
public:
    explicit LabelRoom(ViewSize view);
    // Whether a rectangle is free, which it then no longer is. What lies outside of the view is free.
    bool take(ViewPoint top_left, ViewSize size);

private:
    static constexpr double square = 10;  // pixels
    std::size_t columns_, rows_;
    std::vector<std::uint8_t> taken_;
};

}  // namespace plume

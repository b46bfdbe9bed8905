#pragma once
// What a still picture knows of its pixels: sums over its samples. Pixel (x, y) at x + width * y.

#include <cstdint>
#include <vector>

#include "core/picture/still_scene.hpp"

namespace plume {

struct StillBuffer {
    int width = 0, height = 0;
    std::vector<Colour> colours;
    std::vector<float> covers;
    std::vector<float> depths;  // the least of all samples

    StillBuffer(int pixels_wide, int pixels_high)
        : width(pixels_wide),
          height(pixels_high),
          colours(count()),
          covers(count(), 0),
          depths(count(), std::numeric_limits<float>::infinity()) {}
    std::size_t count() const { return static_cast<std::size_t>(width) * static_cast<std::size_t>(height); }
};

}  // namespace plume

#pragma once
// Raster: a picture as numbers.
//
// Layout: rows from the top, `channels` floats per pixel, value (x, y, c) at c + channels * (x + width * y).
// Whole numbers of a file are brought to 0..1 by their largest value; floats are kept as they are.

#include <cstddef>
#include <memory>
#include <vector>

namespace plume {

struct Raster {
    std::size_t width = 0, height = 0, channels = 1;  // 1 grey, 2 grey and alpha, 3 RGB, 4 RGB and alpha
    std::vector<float> values;

    float at(std::size_t x, std::size_t y, std::size_t channel) const {
        return values[channel + channels * (x + width * y)];
    }
};
using RasterPointer = std::shared_ptr<const Raster>;

}  // namespace plume

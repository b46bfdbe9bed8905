#include "core/picture/thumbnail.hpp"

#include <algorithm>
#include <array>
#include <cmath>

namespace plume {
namespace {

// So many of the pixels behind one are looked at each way.
constexpr std::size_t most_samples = 16;

}  // namespace

Image thumbnail(const Raster& raster, int side) {
    const auto longest = static_cast<double>(std::max(raster.width, raster.height));
    const double factor = std::min(1.0, side / longest);
    Image image;
    image.width = std::max(1, static_cast<int>(std::lround(static_cast<double>(raster.width) * factor)));
    image.height = std::max(1, static_cast<int>(std::lround(static_cast<double>(raster.height) * factor)));
    const bool coloured = raster.channels >= 3;
    const auto first = [](int at, int count, std::size_t whole) {
        return static_cast<std::size_t>(at) * whole / static_cast<std::size_t>(count);
    };
    for (int y = 0; y < image.height; ++y)
        for (int x = 0; x < image.width; ++x) {
            const std::size_t x0 = first(x, image.width, raster.width),
                              y0 = first(y, image.height, raster.height);
            const std::size_t x1 = std::max(x0 + 1, first(x + 1, image.width, raster.width));
            const std::size_t y1 = std::max(y0 + 1, first(y + 1, image.height, raster.height));
            const std::size_t step_x = (x1 - x0 - 1) / most_samples + 1,
                              step_y = (y1 - y0 - 1) / most_samples + 1;
            std::array<double, 3> sum{};
            double count = 0;
            for (std::size_t b = y0; b < y1; b += step_y)
                for (std::size_t a = x0; a < x1; a += step_x) {
                    for (std::size_t c = 0; c < 3; ++c)
                        sum[c] +=
                            std::clamp(static_cast<double>(raster.at(a, b, coloured ? c : 0)), 0.0, 1.0);
                    count += 1;
                }
            for (const double part : sum)
                image.rgba.push_back(static_cast<std::uint8_t>(std::lround(part / count * 255)));
            image.rgba.push_back(255);
        }
    return image;
}

}  // namespace plume

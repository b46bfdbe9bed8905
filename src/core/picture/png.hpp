#pragma once
// PNG files (W3C Recommendation, third edition, 2025) by libpng; those that move, too.

#include <filesystem>
#include <functional>

#include "core/picture/still.hpp"

namespace plume {

// Errors: those of write_file; out_of_memory.
Status write_png(const Image& image, const std::filesystem::path& path);

// Pictures of one size that are shown one after the other, again and again. Who does not know of such files
// sees the first. Each is asked for when those before it are written, and not kept. Errors: those of
// write_file and of the pictures; out_of_memory.
using PictureOf = std::function<Result<Image>(std::size_t number)>;
Status write_moving_png(const std::filesystem::path& path, std::size_t pictures, double seconds_each,
                        const PictureOf& picture);

}  // namespace plume

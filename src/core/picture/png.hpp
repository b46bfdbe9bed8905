#pragma once
// PNG files (W3C Recommendation, third edition, 2025) by libpng; those that move, too.

#include <filesystem>

#include "core/picture/still.hpp"

namespace plume {

// Errors: those of write_file; out_of_memory.
Status write_png(const Image& image, const std::filesystem::path& path);

// Pictures of one size that are shown one after the other, again and again. Who does not know of such files
// sees the first.
class MovingPng {
public:
    MovingPng(std::size_t pictures, double seconds_each) : count_(pictures), seconds_each_(seconds_each) {}

    // Error: out_of_memory.
    Status add(const Image& image);
    // Once all are added. Errors: those of write_file.
    Status write(const std::filesystem::path& path);

private:
    std::size_t count_, added_ = 0;
    std::uint32_t order_ = 0;  // of the chunks that say what moves
    double seconds_each_;
    std::string bytes_;
};

}  // namespace plume

#pragma once
// PNG files (W3C Recommendation, second edition, 2003) by libpng.

#include <filesystem>

#include "core/picture/still.hpp"

namespace plume {

// Errors: those of write_file; out_of_memory.
Status write_png(const Image& image, const std::filesystem::path& path);

}  // namespace plume

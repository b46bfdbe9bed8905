#pragma once
// Reading pictures stands in a library of its own, loaded when the first picture is read: the picture library
// brings some 250 others along, and a program that reads none should not wait half a second for them.

#include "core/assets/image_file.hpp"

namespace plume {

struct PictureReader {
    Result<ImageFacts> (*facts)(const std::filesystem::path& path);
    Result<Raster> (*image)(const std::filesystem::path& path, const Run& run);
};

}  // namespace plume

// The one name the program looks up in it.
extern "C" const void* plume_picture_reader();

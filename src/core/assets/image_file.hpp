#pragma once
// Pictures from files: PNG, JPEG, TIFF, OpenEXR, Radiance, WebP, BMP and PNM, told by what they begin with
// (read by OpenImageIO, BSD-3/Apache-2).

#include <filesystem>

#include "core/base/run.hpp"
#include "core/data/raster.hpp"

namespace plume {

struct ImageFacts {
    std::size_t width = 0, height = 0, channels = 0;

    double bytes() const {
        return static_cast<double>(width) * static_cast<double>(height) * static_cast<double>(channels) *
               sizeof(float);
    }
};

// From the file's head only. Errors: file_missing, file_unreadable (no picture, whatever its name says).
Result<ImageFacts> read_image_facts(const std::filesystem::path& path);

// At most the first four channels. Errors: as above; file_damaged when the file ends early; cancelled.
Result<Raster> read_image(const std::filesystem::path& path, const Run& run);

}  // namespace plume

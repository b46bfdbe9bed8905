#include "core/picture/png.hpp"

#include <png.h>

#include "core/base/file.hpp"

namespace plume {

Status write_png(const Image& image, const std::filesystem::path& path) {
    png_image header{};
    header.version = PNG_IMAGE_VERSION;
    header.width = static_cast<png_uint_32>(image.width);
    header.height = static_cast<png_uint_32>(image.height);
    header.format = PNG_FORMAT_RGBA;
    png_alloc_size_t size = 0;
    // The first call only asks for the size.
    std::string bytes;
    bool written = png_image_write_to_memory(&header, nullptr, &size, 0, image.rgba.data(), 0, nullptr) != 0;
    if (written) {
        bytes.resize(size);
        written =
            png_image_write_to_memory(&header, bytes.data(), &size, 0, image.rgba.data(), 0, nullptr) != 0;
    }
    if (!written)
        return Error{ErrorCode::out_of_memory, "‘" + path.string() + "’", "could not be made into a PNG",
                     "Choose a smaller picture."};
    bytes.resize(size);
    return write_file(path, bytes);
}

}  // namespace plume

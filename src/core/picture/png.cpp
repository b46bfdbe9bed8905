#include "core/picture/png.hpp"

#include <png.h>
#include <zlib.h>

#include <cmath>

#include "core/base/file.hpp"

namespace plume {
namespace {

void put(std::string& bytes, std::uint32_t number) {
    for (unsigned shift = 32; shift > 0; shift -= 8)
        bytes += static_cast<char>(static_cast<unsigned char>(number >> (shift - 8)));
}

// How large a pixel is on paper (PNG, 11.3.5.3), behind the head, which every PNG begins with in 33 bytes.
void say_resolution(std::string& bytes, double pixels_per_metre) {
    constexpr std::size_t head = 33;
    std::string chunk = "pHYs";
    put(chunk, static_cast<std::uint32_t>(std::lround(pixels_per_metre)));
    put(chunk, static_cast<std::uint32_t>(std::lround(pixels_per_metre)));
    chunk += '\1';
    std::string whole;
    put(whole, static_cast<std::uint32_t>(chunk.size() - 4));
    whole += chunk;
    put(whole, static_cast<std::uint32_t>(crc32(0, reinterpret_cast<const unsigned char*>(chunk.data()),
                                                static_cast<uInt>(chunk.size()))));
    bytes.insert(head, whole);
}

}  // namespace

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
    if (image.pixels_per_metre > 0) say_resolution(bytes, image.pixels_per_metre);
    return write_file(path, bytes);
}

}  // namespace plume

#include "core/picture/png.hpp"

#include <png.h>
#include <zlib.h>

#include <algorithm>
#include <cmath>

#include "core/base/file.hpp"

namespace plume {
namespace {

void put(std::string& bytes, std::uint32_t number) {
    for (unsigned shift = 32; shift > 0; shift -= 8)
        bytes += static_cast<char>(static_cast<unsigned char>(number >> (shift - 8)));
}

// A chunk of a PNG: how long, its four letters, what it holds, its sum.
std::string chunk(std::string_view letters, std::string_view content) {
    std::string checked(letters);
    checked += content;
    std::string whole;
    put(whole, static_cast<std::uint32_t>(content.size()));
    whole += checked;
    put(whole, static_cast<std::uint32_t>(crc32(0, reinterpret_cast<const unsigned char*>(checked.data()),
                                                static_cast<uInt>(checked.size()))));
    return whole;
}

// The signature and the head, which every PNG begins with.
constexpr std::size_t head_size = 33;

// How large a pixel is on paper (PNG, 11.3.4.3).
std::string resolution(double pixels_per_metre) {
    std::string content;
    put(content, static_cast<std::uint32_t>(std::lround(pixels_per_metre)));
    put(content, static_cast<std::uint32_t>(std::lround(pixels_per_metre)));
    return chunk("pHYs", content + '\1');
}

Result<std::string> png_of(const Image& image) {
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
        return Error{ErrorCode::out_of_memory, "The picture", "could not be made into a PNG",
                     "Choose a smaller picture."};
    bytes.resize(size);
    if (image.pixels_per_metre > 0) bytes.insert(head_size, resolution(image.pixels_per_metre));
    return bytes;
}

// Calls with the content of every chunk of pixels.
template <class Take>
void for_each_pixel_chunk(std::string_view png, Take take) {
    for (std::size_t at = 8; at + 12 <= png.size();) {
        std::size_t size = 0;
        for (std::size_t byte = 0; byte < 4; ++byte)
            size = size << 8U | static_cast<unsigned char>(png[at + byte]);
        if (png.substr(at + 4, 4) == "IDAT") take(png.substr(at + 8, size));
        at += size + 12;
    }
}

std::string number(std::uint32_t value) {
    std::string bytes;
    put(bytes, value);
    return bytes;
}

// What is read of pictures one after the other, as one file.
class MovingPng {
public:
    MovingPng(const ByteSink& sink, std::size_t pictures, double seconds_each)
        : sink_(sink), pictures_(static_cast<std::uint32_t>(pictures)), seconds_each_(seconds_each) {}

    void add(const Image& image, std::string_view png) {
        const bool first = order_ == 0;
        if (first) {
            sink_(png.substr(0, head_size));
            sink_(chunk("acTL", number(pictures_) + number(0)));
        }
        sink_(chunk("fcTL", how_it_is_shown(image)));
        for_each_pixel_chunk(png, [&](std::string_view pixels) {
            sink_(first ? chunk("IDAT", pixels) : chunk("fdAT", number(order_++) + std::string(pixels)));
        });
    }
    void end() { sink_(chunk("IEND", "")); }

private:
    // In thousandths of a second; each takes the place of the one before.
    std::string how_it_is_shown(const Image& image) {
        const auto thousandths =
            static_cast<std::uint32_t>(std::clamp(std::round(1000 * seconds_each_), 1.0, 65535.0));
        return number(order_++) + number(static_cast<std::uint32_t>(image.width)) +
               number(static_cast<std::uint32_t>(image.height)) + number(0) + number(0) +
               number(thousandths << 16U | 1000) + std::string(2, '\0');
    }

    const ByteSink& sink_;
    std::uint32_t pictures_, order_ = 0;  // order: of the chunks that say what moves
    double seconds_each_;
};

}  // namespace

Status write_png(const Image& image, const std::filesystem::path& path) {
    const Result<std::string> bytes = png_of(image);
    if (!bytes) return bytes.error();
    return write_file(path, *bytes);
}

Status write_moving_png(const std::filesystem::path& path, std::size_t pictures, double seconds_each,
                        const PictureOf& picture) {
    return write_file(path, [&](const ByteSink& sink) -> Status {
        MovingPng moving(sink, pictures, seconds_each);
        for (std::size_t number = 0; number < pictures; ++number) {
            const Result<Image> image = picture(number);
            if (!image) return image.error();
            const Result<std::string> png = png_of(*image);
            if (!png) return png.error();
            moving.add(*image, *png);
        }
        moving.end();
        return Done{};
    });
}

}  // namespace plume

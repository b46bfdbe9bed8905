#include "core/assets/picture_module.hpp"

#include <OpenImageIO/imageio.h>

#include <algorithm>
#include <array>
#include <fstream>

namespace plume {
namespace {

Error unreadable(const std::string& why) {
    return {ErrorCode::file_unreadable, "",
            "is not a picture that can be read" + (why.empty() ? "" : " (" + why + ")"),
            "Choose a PNG, JPEG, TIFF, OpenEXR, Radiance, WebP, BMP or PNM file."};
}

Error ends_early(const std::string& why) {
    return {ErrorCode::file_damaged, "", "is damaged or ends early" + (why.empty() ? "" : " (" + why + ")"),
            "Save the picture again, or choose another."};
}

// Its first line: the library reports a line for every decoder it tried.
std::string first_line(const std::string& text) {
    return text.substr(0, text.find('\n'));
}

// The JPEG decoder fills what is missing with grey and says nothing: a whole file ends with the marker FF D9
// (ITU-T T.81, B.1.1.3), at most followed by a little padding.
bool jpeg_without_end(const std::filesystem::path& path) {
    std::ifstream file(path, std::ios::binary);
    unsigned char head[2] = {0, 0};
    file.read(reinterpret_cast<char*>(head), 2);
    if (!file || head[0] != 0xff || head[1] != 0xd8) return false;
    file.seekg(0, std::ios::end);
    const std::streamoff size = file.tellg(), from = std::max<std::streamoff>(0, size - 4096);
    std::string tail(static_cast<std::size_t>(size - from), '\0');
    file.seekg(from);
    file.read(tail.data(), static_cast<std::streamsize>(tail.size()));
    return tail.find("\xff\xd9") == std::string::npos;
}

struct Beginning {
    std::string_view bytes;
    const char* format;  // as the library calls it
};

// The library knows thirty formats more, each a decoder that strangers' bytes could bring down: only those
// are asked that pictures of sites, heights and patterns come in.
const char* format_of(const std::filesystem::path& path) {
    using namespace std::literals;
    static constexpr std::array beginnings{Beginning{"\x89PNG\r\n"sv, "png"},
                                           Beginning{"\xff\xd8\xff"sv, "jpeg"},
                                           Beginning{"II*\0"sv, "tiff"},
                                           Beginning{"MM\0*"sv, "tiff"},
                                           Beginning{"II+\0"sv, "tiff"},
                                           Beginning{"MM\0+"sv, "tiff"},
                                           Beginning{"\x76\x2f\x31\x01"sv, "openexr"},
                                           Beginning{"#?RADIANCE"sv, "hdr"},
                                           Beginning{"#?RGBE"sv, "hdr"},
                                           Beginning{"BM"sv, "bmp"},
                                           Beginning{"PF"sv, "pnm"},
                                           Beginning{"Pf"sv, "pnm"}};
    std::string head(12, '\0');
    std::ifstream(path, std::ios::binary).read(head.data(), static_cast<std::streamsize>(head.size()));
    if (head.starts_with("RIFF") && head.substr(8) == "WEBP") return "webp";
    if (head[0] == 'P' && head[1] >= '1' && head[1] <= '6') return "pnm";
    const auto found = std::ranges::find_if(
        beginnings, [&](const Beginning& beginning) { return head.starts_with(beginning.bytes); });
    return found == beginnings.end() ? nullptr : found->format;
}

Result<std::unique_ptr<OIIO::ImageInput>> opened(const std::filesystem::path& path) {
    std::error_code ignored;
    if (std::filesystem::file_size(path, ignored) == 0)
        return Error{ErrorCode::file_damaged, "", "is empty", "Choose another picture."};
    const char* const format = format_of(path);
    if (!format) return unreadable("");
    std::unique_ptr<OIIO::ImageInput> input = OIIO::ImageInput::create(format);
    if (!input) return unreadable(first_line(OIIO::geterror()));
    bool open = false;
    try {
        // Colours as they are painted, whatever shines through: the library would give them times the alpha.
        OIIO::ImageSpec wishes;
        wishes["oiio:UnassociatedAlpha"] = 1;
        OIIO::ImageSpec spec;
        open = input->open(path.string(), spec, wishes);
    } catch (const std::exception& error) {
        return unreadable(error.what());
    }
    if (!open) return unreadable(first_line(input->geterror()));
    const OIIO::ImageSpec& spec = input->spec();
    if (spec.width < 1 || spec.height < 1 || spec.nchannels < 1 || spec.depth > 1)
        return unreadable("it has no pixels");
    return input;
}

// 1 to 8 as EXIF counts them; 1 where none is said.
int orientation_of(const OIIO::ImageSpec& spec) {
    const int said = spec.get_int_attribute("Orientation", 1);
    return said >= 1 && said <= 8 ? said : 1;
}

Result<ImageFacts> facts_of(const std::filesystem::path& path) {
    const auto input = opened(path);
    if (!input) return input.error();
    const OIIO::ImageSpec& spec = (*input)->spec();
    const auto width = static_cast<std::size_t>(spec.width), height = static_cast<std::size_t>(spec.height);
    const bool lies = orientation_of(spec) >= 5;
    return ImageFacts{lies ? height : width, lies ? width : height,
                      static_cast<std::size_t>(std::min(spec.nchannels, 4))};
}

// Colours that the file holds times their alpha, divided by it; black where nothing is seen.
void undo_alpha(const OIIO::ImageSpec& spec, Raster& raster) {
    if (spec.alpha_channel != static_cast<int>(raster.channels) - 1 || raster.channels < 2) return;
    if (spec.get_int_attribute("oiio:UnassociatedAlpha") != 0) return;
    for (std::size_t pixel = 0; pixel < raster.values.size(); pixel += raster.channels) {
        const float alpha = raster.values[pixel + raster.channels - 1];
        for (std::size_t channel = 0; channel + 1 < raster.channels && alpha > 0; ++channel)
            raster.values[pixel + channel] /= alpha;
    }
}

// The picture as it is meant to be seen: cameras keep the sensor's rows and say how they held it.
Raster upright(Raster raster, int orientation) {
    if (orientation == 1) return raster;
    Raster turned;
    const bool lies = orientation >= 5;
    turned.width = lies ? raster.height : raster.width;
    turned.height = lies ? raster.width : raster.height;
    turned.channels = raster.channels;
    turned.values.resize(raster.values.size());
    // Where the first row and column of the file lie: 2 3 6 7 right or mirrored, 3 4 7 8 below (EXIF 2.32,
    // tag 0x0112).
    const bool from_right = orientation == 2 || orientation == 3 || orientation == 6 || orientation == 7;
    const bool from_below = orientation == 3 || orientation == 4 || orientation == 7 || orientation == 8;
    for (std::size_t y = 0; y < turned.height; ++y)
        for (std::size_t x = 0; x < turned.width; ++x) {
            const std::size_t a = from_right ? turned.width - 1 - x : x,
                              b = from_below ? turned.height - 1 - y : y;
            const float* pixel =
                &raster.values[(lies ? b + raster.width * a : a + raster.width * b) * raster.channels];
            std::copy_n(pixel, raster.channels, &turned.values[(x + turned.width * y) * raster.channels]);
        }
    return turned;
}

Result<Raster> image_of(const std::filesystem::path& path, const Run& run) {
    auto input = opened(path);
    if (!input) return input.error();
    const OIIO::ImageSpec spec = (*input)->spec();
    Raster raster;
    raster.width = static_cast<std::size_t>(spec.width);
    raster.height = static_cast<std::size_t>(spec.height);
    raster.channels = static_cast<std::size_t>(std::min(spec.nchannels, 4));
    raster.values.resize(raster.width * raster.height * raster.channels);
    struct Watch {
        const Run& run;
    } watch{run};
    const auto tell = [](void* data, float done) {
        const Run& run_told = static_cast<Watch*>(data)->run;
        run_told.report(static_cast<double>(done));
        return run_told.cancelled();
    };
    bool read = false;
    std::string why;
    try {
        read = (*input)->read_image(0, 0, 0, static_cast<int>(raster.channels), OIIO::TypeDesc::FLOAT,
                                    raster.values.data(), OIIO::AutoStride, OIIO::AutoStride,
                                    OIIO::AutoStride, tell, &watch);
    } catch (const std::exception& error) {
        why = error.what();
    }
    if (run.cancelled()) return cancelled_error();
    // Some decoders fill what is missing with black and leave a word about it.
    if (read && (*input)->has_error()) read = false;
    if (!read) return ends_early(why.empty() ? first_line((*input)->geterror()) : why);
    if (jpeg_without_end(path)) return ends_early("its end marker is missing");
    undo_alpha(spec, raster);
    return upright(std::move(raster), orientation_of(spec));
}

}  // namespace
}  // namespace plume

const void* plume_picture_reader() {
    static constexpr plume::PictureReader reader{plume::facts_of, plume::image_of};
    return &reader;
}

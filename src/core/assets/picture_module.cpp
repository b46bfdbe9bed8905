#include "core/assets/picture_module.hpp"

#include <OpenImageIO/imageio.h>

#include <algorithm>
#include <fstream>

namespace plume {
namespace {

Error unreadable(const std::string& why) {
    return {ErrorCode::file_unreadable, "",
            "is not a picture that can be read" + (why.empty() ? "" : " (" + why + ")"),
            "Choose a PNG, JPEG or TIFF file."};
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

Result<std::unique_ptr<OIIO::ImageInput>> opened(const std::filesystem::path& path) {
    std::error_code ignored;
    if (!std::filesystem::is_regular_file(path, ignored))
        return Error{ErrorCode::file_missing, "", "is not there", "Put the file back, or choose another."};
    if (std::filesystem::file_size(path, ignored) == 0)
        return Error{ErrorCode::file_damaged, "", "is empty", "Choose another picture."};
    std::unique_ptr<OIIO::ImageInput> input;
    try {
        input = OIIO::ImageInput::open(path.string());
    } catch (const std::exception& error) {
        return unreadable(error.what());
    }
    if (!input) return unreadable(first_line(OIIO::geterror()));
    const OIIO::ImageSpec& spec = input->spec();
    if (spec.width < 1 || spec.height < 1 || spec.nchannels < 1 || spec.depth > 1)
        return unreadable("it has no pixels");
    return input;
}

Result<ImageFacts> facts_of(const std::filesystem::path& path) {
    const auto input = opened(path);
    if (!input) return input.error();
    const OIIO::ImageSpec& spec = (*input)->spec();
    return ImageFacts{static_cast<std::size_t>(spec.width), static_cast<std::size_t>(spec.height),
                      static_cast<std::size_t>(std::min(spec.nchannels, 4))};
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
    return raster;
}

}  // namespace
}  // namespace plume

const plume::PictureReader* plume_picture_reader() {
    static constexpr plume::PictureReader reader{plume::facts_of, plume::image_of};
    return &reader;
}

#include "core/assets/image_file.hpp"

#include "core/assets/picture_module.hpp"
#include "core/base/file.hpp"
#include "core/base/module.hpp"

namespace plume {
namespace {

// Loaded once, for as long as the program runs; nullptr when it is not there.
const PictureReader* reader() {
    static const auto* const loaded = module_entry<PictureReader>("pictures", "plume_picture_reader");
    return loaded;
}

// Whoever asks says which file it is.
Error without_place(Error error) {
    error.where.clear();
    return error;
}

Error no_reader() {
    return {ErrorCode::file_unreadable, "",
            "cannot be read: the part of the program that reads pictures is missing",
            "Install the program anew; libplume_pictures.so belongs to it."};
}

}  // namespace

Result<ImageFacts> read_image_facts(const std::filesystem::path& path) {
    if (const Status regular = check_regular_file(path); !regular) return without_place(regular.error());
    return reader() ? reader()->facts(path) : Result<ImageFacts>(no_reader());
}

Result<Raster> read_image(const std::filesystem::path& path, const Run& run) {
    if (const Status regular = check_regular_file(path); !regular) return without_place(regular.error());
    return reader() ? reader()->image(path, run) : Result<Raster>(no_reader());
}

}  // namespace plume

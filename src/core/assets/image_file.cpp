#include "core/assets/image_file.hpp"

#include <dlfcn.h>

#include "core/assets/picture_module.hpp"
#include "core/base/file.hpp"

namespace plume {
namespace {

// Loaded once, for as long as the program runs; nullptr when it is not there.
const PictureReader* reader() {
    static const PictureReader* const loaded = []() -> const PictureReader* {
        void* const library = dlopen("libplume_pictures.so", RTLD_NOW | RTLD_LOCAL);
        void* const entry = library ? dlsym(library, "plume_picture_reader") : nullptr;
        // A function by its address, as the standard of the loader has it (POSIX, dlsym).
        return entry ? reinterpret_cast<decltype(&plume_picture_reader)>(entry)() : nullptr;
    }();
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

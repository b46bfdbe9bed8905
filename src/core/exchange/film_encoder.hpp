#pragma once
// Films by the program ffmpeg, which is run where it is installed: pictures go in one after the other, and
// the ending of the file says in which form they come out.

#include <filesystem>
#include <memory>

#include "core/base/run.hpp"
#include "core/picture/still.hpp"

namespace plume {

class FilmEncoder {
public:
    // Errors: broke_off (there is no ffmpeg), those of files.
    static Result<std::unique_ptr<FilmEncoder>> begin(const std::filesystem::path& path, int width,
                                                      int height, double rate);
    virtual ~FilmEncoder() = default;

    // Of that size. Error: broke_off, with the last that ffmpeg said.
    virtual Status add(const Image& image) = 0;
    // The film is there only then; without it nothing is left behind.
    virtual Status finish() = 0;
};

// Whether it can be run.
bool can_encode_films();

}  // namespace plume

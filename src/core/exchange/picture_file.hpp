#pragma once
// Results as a still picture in a PNG.

#include "core/exchange/export.hpp"
#include "core/picture/still.hpp"

namespace plume {

struct PictureJob {
    std::vector<ExportedResult> results;  // drawn as their Show says
    Units study_units;
    // Of a picture to scale only the camera and whether it is transparent: it is as large as everything
    // takes, seen in parallel.
    StillOptions still = {};
    double scale = 0;           // 50 for 1:50; 0: as the camera has it
    double dots_an_inch = 150;  // of a picture to scale
    // So many pictures from all around, shown in so many seconds; 0: one.
    int turn_pictures = 0;
    double turn_seconds = 0;
};

// What a job draws: results made ready, and how.
struct PictureScene {
    std::vector<std::unique_ptr<const Drawable>> drawables;
    std::vector<StillItem> items;
    StillOptions still;
};
// Errors: those of drawing, naming their result; out_of_range, where a picture to scale would take more
// pixels than it can have.
Result<PictureScene> picture_scene(const PictureJob& job, const Run& run);

// "the sun at a bearing of 229°, 51.8° high", or how far below the horizon it is.
std::string sun_text(Vec3 towards);

// Returns a sentence saying how large it is. Errors: those of picture_scene(), of render_still(), of files.
Result<std::string> write_picture(const PictureJob& job, const std::filesystem::path& path, const Run& run);

}  // namespace plume

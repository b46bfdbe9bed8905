#pragma once
// A study that moves as pictures one after the other: a folder of PNGs, one PNG that moves, or a film.

#include "core/evaluation/evaluator.hpp"
#include "core/exchange/picture_file.hpp"

namespace plume {

struct FilmJob {
    StudyPointer study;
    // The film sets its moment and leaves out the page Hand off. Its store keeps what frames share: one of
    // the film's own where it has none.
    EvaluationPlan plan;
    // What is drawn of a frame.
    std::function<Result<std::vector<ExportedResult>>(const Evaluation&)> seen;
    std::size_t first = 0, count = 1;  // frames, at the rate of the study
    // How it is drawn, without results; neither to scale nor a turn.
    PictureJob how;
    std::string camera = {};  // one that the study keeps, along its keys; empty: how.still's
    double turn_rad = 0;      // that the camera goes around meanwhile
};

// More frames are written only where that was asked.
inline constexpr std::size_t most_film_frames = 20'000;

// Where it goes is told by the ending: none, a folder; .png, one that moves; else a film. The pictures of a
// folder are frame-0001.png and on. A camera that fits what is seen fits what is seen at 13 moments. Returns
// a sentence. Errors: those of write_picture() and of `seen`; empty_input (no frames); broke_off (ffmpeg).
Result<std::string> write_film(const FilmJob& job, const std::filesystem::path& path, const Run& run);

}  // namespace plume

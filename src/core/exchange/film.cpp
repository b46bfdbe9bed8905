#include "core/exchange/film.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/guarded.hpp"
#include "core/base/numbers.hpp"
#include "core/exchange/film_encoder.hpp"
#include "core/picture/png.hpp"
#include "core/study/moving.hpp"

namespace plume {
namespace {

namespace fs = std::filesystem;

// How many moments are looked at for how large all is that moves.
constexpr std::size_t most_moments_measured = 13;
// What frames leave for the next ones.
constexpr std::size_t store_bytes = 1'500'000'000;
// Of the work, for that.
constexpr double measuring_share = 0.1;

double rate_of(const FilmJob& job) {
    return job.study->time.rate;
}

Status make_folder(const fs::path& folder) {
    std::error_code problem;
    fs::create_directories(folder, problem);
    if (!problem) return Done{};
    return Error{ErrorCode::file_unwritable, "‘" + folder.string() + "’",
                 "cannot be made: " + problem.message(), "Choose another folder."};
}

// frame-0001.png and on.
Status write_folder(const fs::path& folder, std::size_t count, const PictureOf& frame) {
    const std::size_t digits = std::max<std::size_t>(4, std::to_string(count).size());
    for (std::size_t at = 0; at < count; ++at) {
        const auto image = frame(at);
        if (!image) return image.error();
        if (at == 0)
            if (Status there = make_folder(folder); !there) return there;
        std::string number = std::to_string(at + 1);
        number.insert(0, digits - number.size(), '0');
        if (Status written = write_png(*image, folder / ("frame-" + number + ".png")); !written)
            return written;
    }
    return Done{};
}

Status encode(const FilmJob& job, const fs::path& path, const PictureOf& frame) {
    const auto encoder = FilmEncoder::begin(path, job.how.still.width, job.how.still.height, rate_of(job));
    if (!encoder) return encoder.error();
    for (std::size_t at = 0; at < job.count; ++at) {
        const auto image = frame(at);
        if (!image) return image.error();
        if (Status added = (*encoder)->add(*image); !added) return added;
    }
    return (*encoder)->finish();
}

Status write_pictures(const FilmJob& job, const fs::path& path, const PictureOf& frame) {
    if (path.extension().empty()) return write_folder(path, job.count, frame);
    if (path.extension() == ".png") return write_moving_png(path, job.count, 1 / rate_of(job), frame);
    return encode(job, path, frame);
}

Result<PictureScene> scene_at(const FilmJob& job, std::size_t frame, const Run& run) {
    EvaluationPlan plan = job.plan;
    plan.moment = Moment{frame, rate_of(job)};
    const Evaluation evaluation = evaluate(job.study, plan, run);
    if (evaluation.cancelled) return cancelled_error();
    auto results = job.seen(evaluation);
    if (!results) return results.error();
    PictureJob one = job.how;
    one.results = *std::move(results);
    auto scene = picture_scene(one, run);
    const KeptCamera* kept = job.study->camera(std::string_view(job.camera));
    if (scene && kept) scene->still.camera = camera_at(*kept, plan.moment->seconds());
    return scene;
}

// The camera that has all of it in view from wherever it looks, as far as a few moments tell.
Result<Camera> fitted_camera(const FilmJob& job, const Run& run) {
    Box all;
    const std::size_t looks = std::min(job.count, most_moments_measured);
    for (std::size_t look = 0; look < looks; ++look) {
        const std::size_t last = job.count - 1;
        const std::size_t frame = job.first + (looks < 2 ? 0 : last * look / (looks - 1));
        const auto scene = scene_at(job, frame, run);
        if (!scene) return scene.error();
        all.include(bounds_of(scene->items));
        run.report(measuring_share * static_cast<double>(look + 1) / static_cast<double>(looks));
    }
    Camera camera = job.how.still.camera;
    const double aspect = static_cast<double>(job.how.still.width) / job.how.still.height;
    const auto fitted = [&](double turned) {
        Camera one = camera;
        one.azimuth_rad += turned;
        one.fit(all, aspect);
        return one;
    };
    constexpr int sides = 24;
    double farthest = fitted(0).distance;
    for (int side = 1; job.turn_rad != 0 && side < sides; ++side)
        farthest = std::max(farthest, fitted(job.turn_rad * side / sides).distance);
    camera = fitted(0);
    if (job.turn_rad != 0) camera.target = all.centre();
    camera.distance = farthest;
    return camera;
}

Result<std::string> write_frames(const FilmJob& job, const fs::path& path, const Run& run) {
    if (job.count == 0)
        return Error{ErrorCode::empty_input, "A film", "needs at least one frame", "Choose a later end."};
    FilmJob fixed = job;
    ResultStore store(store_bytes);
    if (!fixed.plan.store) fixed.plan.store = &store;
    const std::vector<Item>& items = job.study->items;
    for (std::size_t at = job.study->page_begin(Page::hand_off); at < items.size(); ++at)
        fixed.plan.later.insert(id_of(items[at]));
    if (job.how.still.fit) {
        const auto camera = fitted_camera(fixed, run);
        if (!camera) return camera.error();
        fixed.how.still.camera = *camera;
    }
    fixed.how.still.fit = false;
    const auto frame = [&](std::size_t at) -> Result<Image> {
        const double share = static_cast<double>(at) / static_cast<double>(job.count);
        const Run part =
            run.part(measuring_share + (1 - measuring_share) * share,
                     measuring_share + (1 - measuring_share) * (share + 1 / static_cast<double>(job.count)));
        auto scene = scene_at(fixed, job.first + at, part);
        if (!scene) return scene.error();
        scene->still.camera.azimuth_rad += job.turn_rad * share;
        return render_still(scene->items, scene->still, part);
    };
    if (Status written = write_pictures(fixed, path, frame); !written) return written.error();
    return std::to_string(job.count) + (job.count == 1 ? " frame of " : " frames of ") +
           std::to_string(fixed.how.still.width) + " × " + std::to_string(fixed.how.still.height) +
           " pixels, " + short_text(static_cast<double>(job.count) / rate_of(job)) + " s";
}

}  // namespace

Result<std::string> write_film(const FilmJob& job, const fs::path& path, const Run& run) {
    const Result<std::string> written = guarded([&] { return write_frames(job, path, run); });
    if (!written) return written.error();
    return "Wrote ‘" + path.string() + "’, " + *written + ".";
}

}  // namespace plume

#include "core/exchange/picture_file.hpp"

#include <cmath>
#include <numbers>

#include "core/base/guarded.hpp"
#include "core/base/numbers.hpp"
#include "core/picture/png.hpp"
#include "core/picture/sun.hpp"
#include "core/results/items.hpp"

namespace plume {
namespace {

double dots_a_metre(double dots_an_inch) {
    return dots_an_inch / metres_per(LengthUnit::inch);
}

// What is written at the items of a value, which has to outlive it.
std::function<std::string(std::size_t)> labels_of(const Value& value, const Show& show, const Units& units) {
    if (!show.labels) return {};
    return [items = items_of(value), by = show.label_by, units](std::size_t item) {
        return label_text(items, item, by, units);
    };
}

Status draw_results(const PictureJob& job, PictureScene& scene, const Run& run) {
    for (const ExportedResult& result : job.results) {
        const Show& show = result.show;
        const DrawOptions finely{show.colour_by, 200'000, 4'000'000, 8'000'000};
        Result<Drawable> made = make_drawable(*result.value, finely, run);
        if (!made) return error_at(made.error(), "‘" + result.name + "’");
        scene.drawables.push_back(std::make_unique<const Drawable>(*std::move(made)));
        scene.items.push_back({scene.drawables.back().get(), show.points, show.edges, show.faces, show.ramp,
                               material_of(show.material), show.heavier_each,
                               labels_of(*result.value, show, job.study_units),
                               labelled_items(items_of(*result.value), show.label_by)});
    }
    return Done{};
}

// As large as a picture to scale is, from all sides it is seen from.
Status set_size_to_scale(const PictureJob& job, PictureScene& scene) {
    StillOptions& still = scene.still;
    still.pixels_per_length = dots_a_metre(job.dots_an_inch) * metres_per(job.study_units.length) / job.scale;
    PixelSize size;
    const int pictures = std::max(1, job.turn_pictures);
    for (int picture = 0; picture < pictures; ++picture) {
        const PixelSize one =
            size_to_scale(scene.items, seen_around(still.camera, picture, pictures), still.pixels_per_length);
        size = {std::max(size.width, one.width), std::max(size.height, one.height)};
    }
    constexpr double most = largest_still;
    if (size.width > most || size.height > most)
        return Error{ErrorCode::out_of_range, "a scale of 1 : " + short_text(job.scale),
                     "would take " + short_text(size.width, 6) + " × " + short_text(size.height, 6) +
                         " pixels, more than the " + short_text(most) + " a picture can have",
                     "Choose a smaller scale or fewer pixels an inch."};
    still.width = static_cast<int>(std::ceil(size.width));
    still.height = static_cast<int>(std::ceil(size.height));
    return Done{};
}

Result<Image> still_of(const PictureJob& job, const Run& run) {
    const auto scene = picture_scene(job, run);
    if (!scene) return scene.error();
    auto image = render_still(scene->items, scene->still, run);
    if (image && job.scale > 0) image->pixels_per_metre = dots_a_metre(job.dots_an_inch);
    return image;
}

std::string size_text(int width, int height) {
    return std::to_string(width) + " × " + std::to_string(height) + " pixels";
}

Result<std::string> write_still(const PictureJob& job, const std::filesystem::path& path, const Run& run) {
    const Result<Image> image = still_of(job, run);
    if (!image) return image.error();
    if (const Status written = write_png(*image, path); !written) return written.error();
    return size_text(image->width, image->height);
}

Result<std::string> write_turn(const PictureJob& job, const std::filesystem::path& path, const Run& run) {
    const auto scene = picture_scene(job, run);
    if (!scene) return scene.error();
    const auto around = [&](std::size_t number) {
        const auto picture = static_cast<int>(number);
        StillOptions still = scene->still;
        still.camera = seen_around(still.camera, picture, job.turn_pictures);
        const double all = job.turn_pictures;
        return render_still(scene->items, still, run.part(picture / all, (picture + 1) / all));
    };
    const Status written = write_moving_png(path, static_cast<std::size_t>(job.turn_pictures),
                                            job.turn_seconds / job.turn_pictures, around);
    if (!written) return written.error();
    return std::to_string(job.turn_pictures) + " pictures around of " +
           size_text(scene->still.width, scene->still.height) + ", shown in " + short_text(job.turn_seconds) +
           " s";
}

}  // namespace

Result<PictureScene> picture_scene(const PictureJob& job, const Run& run) {
    PictureScene scene;
    scene.still = job.still;
    if (Status drawn = draw_results(job, scene, run); !drawn) return drawn.error();
    if (job.scale > 0) {
        if (Status sized = set_size_to_scale(job, scene); !sized) return sized.error();
    } else if (job.turn_pictures > 0 && scene.still.fit) {
        const double aspect = static_cast<double>(scene.still.width) / scene.still.height;
        scene.still.camera = fitted_all_around(scene.items, scene.still.camera, aspect, job.turn_pictures);
        scene.still.fit = false;
    }
    return scene;
}

std::string sun_text(Vec3 towards) {
    const SunPlace sun = place_of(towards);
    const auto degrees = [](double radians) {
        return short_text(std::round(radians * 1800 / std::numbers::pi) / 10) + "°";
    };
    if (sun.height_rad <= 0)
        return "the sun " + degrees(-sun.height_rad) + " below the horizon, so that only the sky gives light";
    return "the sun at a bearing of " + degrees(sun.bearing_rad) + ", " + degrees(sun.height_rad) + " high";
}

Result<std::string> write_picture(const PictureJob& job, const std::filesystem::path& path, const Run& run) {
    const Result<std::string> written = guarded(
        [&] { return job.turn_pictures > 0 ? write_turn(job, path, run) : write_still(job, path, run); });
    if (!written) return written.error();
    return "Wrote ‘" + path.string() + "’, " + *written +
           (job.still.sun ? ", " + sun_text(*job.still.sun) : "") + ".";
}

}  // namespace plume

#include "core/exchange/picture_file.hpp"

#include <cmath>

#include "core/base/guarded.hpp"
#include "core/base/numbers.hpp"
#include "core/picture/png.hpp"
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

struct Drawn {
    std::vector<std::unique_ptr<const Drawable>> drawables;
    std::vector<StillItem> items;
};

Result<Drawn> drawn(const PictureJob& job, const Run& run) {
    Drawn all;
    for (const ExportedResult& result : job.results) {
        const Show& show = result.show;
        const DrawOptions finely{show.colour_by, 200'000, 4'000'000, 8'000'000};
        Result<Drawable> made = make_drawable(*result.value, finely, run);
        if (!made) return error_at(made.error(), "‘" + result.name + "’");
        all.drawables.push_back(std::make_unique<const Drawable>(*std::move(made)));
        all.items.push_back({all.drawables.back().get(), show.points, show.edges, show.faces, show.ramp,
                             material_of(show.material), show.heavier_each,
                             labels_of(*result.value, show, job.study_units),
                             labelled_items(items_of(*result.value), show.label_by)});
    }
    return all;
}

// With the size that a picture to scale has.
Result<StillOptions> sized(const PictureJob& job, const std::vector<StillItem>& items) {
    StillOptions still = job.still;
    if (job.scale <= 0) return still;
    still.pixels_per_length = dots_a_metre(job.dots_an_inch) * metres_per(job.study_units.length) / job.scale;
    const PixelSize size = size_to_scale(items, still.camera, still.pixels_per_length);
    constexpr double most = 8192;
    if (size.width > most || size.height > most)
        return Error{ErrorCode::out_of_range, "a scale of 1 : " + short_text(job.scale),
                     "would take " + short_text(size.width, 6) + " × " + short_text(size.height, 6) +
                         " pixels, more than the " + short_text(most) + " a picture can have",
                     "Choose a smaller scale or fewer pixels an inch."};
    still.width = static_cast<int>(std::ceil(size.width));
    still.height = static_cast<int>(std::ceil(size.height));
    return still;
}

Result<Image> picture_of(const PictureJob& job, const Run& run) {
    const auto all = drawn(job, run);
    if (!all) return all.error();
    const auto still = sized(job, all->items);
    if (!still) return still.error();
    auto image = render_still(all->items, *still, run);
    if (image && job.scale > 0) image->pixels_per_metre = dots_a_metre(job.dots_an_inch);
    return image;
}

}  // namespace

Result<std::string> write_picture(const PictureJob& job, const std::filesystem::path& path, const Run& run) {
    const Result<Image> image = guarded([&] { return picture_of(job, run); });
    if (!image) return image.error();
    if (const Status written = write_png(*image, path); !written) return written.error();
    return "Wrote ‘" + path.string() + "’, " + std::to_string(image->width) + " × " +
           std::to_string(image->height) + " pixels.";
}

}  // namespace plume

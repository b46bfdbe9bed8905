#include "core/picture/still.hpp"

#include <algorithm>
#include <chrono>
#include <cmath>
#include <numbers>
#include <numeric>

#include "core/base/machine.hpp"
#include "core/base/numbers.hpp"
#include "core/base/parallel.hpp"
#include "core/picture/still_buffer.hpp"
#include "core/picture/still_canvas.hpp"
#include "core/picture/still_lines.hpp"
#include "core/picture/still_scene.hpp"
#include "core/picture/still_shading.hpp"

namespace plume {
namespace {

// Sums, a copy of them that is drawn over, ends of faces and bytes.
constexpr double bytes_a_pixel = 56;
constexpr Colour ink{0.02F, 0.03F, 0.03F};

// Relative to the scene's origin.
Camera camera_for(const StillScene& scene, const StillOptions& options) {
    Camera camera = options.camera;
    if (options.pixels_per_length > 0) {
        camera.perspective = false;
        camera.target = scene.bounds().centre();
        camera.distance *= options.height / options.pixels_per_length / camera.view_height();
    } else if (options.fit) {
        camera.fit(scene.bounds(), static_cast<double>(options.width) / options.height);
    }
    camera.target = camera.target - scene.origin();
    return camera;
}

// The rays through a picture's pixels, with what the camera looks like worked out once.
class ScreenRays {
public:
    ScreenRays(const Camera& camera, double aspect)
        : perspective_(camera.perspective),
          eye_(camera.eye()),
          forward_(camera.forward()),
          ahead_(forward_ * camera.distance),
          right_(camera.right() * (camera.view_height() / 2 * aspect)),
          up_(camera.up() * (camera.view_height() / 2)) {}

    // (0, 0) top left to (1, 1) bottom right.
    Ray through(double x, double y) const {
        const Vec3 offset = right_ * (2 * x - 1) + up_ * (1 - 2 * y);
        if (!perspective_) return {eye_ + offset, forward_};
        return {eye_, unit_or_zero(ahead_ + offset)};
    }

private:
    bool perspective_;
    Vec3 eye_, forward_, ahead_, right_, up_;
};

}  // namespace

struct StillWork::Parts {
    Parts(const std::vector<StillItem>& given, const StillOptions& wished)
        : items(given),
          options(wished),
          scene(given, wished.clay),
          camera(camera_for(scene, wished)),
          screen(camera, static_cast<double>(wished.width) / wished.height),
          light(wished.sun ? sun_light(*wished.sun) : soft_light(camera)),
          shading(scene, light, camera, wished.ground),
          buffer(wished.width, wished.height),
          rays(static_cast<std::size_t>(wished.height), 0) {
        if (!wished.outlines) return;
        first_depths.resize(buffer.count());
        outlines.assign(buffer.count(), 0);
    }

    void trace_row(int y) {
        // All pixels of a pass are looked at in the same place, so that neighbours can be compared.
        const auto [dx, dy] = Sequence().at(done);
        const double sy = (y + dy) / options.height;
        for (int x = 0; x < options.width; ++x) {
            const std::size_t at = index(x, y);
            const StillSample sample{Sequence(static_cast<std::uint32_t>(at)), done, sy,
                                     &rays[static_cast<std::size_t>(y)]};
            const Seen seen = shading.seen(screen.through((x + dx) / options.width, sy), sample);
            buffer.colours[at] = buffer.colours[at] + seen.colour;
            buffer.covers[at] += seen.cover;
            buffer.depths[at] = std::min(buffer.depths[at], static_cast<float>(seen.depth));
            if (!options.outlines) continue;
            first_depths[at] = static_cast<float>(seen.first_depth);
        }
    }

    // Where something ends before what lies so much deeper that it cannot be the same face going on.
    void outline_row(int y) {
        const int reach = static_cast<int>(std::lround(still_unit(options)));
        for (int x = 0; x < options.width; ++x)
            if (ends_at(x, y, reach, 0) || ends_at(x, y, 0, reach)) outlines[index(x, y)] += 1;
    }
    bool ends_at(int x, int y, int dx, int dy) const {
        const auto depth = [&](int sign) {
            const int a = std::clamp(x + sign * dx, 0, options.width - 1),
                      b = std::clamp(y + sign * dy, 0, options.height - 1);
            return first_depths[index(a, b)];
        };
        const float here = first_depths[index(x, y)], before = depth(-1), behind = depth(1);
        if (!std::isfinite(here)) return false;
        if (!std::isfinite(before) || !std::isfinite(behind)) return true;
        // Along a face both sides lie as deep as its slope says.
        const double height =
            camera.view_height() * (camera.perspective ? static_cast<double>(here) / camera.distance : 1);
        const auto least = static_cast<float>(4 * height / options.height * still_unit(options));
        const float slope = std::min(std::abs(behind - here), std::abs(here - before));
        return std::max(before, behind) - here > least + 3 * slope;
    }

    std::size_t index(int x, int y) const {
        return static_cast<std::size_t>(x) +
               static_cast<std::size_t>(options.width) * static_cast<std::size_t>(y);
    }
    double size() const { return scene.bounds().diagonal(); }

    const std::vector<StillItem>& items;
    const StillOptions options;
    StillScene scene;
    Camera camera;
    ScreenRays screen;
    StillLight light;
    StillShading shading;
    StillBuffer buffer;
    std::vector<float> first_depths;  // of the first faces that one pass has met
    std::vector<float> outlines;      // how many samples found an end there
    std::vector<std::size_t> rays;    // by row
    int done = 0;
};

StillWork::StillWork(const std::vector<StillItem>& items, const StillOptions& options)
    : parts_(std::make_unique<Parts>(items, options)) {}
StillWork::~StillWork() = default;

bool StillWork::pass(const Run& run) {
    Parts& parts = *parts_;
    const auto rows = static_cast<std::size_t>(parts.options.height);
    const auto each_row = [&](auto work) {
        return parallel_blocks(rows, 8, run, [&](std::size_t begin, std::size_t end) {
            for (std::size_t y = begin; y < end; ++y)
                work(static_cast<int>(y));
        });
    };
    if (!each_row([&](int y) { parts.trace_row(y); })) return false;
    if (parts.options.outlines && !each_row([&](int y) { parts.outline_row(y); })) return false;
    ++parts.done;
    return true;
}

int StillWork::passes() const {
    return parts_->done;
}

std::size_t StillWork::rays() const {
    return std::accumulate(parts_->rays.begin(), parts_->rays.end(), std::size_t{0});
}

Result<Image> StillWork::image() const {
    const Parts& parts = *parts_;
    const float share = 1 / static_cast<float>(std::max(1, parts.done));
    StillCanvas canvas(parts.buffer, share, 0.004 * parts.size());
    for (std::size_t at = 0; at < parts.outlines.size(); ++at)
        if (parts.outlines[at] > 0) canvas.blend(at, ink, 0.85F * share * parts.outlines[at]);
    const StillLines lines{parts.items,
                           parts.camera,
                           parts.scene.origin(),
                           parts.size(),
                           parts.shading.background(0),
                           still_unit(parts.options)};
    if (Status drawn = draw_lines(canvas, lines); !drawn) return drawn.error();
    return canvas.image();
}

Box bounds_of(const std::vector<StillItem>& items) {
    Box box;
    for (const StillItem& item : items)
        box.include(item.drawable->bounds);
    return box;
}

Camera seen_around(const Camera& camera, int picture, int pictures) {
    Camera one = camera;
    one.azimuth_rad += 2 * std::numbers::pi * picture / pictures;
    return one;
}

PixelSize size_to_scale(const std::vector<StillItem>& items, const Camera& camera, double pixels_per_length) {
    const Box box = bounds_of(items);
    double low_x = 0, high_x = 0, low_y = 0, high_y = 0;
    for (int corner = 0; corner < 8 && !box.empty(); ++corner) {
        const Vec3 place{corner & 1 ? box.high.x : box.low.x, corner & 2 ? box.high.y : box.low.y,
                         corner & 4 ? box.high.z : box.low.z};
        const double x = dot(place - box.centre(), camera.right()),
                     y = dot(place - box.centre(), camera.up());
        low_x = std::min(low_x, x);
        high_x = std::max(high_x, x);
        low_y = std::min(low_y, y);
        high_y = std::max(high_y, y);
    }
    // Lines and discs reach beyond the places they stand for.
    constexpr double margin = 24;
    const double half_width = std::max(high_x, -low_x), half_height = std::max(high_y, -low_y);
    return {2 * half_width * pixels_per_length + 2 * margin,
            2 * half_height * pixels_per_length + 2 * margin};
}

Camera fitted_all_around(const std::vector<StillItem>& items, const Camera& camera, double aspect,
                         int count) {
    const Box box = bounds_of(items);
    Camera around = camera;
    around.fit(box, aspect);
    around.target = box.centre();
    const auto sees_it_all = [&] {
        for (int at = 0; at < count; ++at) {
            if (!seen_around(around, at, count).sees(box, aspect)) return false;
        }
        return true;
    };
    // A step back is small against what a picture leaves free around a form.
    for (int step = 0; step < 200 && !sees_it_all(); ++step)
        around.distance *= 1.03;
    return around;
}

Status check_still(const std::vector<StillItem>& items, const StillOptions& options) {
    for (const int side : {options.width, options.height})
        if (side < 1 || side > largest_still)
            return Error{ErrorCode::out_of_range, "The picture",
                         "has to be 1 to " + std::to_string(largest_still) + " pixels each way",
                         "Choose another size, such as 1280x800."};
    const double bytes = bytes_a_pixel * options.width * options.height;
    if (bytes > machine_memory() / 2)
        return Error{ErrorCode::out_of_memory, "The picture",
                     "would need about " + short_text(bytes / 1e9, 3) +
                         " GB of memory, more than half of what this machine has",
                     "Choose a smaller size."};
    if (bounds_of(items).empty())
        return Error{ErrorCode::nothing_to_write, "The picture", "would be empty: nothing is visible",
                     "Show a result first."};
    return Done{};
}

Result<Image> render_still(const std::vector<StillItem>& items, const StillOptions& options, const Run& run,
                           const StillWatcher& watcher) {
    if (Status fine = check_still(items, options); !fine) return fine.error();
    using Clock = std::chrono::steady_clock;
    constexpr std::chrono::milliseconds between_looks{300};
    StillWork work(items, options);
    const Clock::time_point begun = Clock::now();
    Clock::time_point looked;
    while (work.passes() < options.passes) {
        const double done = work.passes(), all = options.passes;
        if (!work.pass(run.part(done / all, (done + 1) / all))) return cancelled_error();
        const Clock::time_point now = Clock::now();
        if (!watcher || work.passes() == options.passes || now - looked < between_looks) continue;
        const Result<Image> image = work.image();
        if (!image) return image.error();
        const double taken = std::chrono::duration<double>(now - begun).count();
        watcher({*image, work.passes(), taken * (options.passes - work.passes()) / work.passes()});
        looked = Clock::now();
    }
    return work.image();
}

}  // namespace plume

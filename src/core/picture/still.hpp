#pragma once
// Still pictures by ray tracing on the processor (Embree 3): a light and the sky around, a shadow on the
// ground, edges and points drawn over. Needs no graphics card. The same picture for the same input on any
// number of threads: all sampling is by fixed sequences.

#include <cstdint>
#include <functional>
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "core/data/camera.hpp"
#include "core/data/material.hpp"
#include "core/picture/drawable.hpp"
#include "core/picture/labels.hpp"
#include "core/picture/ramp.hpp"

namespace plume {

// 8-bit sRGB with alpha, rows from the top; pixel (x, y) at 4 * (x + width * y).
struct Image {
    int width = 0, height = 0;
    std::vector<std::uint8_t> rgba;
    double pixels_per_metre = 0;  // of paper it is printed on; 0: not said
};

struct StillItem {
    const Drawable* drawable = nullptr;
    bool points = true, edges = true, faces = true;
    RampStyle ramp = {};
    std::optional<Material> material = {};
    int heavier_each = 0;                                     // of curves: each so many-th level; 0: none
    std::function<std::string(std::size_t item)> label = {};  // none: without labels
    ItemRange labelled = {};                                  // the items that bear them
};

// What is seen of the ground below everything: nothing but the shadow on it; a plain as far as the horizon;
// nothing, so that what the picture is laid on shines through beside the shadow.
enum class StillGround { shadow, plain, none };

struct StillOptions {
    int width = 1280, height = 800;  // 1 to largest_still each
    Camera camera;
    bool fit = true;     // frame everything, keeping the camera's direction
    int passes = 8;      // samples a pixel
    double density = 1;  // lines and points so many times as wide: 2 for what is shown half as large
    StillGround ground = StillGround::shadow;
    bool clay = false;             // all of one pale, dull material
    bool outlines = false;         // drawn over where something ends before what lies behind it
    std::optional<Vec3> sun = {};  // towards it, unit; nothing: soft light from behind whoever looks
    // To scale: parallel, about the middle of everything; 0: as the camera has it.
    double pixels_per_length = 0;
};

inline constexpr int largest_still = 32768;  // pixels each way

// Of all that is drawn.
Box bounds_of(const std::vector<StillItem>& items);

// So many pixels as a picture of everything to that scale needs, seen as the camera looks, with a margin.
struct PixelSize {
    double width = 0, height = 0;
};
PixelSize size_to_scale(const std::vector<StillItem>& items, const Camera& camera, double pixels_per_length);

// One of so many cameras, evenly around its target.
Camera seen_around(const Camera& camera, int picture, int pictures);
// The camera that, turned round the middle of everything, has all of it in view from so many sides.
Camera fitted_all_around(const std::vector<StillItem>& items, const Camera& camera, double aspect, int count);

// Errors: out_of_range (size), out_of_memory, nothing_to_write (nothing to see).
Status check_still(const std::vector<StillItem>& items, const StillOptions& options);

// A picture that gets better with every pass, each of which takes one more sample a pixel.
class StillWork {
public:
    // Items and what they draw have to outlive it. They have passed check_still().
    StillWork(const std::vector<StillItem>& items, const StillOptions& options);
    ~StillWork();
    StillWork(const StillWork&) = delete;
    StillWork& operator=(const StillWork&) = delete;

    // One more; false where it is cancelled, and nothing has changed.
    bool pass(const Run& run);
    int passes() const;
    // As far as it is, with what is drawn over faces. Errors: of labels that cannot be lettered.
    Result<Image> image() const;
    // The rays of all passes so far, those towards lights among them.
    std::size_t rays() const;

private:
    struct Parts;
    std::unique_ptr<Parts> parts_;
};

// Told of a picture under way: as it is now, after so many of all passes, and how much longer it takes.
struct StillSoFar {
    const Image& image;
    int passes = 0;
    double seconds_left = 0;
};
using StillWatcher = std::function<void(const StillSoFar&)>;

// All passes. The watcher is told after the first, and then a few times a second.
// Errors: those of check_still() and image(); cancelled.
Result<Image> render_still(const std::vector<StillItem>& items, const StillOptions& options, const Run& run,
                           const StillWatcher& watcher = {});

}  // namespace plume

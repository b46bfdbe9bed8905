#pragma once
// Still pictures by ray tracing on the processor (Embree 3): soft light from above left, sky light by ambient
// occlusion, a shadow on the ground, edges and points drawn over. Needs no graphics card. The same picture
// for the same input on any number of threads: all sampling is by fixed sequences.

#include <cstdint>
#include <functional>
#include <optional>
#include <string>
#include <vector>

#include "core/data/material.hpp"
#include "core/picture/camera.hpp"
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

struct StillOptions {
    int width = 1280, height = 800;  // 1 to 8192 each
    Camera camera;
    bool fit = true;  // frame everything, keeping the camera's direction
    int quality = 2;  // samples a pixel each way
    // Nothing but what is drawn and its shadow: the ground lets through what the picture is laid on.
    bool transparent = false;
    // To scale: parallel, about the middle of everything; 0: as the camera has it.
    double pixels_per_length = 0;
};

// So many pixels as a picture of everything to that scale needs, seen as the camera looks, with a margin.
struct PixelSize {
    double width = 0, height = 0;
};
PixelSize size_to_scale(const std::vector<StillItem>& items, const Camera& camera, double pixels_per_length);

// Errors: out_of_range (size), nothing_to_write (nothing to see), cancelled.
Result<Image> render_still(const std::vector<StillItem>& items, const StillOptions& options, const Run& run);

}  // namespace plume

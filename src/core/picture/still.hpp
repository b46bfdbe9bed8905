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
};

// Errors: out_of_range (size), nothing_to_write (nothing to see), cancelled.
Result<Image> render_still(const std::vector<StillItem>& items, const StillOptions& options, const Run& run);

}  // namespace plume

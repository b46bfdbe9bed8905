#pragma once
// Results as bodies for printers: triangles of parts, each with its material and colours.

#include <array>
#include <cstdint>
#include <string>
#include <vector>

#include "core/base/run.hpp"
#include "core/exchange/scene.hpp"

namespace plume {

// sRGB, and how opaque.
using PrintColour = std::array<std::uint8_t, 4>;

// In millimetres; triangles anticlockwise seen from outside.
struct PrintBody {
    std::string name, material;
    PrintColour colour{};
    std::vector<std::array<float, 3>> vertices;
    std::vector<std::array<std::uint32_t, 3>> triangles;
    std::vector<std::array<PrintColour, 3>> corner_colours;  // of each triangle; empty: the one colour
    bool closed = false;
    std::string id, item_id;  // UUIDs: of the body, and of its place on the printer
};

// A body a part; places times `scale`. Fewer when cancelled.
std::vector<PrintBody> print_bodies(const std::vector<SceneObject>& scene, double scale, const Run& run);

}  // namespace plume

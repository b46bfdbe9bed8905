#pragma once
// Writing 3MF stands in a library of its own: the library behind it brings others along.

#include <array>
#include <cstdint>
#include <functional>
#include <string>
#include <vector>

#include "core/base/run.hpp"

namespace plume {

// sRGB, and how opaque.
using PrintColour = std::array<std::uint8_t, 4>;

// A body in millimetres; its triangles anticlockwise seen from outside.
struct PrintBody {
    std::string name, material;
    PrintColour colour;
    std::vector<std::array<float, 3>> vertices;
    std::vector<std::array<std::uint32_t, 3>> triangles;
    std::vector<std::array<PrintColour, 3>> corner_colours;  // of each triangle; empty: the one colour
    bool closed = false;
    std::string id, item_id;  // UUIDs: of the body, and of its place on the printer
};

struct ThreeMfWriter {
    // The file's bytes. Errors: what the library says; cancelled.
    Result<std::string> (*write)(const std::vector<PrintBody>& bodies, const std::string& id, const Run& run);
};

}  // namespace plume

// The one name the program looks up in it: a ThreeMfWriter.
extern "C" const void* plume_threemf_writer();

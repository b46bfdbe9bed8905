#pragma once
// What views of drawings and sheets of paper are called.

#include <span>
#include <string_view>

namespace plume {

// "in plan", "from the south" and on round, "at an angle": in the order of SheetView (exchange/drawing.hpp).
std::span<const std::string_view> view_names();

// ISO 216, lying.
struct PaperSize {
    std::string_view key, name;  // "a3", "A3"
    double width = 0, height = 0;
};
std::span<const PaperSize> paper_sizes();

}  // namespace plume

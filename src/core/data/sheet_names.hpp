#pragma once
// What views of drawings and sheets of paper are called.

#include <span>
#include <string>
#include <string_view>
#include <vector>

#include "core/base/error.hpp"

namespace plume {

// "in plan", "from the south" and on round, "at an angle", "section looking north" and on round, "section
// looking down": in the order of SheetView (exchange/drawing.hpp).
std::span<const std::string_view> view_names();

// ISO 216, lying.
struct PaperSize {
    std::string_view key, name;  // "a3", "A3"
    double width = 0, height = 0;
};
std::span<const PaperSize> paper_sizes();

// Where something stands on a sheet instead of in its rows: its lower left corner, millimetres from that of
// the paper. `of` is the name of a view, or "schedule of" a result.
struct SheetPlace {
    std::string of;
    double x = 0, y = 0;
};
// "in plan at 20 140; from the south at 20 60". Error: syntax, naming the entry.
Result<std::vector<SheetPlace>> sheet_places_from(std::string_view text);
// To tenths of a millimetre.
std::string sheet_places_text(std::span<const SheetPlace> places);

}  // namespace plume

#pragma once
// Heights on a square grid, from text ("ASCII grid": lines of a key and a number, then heights row by row
// from the north).

#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "core/base/run.hpp"

namespace plume {

struct HeightGrid {
    std::size_t columns = 0, rows = 0;
    double west = 0, south = 0;   // the middle of the south-western cell
    double width = 1, depth = 1;  // of a cell
    std::vector<double> heights;  // rows from the south, from the west each; NaN where there is none
    std::optional<double> metres_per_unit;  // grids of numbers state none
    std::vector<std::string> losses;
};

// Units are the file's, which states none. Errors: file_damaged, naming the line or how many heights there
// are; too_large counts likewise; empty_input where every height is missing; cancelled. O(bytes).
Result<HeightGrid> read_height_grid(std::string_view text, const Run& run);

}  // namespace plume

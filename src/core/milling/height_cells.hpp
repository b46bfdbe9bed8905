#pragma once
// Heights over a plane, a number a cell: forms as they are seen from the cutter, and stock that is cut.

#include <cstdint>
#include <vector>

#include "core/data/mesh.hpp"
#include "core/milling/cutter.hpp"

namespace plume {

struct CellGrid {
    double low_x = 0, low_y = 0, cell = 1;  // millimetres
    std::size_t columns = 0, rows = 0;

    std::size_t count() const { return columns * rows; }
    std::size_t index(std::size_t column, std::size_t row) const { return row * columns + column; }
    double x(std::size_t column) const { return low_x + (static_cast<double>(column) + 0.5) * cell; }
    double y(std::size_t row) const { return low_y + (static_cast<double>(row) + 0.5) * cell; }
};
// Over a rectangle, square cells of which there are about so many.
CellGrid cells_over(double low_x, double low_y, double width, double depth, std::size_t about);

// Of the highest face over the middle of each cell; minus infinity where there is none. `layers` counts how
// many faces lie over each. O(faces + cells they cover).
struct FormHeights {
    std::vector<float> heights;
    std::vector<std::uint8_t> layers;
};
FormHeights form_heights(const Mesh& mesh, const CellGrid& grid);

// What is left of a board while it is cut.
class Stock {
public:
    Stock(const CellGrid& grid, double top) : grid_(grid), heights_(grid.count(), static_cast<float>(top)) {}

    const CellGrid& grid() const { return grid_; }
    const std::vector<float>& heights() const { return heights_; }
    // Takes away what the cutter passes through while its tip goes straight from one place to another: at
    // each cell the lowest of its lower side on the way, which is convex along it. Returns the most that was
    // taken off a cell. O(cells beside the way).
    double cut(const Cutter& cutter, Vec3 from, Vec3 to);

private:
    CellGrid grid_;
    std::vector<float> heights_;
};

}  // namespace plume

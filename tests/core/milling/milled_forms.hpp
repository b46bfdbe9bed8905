#pragma once
// Forms to be milled, in millimetres, the board's top at 0.

#include <cmath>
#include <functional>
#include <numbers>

#include "core/made_forms.hpp"

namespace plume::test {

// Over a rectangle from the origin, heights at the corners of so many cells.
inline Mesh relief(double width, double depth, int columns, int rows,
                   const std::function<double(double x, double y)>& height) {
    std::vector<Vec3> places;
    std::vector<std::vector<std::uint32_t>> faces;
    for (int row = 0; row <= rows; ++row)
        for (int column = 0; column <= columns; ++column) {
            const double x = width * column / columns, y = depth * row / rows;
            places.push_back({x, y, height(x, y)});
        }
    for (int row = 0; row < rows; ++row)
        for (int column = 0; column < columns; ++column) {
            const auto corner = static_cast<std::uint32_t>(row * (columns + 1) + column);
            const auto above = corner + static_cast<std::uint32_t>(columns) + 1;
            faces.push_back({corner, corner + 1, above + 1, above});
        }
    return mesh_of_faces(places, faces);
}
// Down from a level rim to an edge along Y in the middle, as steep on both sides.
inline Mesh valley(double width, double depth, double slope) {
    return relief(width, depth, 2, 1,
                  [=](double x, double) { return -slope * (width / 2 - std::abs(x - width / 2)); });
}
// Falling towards larger x.
inline Mesh ramp(double width, double depth, double slope) {
    return relief(width, depth, 1, 1, [=](double x, double) { return -slope * x; });
}

}  // namespace plume::test

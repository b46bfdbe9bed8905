#pragma once
// Points that several splines, curves or patches, were made through, numbered spline by spline.

#include <algorithm>
#include <cmath>
#include <cstddef>
#include <vector>

#include "core/data/column.hpp"

namespace plume {

struct SplineNode {
    std::size_t spline = 0, node = 0;  // which of them, and the number there
};

// Of a number below that of all nodes. node_count(spline) is known where it is called, as below. O(splines).
template <class Spline>
SplineNode node_numbered(const std::vector<Spline>& splines, std::size_t number) {
    std::size_t spline = 0;
    for (; number >= node_count(splines[spline]); ++spline)
        number -= node_count(splines[spline]);
    return {spline, number};
}

template <class Spline>
std::size_t number_of_node(const std::vector<Spline>& splines, SplineNode of) {
    std::size_t number = of.node;
    for (std::size_t before = 0; before < of.spline; ++before)
        number += node_count(splines[before]);
    return number;
}

// How far they may run beside what they were made through by rounding alone. O(poles).
template <class Spline>
double rounding_beside(const std::vector<Spline>& splines) {
    double largest = 0;
    for (const Spline& spline : splines)
        for (const Column* column : {&spline.x(), &spline.y(), &spline.z()})
            for (const double coordinate : column->span())
                largest = std::max(largest, std::abs(coordinate));
    return 1e-10 * largest;
}

}  // namespace plume

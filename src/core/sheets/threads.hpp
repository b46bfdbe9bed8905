#pragma once
// Threads and nets, as sheets without triangles: their members stretch, and bend where they go on.

#include "core/data/bar_frame.hpp"
#include "core/sheets/sheet.hpp"

namespace plume {

// Of a round thread.
struct ThreadMaterial {
    double width = 4e-3;    // m
    double weight = 0.01;   // kg/m
    double stretch = 1000;  // N: force at twice the length
    double bending = 1e-5;  // N m^2
};

// Nodes are the vertices, by their addresses; gaps among them have no members. A thread goes on at a node
// between two members of one way and row, and where a node has no more than two (M. Bergou et al.: Discrete
// elastic rods, 2008, without twist). Errors: empty_input (no member), out_of_range (one without length),
// not_finite.
Result<Sheet> make_threads(const BarFrame& frame, const RestLengths& rest, const ThreadMaterial& material);

}  // namespace plume

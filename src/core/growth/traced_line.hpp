#pragma once
// The line that parts leave which go on where the one before them ended: curves by rewriting.
//
// A part has the axes that its rules gave it and is as long as its size, along. One that makes others ends
// where the last of them does; one that makes none and whose name is drawn leaves a line to its tip, and ends
// there; one whose name is not drawn takes no room. What a part was moved by is passed without a line. So a
// rule says a curve as what a straight piece of it turns into, whatever becomes of the pieces.
//
// Turtle interpretation after P. Prusinkiewicz, Graphical applications of L-systems, 1986; ours keeps turns
// in the axes of parts, so that a part that turns turns nothing but what comes of it.

#include <vector>

#include "core/growth/population.hpp"

namespace plume {

struct TracedLine {
    std::vector<Vec3> points;          // at least two
    std::vector<std::uint32_t> parts;  // of each the part that ends there; of the first that begins there
    bool closed = false;               // it comes back to its first point, which is not repeated
};

// Lines of all roots, one behind the other. `drawn`: of each name, whether it leaves a line. O(parts).
std::vector<TracedLine> traced_lines(const Population& parts, const std::vector<std::uint8_t>& drawn);

}  // namespace plume

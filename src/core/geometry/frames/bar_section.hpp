#pragma once
// Cross-sections of bars.

#include <string_view>
#include <vector>

#include "core/data/vec3.hpp"

namespace plume {

// round: solid; tube, box: hollow; strip: without thickness.
enum class SectionShape { round, tube, rectangle, box, i, angle, flat, strip };

// Lengths. `width` is the diameter of round ones; `height` runs along the section's up. `wall` is the
// thickness of walls, of a flat, of the web of an I, of the legs of an angle; `flange` that of an I's
// flanges.
struct BarSection {
    SectionShape shape = SectionShape::round;
    double width = 0.1, height = 0.1, wall = 0.01, flange = 0.01;
    bool operator==(const BarSection&) const = default;
};

// Its outline, x across and y up, anticlockwise about its middle (that of its box); hollow ones have an inner
// one with as many places, side by side with the outer. A strip is a line.
struct SectionOutline {
    std::vector<Vec3> outer, inner;
    double area() const;  // of what is solid
    Vec3 centroid() const;
    double reach() const;  // how far it goes from the middle
};
inline constexpr std::size_t round_sides = 16;
SectionOutline outline_of(const BarSection& section);

// What is wrong with it, as in "has walls that meet"; empty where nothing is.
std::string_view fault_of(const BarSection& section);

}  // namespace plume

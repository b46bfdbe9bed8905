#pragma once
// Colours that points bring along as fields: hue (an angle), saturation and brightness (0 to 1), any of which
// may be missing. They travel as colour coordinates of -3 and below, seven bits a channel, which a float
// holds exactly: -3 - (16384 red + 128 green + blue).

#include <optional>
#include <vector>

#include "core/data/column.hpp"
#include "core/picture/ramp.hpp"

namespace plume {

inline constexpr float first_own_coordinate = -3;

// One coordinate per entry; nothing when no field gives a colour. Numbers that are not finite give
// not_finite_coordinate.
std::optional<std::vector<float>> own_colour_coordinates(const std::vector<Field>& fields);

// The coordinate of a colour, to seven bits a channel; and back.
float own_colour_coordinate(Rgb colour);
// The colour of a coordinate of -3 or below.
Rgb own_colour(float coordinate);

}  // namespace plume

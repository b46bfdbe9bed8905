#pragma once
// Places as people read them.

#include <string>

#include "core/base/units.hpp"
#include "core/data/vec3.hpp"

namespace plume {

// "1.2, 0, 3 m". A coordinate that is nothing but rounding beside the size of what the place belongs to reads
// 0.
std::string place_text(Vec3 place, double size, const Units& units, int digits = 4);
// "1.2, 0, 3": to find it by, in study lengths.
std::string place_text(Vec3 place);

}  // namespace plume

#pragma once
// Where there is most room within an outline.

#include <vector>

#include "core/data/vec3.hpp"

namespace plume {

struct RoomyPlace {
    Vec3 place;
    double radius = 0;  // how far it is from the nearest loop; 0 where no place was found inside
};

// Of a raster of 23 x 23 places over the loops' extent in XY, what is inside them (by an even-odd count) and
// furthest from all of them; of those that have about the same room the one in the middle. The first loop has
// a corner at least. O(corners).
RoomyPlace roomiest_place(const std::vector<std::vector<Vec3>>& loops);

}  // namespace plume

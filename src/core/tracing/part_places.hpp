#pragma once
// Where a part of a result is, and what it is called.

#include <string>
#include <vector>

#include "core/data/value.hpp"
#include "core/study/part_story.hpp"

namespace plume {

// Whether there is such a part.
bool has_part(const Value& value, PartRef part);
// How many parts of its sort there are.
std::size_t count_of(const Value& value, PartSort sort);

// The corners of a face, the ends of a member or of an open curve, the beginning of a closed one; of all else
// the one place it is at; none where it is nowhere.
std::vector<Vec3> places_of(const Value& value, PartRef part);

// How far from the point it came from such a point may be by rounding alone: splines meet what they are made
// through so closely. 0 of all else.
double rounding_within(const Value& value, PartRef part);

// "i 4  j 3", "4,3–5,3  along i, row 3", "face 12".
std::string title_of(const Value& value, PartRef part);

// What it is called whatever becomes of others: the address of the point a post stands on. Empty: nothing.
std::string mark_of(const Value& value, PartRef part);

// What stands at single places and can be numbered: the points of a lattice, the nodes of a frame, the
// vertices of a mesh, attractors.
struct Spots {
    PartSort sort = PartSort::item;
    std::size_t first = 0;  // number of the first of them
    std::size_t count = 0;
    const double *x = nullptr, *y = nullptr, *z = nullptr;  // count each; nullptr: `places` has them
    std::vector<Vec3> places = {};
    const PointLattice* lattice = nullptr;  // whose gaps are nowhere

    Vec3 at(std::size_t spot) const;
    bool present(std::size_t spot) const { return !lattice || lattice->present(spot); }
};
// Reads `value`, which has to outlive them.
Spots spots_of(const Value& value);

}  // namespace plume

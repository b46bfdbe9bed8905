#pragma once
// What skins, normals and the like ask of a lattice.

#include "core/data/point_lattice.hpp"

namespace plume {

// At least two points in each of two directions, three in a closed one. Errors: too_few_points; `who` begins
// the sentence, as in "A skin".
Status check_two_directions(const PointLattice& lattice, std::string_view who);

}  // namespace plume

#pragma once
// Addresses of points as text.

#include <string>

#include "core/data/point_lattice.hpp"

namespace plume {

// Whether one number says which point: rows, and grids of one row. Scatters count as rows.
bool one_way(const PointLattice& lattice);

// "3,2" as lists take it, with k in blocks; "7" where one number is enough.
std::string address_text(const PointLattice& lattice, std::size_t index);

}  // namespace plume

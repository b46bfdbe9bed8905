#pragma once
// Flat facets between neighbouring points of a lattice with two directions. O(n).

#include "core/base/run.hpp"
#include "core/data/mesh.hpp"
#include "core/data/point_lattice.hpp"

namespace plume {

enum class FacetShape { quads, triangles };

// One face per cell whose corners are all present; closed directions are closed. Triangular and hexagonal
// lattices give their triangles and hexagons, whatever the shape asked for. Triangles split each cell
// along its shorter diagonal. Points that no face uses are left out; fields come along. Errors:
// too_few_points (fewer than two directions, a closed direction under three points, no whole cell),
// cancelled.
Result<Mesh> facets(const PointLattice& lattice, FacetShape shape, const Run& run);

}  // namespace plume

#pragma once
// Moves points of a lattice by a number per point. O(n).

#include "core/base/run.hpp"
#include "core/data/point_lattice.hpp"

namespace plume {

enum class PushDirection { along_x, along_y, along_z, along_normal };

// Each point moves by amounts[index] * factor. Coordinates that do not change are shared with the input.
// Along normals: those of lattice_normals(), oriented by the lattice's i and j directions; a point without
// one stays and is remarked on. Errors: too_few_points when a lattice has no normals, cancelled.
Result<PointLattice> pushed(const PointLattice& lattice, const Column& amounts, double factor,
                            PushDirection direction, const Run& run);

// By amounts[index] * factor along three columns of directions, as long as they are.
Result<PointLattice> pushed_along(const PointLattice& lattice, const Column& amounts, double factor,
                                  const std::array<Column, 3>& directions, const Run& run);

// By amounts[index] * factor straight to a place, and no further than it; a point that is there stays.
Result<PointLattice> pushed_towards(const PointLattice& lattice, const Column& amounts, double factor,
                                    Vec3 place, const Run& run);

struct Normals {
    Doubles x, y, z;
};

// Unit normals by central differences over the neighbours that are present (one-sided at edges and gaps):
// cross product of the i and the j difference. Zero where a point has no neighbour in one direction or the
// differences are parallel. Errors: too_few_points for lattices without two directions, cancelled.
Result<Normals> lattice_normals(const PointLattice& lattice, const Run& run);

// Remarks on the points that are there and have no normal, and what becomes of them: "stay where they are".
void remark_missing(const Normals& normals, const PointLattice& lattice, std::string_view fate,
                    const Run& run);

}  // namespace plume

#pragma once
// Several values as one: copies of a thing, and things joined end to end.

#include <vector>

#include "core/base/run.hpp"
#include "core/geometry/moves/transformed.hpp"

namespace plume {

// The thing once per map, as one value. Copies of a row of points are rows of a grid and those of a grid are
// layers of a block, in the order of the maps, so that they can be joined and skinned; other points become a
// scatter. `closed` joins the last copy to the first where the arrangement allows it (rows). Attractors get
// numbers behind their names. Errors: wrong_kind (a number); cancelled; as of Mesh::make.
Result<Value> copied(const Value& thing, const std::vector<Affine>& maps, bool closed, const Run& run);

// All of them, one after the other: points become a scatter with the fields that all have (a row if all are
// rows), curves, surfaces and attractors a longer list, meshes one mesh. Coordinates of a thing are those of
// its kind; a field counts as points. Errors: wrong_kind when the kinds differ, empty_input.
Result<Value> joined_values(const std::vector<const Value*>& things, const Run& run);

// Columns and gaps of lattices one after the other, with the fields that all have; counts are for the caller
// to say. There is at least one.
PointLattice::Parts stacked_parts(const std::vector<PointLattice>& all);

// Mesh vertices and the points of a closed seam that lie within `tolerance_abs` of each other become one.
Mesh welded(const Mesh& mesh, double tolerance_abs);

// About so much memory and time.
double copies_bytes(const Value& thing, double count);

}  // namespace plume

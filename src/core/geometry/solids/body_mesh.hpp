#pragma once
// Closed meshes of bodies. Exact ones are meshed on lines of parameters that patches with equal knots share,
// so that their edges meet.

#include "core/base/run.hpp"
#include "core/data/solids.hpp"

namespace plume {

// All bodies as one mesh, a part for each.
Result<Mesh> mesh_of(const SolidSet& set, std::size_t target, const Run& run);

// Polygons of a body, a part for each of its faces; of an exact one on common lines of parameters, about
// `target` of them in all. Errors: has_gaps when edges do not meet; those of sampling; cancelled.
Result<Mesh> closed_mesh(const Body& body, std::size_t target, const Run& run);

}  // namespace plume

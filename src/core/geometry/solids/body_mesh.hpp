#pragma once
// Meshes of surfaces, and closed ones of bodies. Exact bodies are meshed on lines of parameters that patches
// with equal knots share, so that their edges meet.

#include "core/base/run.hpp"
#include "core/data/solids.hpp"

namespace plume {

// All patches as one mesh, about `target` polygons of them in all: quads between samples that include the
// points a patch was made through, triangles of what trims leave. Fields that all of them have are kept.
Result<Mesh> mesh_of(const SurfaceSet& set, std::size_t target, const Run& run);

// All bodies as one mesh, a part for each.
Result<Mesh> mesh_of(const SolidSet& set, std::size_t target, const Run& run);

// Polygons of a body, a part for each of its faces; of an exact one on common lines of parameters, about
// `target` of them in all, or the mesh it came with. Errors: has_gaps when edges do not meet; those of
// sampling; cancelled.
Result<Mesh> closed_mesh(const Body& body, std::size_t target, const Run& run);

}  // namespace plume

#pragma once
// How a mesh bends at its vertices.
//
// Of each triangle the quadratic form that turns its sides into the differences of the normals at their ends,
// by least squares; of each vertex the mean of those around it, turned into its plane and weighed by the area
// that is nearest to it (Rusinkiewicz, Estimating curvatures and their derivatives on triangle meshes, 2004,
// doi 10.1109/TDPVT.2004.1335277). Normals are Max's (Weights for computing vertex normals from facet
// normals, 1999, doi 10.1080/10867651.1999.10487501), which are exact on spheres, and with them so are the
// curvatures. Faces of more corners count as their triangles. O(corners).

#include "core/base/run.hpp"
#include "core/data/mesh.hpp"
#include "core/geometry/surfaces/bending.hpp"

namespace plume {

// One a vertex; nothing but zeros where no face of positive area is. Error: cancelled.
Result<std::vector<Bending>> bending_at_vertices(const Mesh& mesh, const Run& run);

}  // namespace plume

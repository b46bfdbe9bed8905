#pragma once
// A mesh laid out flat.
//
// Angles: the conformal map of least squares (Levy, Petitjean, Ray & Maillot, Least squares conformal maps
// for automatic texture atlas generation, 2002, doi 10.1145/566654.566590). Lengths: from there on, triangle
// by triangle the nearest turn and then all places that fit these best, by turns (Liu, Zhang, Xu, Gotsman &
// Gortler, A local/global approach to mesh parameterization, 2008, doi 10.1111/j.1467-8659.2008.01290.x).
// What can be unrolled comes out without any stretch either way. Sparse systems are Eigen's. O(n) a round,
// nearly.

#include <span>

#include "core/base/run.hpp"
#include "core/data/mesh.hpp"

namespace plume {

enum class Flattening { lengths, angles };

struct FlatMesh {
    // The same faces and numbers over X and Y, facing up, its longer way along X, about the origin. Numbers
    // of faces are `stretch` and `squeeze`: by what share lengths grow and shrink most there, as 0.02 and
    // -0.01.
    Mesh mesh;
    double most_stretch = 0, most_squeeze = 0;
    std::size_t folded = 0;  // faces that came to lie upside down
};
// Of one piece that has a rim and no hole. Where the mesh stands for a smooth surface, `normals` are those of
// its vertices, unit, and sides count as long as the surface is between their ends, to the fourth power of
// the angle between these; else they are empty. Error: unlike_arrangement where it has no rim, more than one,
// or sides of more than two faces; not_finite; too_few_points where it has no area; cancelled.
Result<FlatMesh> flattened(const Mesh& mesh, std::span<const Vec3> normals, Flattening how, const Run& run);

}  // namespace plume

#pragma once
// A mesh made anew of nearly even triangles, over the surface it had.
//
// Sides longer than 4/3 of the wished length are split, those shorter than 4/5 collapsed, diagonals flipped
// towards six neighbours a vertex (four on a rim), vertices evened out along the surface and brought back
// onto it, a few rounds over (Botsch & Kobbelt, A remeshing approach to multiresolution modeling, 2004, doi
// 10.1145/1057432.1057457). The wished length may differ from place to place, which is why the rounds are
// ours; the operations on the mesh are CGAL's. Rims and creases keep their places.

#include <functional>

#include "core/base/run.hpp"
#include "core/data/mesh.hpp"

namespace plume {

struct RemeshRule {
    // Of a side at one of the mesh's own vertices; above 0.
    std::function<double(std::size_t vertex)> length;
    double crease_rad = 0.7;  // sides where faces turn by more stay
    int rounds = 6;
};
// Numbers of vertices are read off where the new ones lie; those of faces are lost, and parts. Errors:
// unlike_arrangement where more than two faces have one side, or run along it the same way; cancelled.
Result<Mesh> remeshed(const Mesh& mesh, const RemeshRule& rule, const Run& run);

}  // namespace plume

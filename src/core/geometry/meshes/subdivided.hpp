#pragma once
// Subdivision surfaces: Catmull & Clark (Recursively generated B-spline surfaces on arbitrary topological
// meshes, 1978, doi 10.1016/0010-4485(78)90110-0) and Loop (Smooth subdivision surfaces based on triangles,
// 1987), with creases (DeRose, Kass & Truong, Subdivision surfaces in character animation, 1998, doi
// 10.1145/280814.280826). By OpenSubdiv.

#include <optional>

#include "core/base/run.hpp"
#include "core/data/mesh.hpp"

namespace plume {

enum class Subdivision { catmull_clark, loop };

struct SubdivisionRule {
    Subdivision scheme = Subdivision::catmull_clark;
    int levels = 2;                    // 1 to 8
    std::optional<double> crease_rad;  // sides where faces turn by more stay sharp
    bool sharp_corners = true;         // of the rim, where it has one face
};

// Every face in quarters (a face of n corners in n quads first) so many times, every vertex on the surface
// that this comes to. Loop takes faces of more corners as triangles. Rims stay rims. Numbers of vertices are
// subdivided likewise, those of faces and parts stay with them. Error: cancelled.
Result<Mesh> subdivided(const Mesh& mesh, const SubdivisionRule& rule, const Run& run);

// How many faces it will have.
double subdivided_count(const Mesh& mesh, const SubdivisionRule& rule);

}  // namespace plume

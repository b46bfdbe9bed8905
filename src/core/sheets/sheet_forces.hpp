#pragma once
// What acts on a sheet, and how it is on its way. SI units.

#include <optional>
#include <vector>

#include "core/data/vec3.hpp"

namespace plume {

struct SheetForces {
    Vec3 gravity{0, 0, -9.81};
    Vec3 wind;                          // m/s, where it blows
    double inflation = 0;               // Pa, along the normals of faces
    std::vector<Vec3> loads;            // N, of vertices; empty: none
    std::optional<double> ground = {};  // its height
    double thickness = 1e-3;            // m: nearer it does not come to anything
    double friction = 0.3;
    double calm = 0.3;  // share of the speed that a second takes away
};

struct SheetState {
    std::vector<Vec3> at, speed;  // m, m/s
};

// How firmly vertices are held, 0 to 1, and where; those of firmness 1 are there.
struct SheetHolds {
    std::vector<double> firmness;
    std::vector<Vec3> from, to;  // at the beginning and at the end of the time
};

}  // namespace plume

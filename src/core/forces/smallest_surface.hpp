#pragma once
// The smallest surface within a border, over the triangles of a mesh.

#include <array>
#include <cstdint>
#include <vector>

#include "core/base/run.hpp"
#include "core/data/vec3.hpp"

namespace plume {

struct SmallestSurface {
    std::vector<Vec3> places;
    double area = 0;  // square lengths
    double area_before = 0;
    std::size_t rounds = 0;
    bool settled =
        true;  // false: the area still changes by more than 1e-9 of it a round, as where it is drawn apart
};

// Solves again and again for the places that make Dirichlet's energy of the present triangles smallest, whose
// weights are cotangents (U. Pinkall, K. Polthier: Computing discrete minimal surfaces and their conjugates,
// 1993), until the area stays. Places with `held` not 0 stay. Triangles without area are left out of a
// round's weights. Errors: empty_input (no triangle with area, nothing held), not_finite, cancelled. O(n^1.5)
// a round.
Result<SmallestSurface> smallest_surface(std::vector<Vec3> places,
                                         const std::vector<std::array<std::uint32_t, 3>>& triangles,
                                         const std::vector<std::uint8_t>& held, std::size_t most_rounds,
                                         const Run& run);

}  // namespace plume

#pragma once
// Distance from every point of a lattice to weighted attractors, answered by a response. O(points x
// attractors) for points; the nearest of many equal ones, lines and curves are found by trees
// (point_tree.hpp, segment_tree.hpp).

#include "core/base/run.hpp"
#include "core/data/attractors.hpp"
#include "core/data/point_lattice.hpp"
#include "core/geometry/numbers/response.hpp"

namespace plume {

// How the attractors' answers become one number. w is an attractor's weight, d its distance, R the response.
//   nearest   R(min d/|w|), with the sign of the nearest one's w: a heavier attractor feels nearer
//   average   sum w R(d) / sum |w|
//   sum       sum w R(d)
//   product   prod R(d)^w
enum class Combination { nearest, average, sum, product };

struct DistanceRule {
    Combination combination = Combination::nearest;
    Shaping shaping = Response::distance;
    double reach = 1;  // study lengths, above 0
};

// One number per address (gaps included, meaningless there). The field has no name yet. Its dimension is a
// length for plain distances, a power of it for their product, else a plain number. Errors: cancelled.
Result<Field> distance_field(const PointLattice& lattice, const Attractors& attractors,
                             const DistanceRule& rule, const Run& run);

}  // namespace plume

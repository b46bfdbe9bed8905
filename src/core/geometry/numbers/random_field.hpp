#pragma once
// A random number for each point: the same for the same seed and address, whatever the
// counts are, on any number of threads.
//
// Evenly distributed numbers are those of formulas' random() (base/noise.hpp). Normal ones are their inverse
// normal distribution (Wichura, Algorithm AS 241, Applied Statistics 37(3), 1988, doi 10.2307/2347330;
// relative error below 1e-15), so that one number a point is enough.

#include <cstdint>
#include <vector>

#include "core/base/run.hpp"
#include "core/data/point_lattice.hpp"

namespace plume {

// From 0 to just below 1.
double random_share(std::uint64_t seed, const Address& at);
// The number below which a share (above 0, below 1) of a standard normal distribution lies.
double inverse_normal(double share);

struct WeightedChoice {
    double value = 0, weight = 1;
};
// The choice that a share (0 to 1) falls to; weights are positive, there is at least one.
double chosen(const std::vector<WeightedChoice>& choices, double share);

// The share of every address; a transform of them makes the distribution. Error: cancelled.
Result<Doubles> random_shares(const PointLattice& points, std::uint64_t seed, const Run& run);

}  // namespace plume

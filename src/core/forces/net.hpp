#pragma once
// Net: places, links between them, what holds some of them and what pulls at them. What finds forms in
// balance works on it, whatever the form came as.
//
// Lengths are metres, forces kN, whatever the study counts. A link under tension has a force above 0.

#include <array>
#include <cstdint>
#include <vector>

#include "core/base/incidence.hpp"
#include "core/base/run.hpp"
#include "core/data/vec3.hpp"

namespace plume {

struct Net {
    std::vector<Vec3> places;
    std::vector<std::array<std::uint32_t, 2>> links;
    // How firmly each place is held, 0 to 1: at 1 it stays where it is, below it is held by a spring whose
    // force density is h / (1 - h) times what pulls there; 0 is free.
    std::vector<double> held;
    std::vector<Vec3> loads;  // kN at each place; empty: none
};

// A net in its form of balance.
struct Balance {
    std::vector<Vec3> places;
    std::vector<double> forces;  // kN of each link
    // What is left at places that are not held: its largest length, over the largest load or force there is.
    double residual = 0;
};

// Links of each place, in the order of the links.
Incidence links_of_places(const Net& net);

// Errors: empty_input (no link, nothing held, a part with links that no held place belongs to: it would
// fall), not_finite, out_of_range (a firmness outside 0 .. 1).
Status check_net(const Net& net);

// What is out of balance at each place, kN: 0 where it is held.
std::vector<Vec3> unbalanced(const Net& net, const std::vector<Vec3>& places,
                             const std::vector<double>& densities_kn_per_m);

// The force density of the spring that holds a place, of what pulls there; 0 of one that is free or stays.
double spring_density(double held, double pulling_kn_per_m);

}  // namespace plume

#pragma once
// Circles and spheres of given sizes that push each other apart until they touch and nothing overlaps.

#include <cstdint>
#include <functional>
#include <vector>

#include "core/base/run.hpp"
#include "core/data/vec3.hpp"

namespace plume {

struct Spheres {
    std::vector<Vec3> places;
    std::vector<double> radii;        // above 0
    std::vector<std::uint8_t> stays;  // 1: others give way to it; as many as places
};

struct PushingRule {
    // The nearest place where the sphere of that number may be, on a surface or within an outline; asked on
    // several threads. Empty: anywhere.
    std::function<Vec3(std::size_t number, Vec3 place)> kept = {};
    // Where they are drawn at the same time, so that they come to touch; each goes there more slowly, round
    // by round. Nothing: they are only pushed apart.
    const Vec3* drawn_to = nullptr;
    double overlap = 1e-6;  // that may be left, as a share of the smaller radius
    std::size_t most_rounds = 5000;
};

struct PushedApart {
    std::vector<Vec3> places;
    std::size_t rounds = 0;
    double overlap = 0;        // the largest that is left, as a share of the smaller radius
    std::size_t overlaps = 0;  // pairs that overlap by more than the rule says
    std::size_t touching = 0;  // pairs no further apart than a thousandth of the smaller radius
};

// In each round every sphere goes where all that overlap it push it, all at once (position based dynamics: M.
// Müller, B. Heidelberger, M. Hennix, J. Ratcliff, 2007), the smaller ones more; then to where it may be.
// Pairs are found by a grid of cells as wide as the largest. Those at one place part in directions that hang
// on their numbers alone. The same on any number of threads. O(n log n) a round where sizes are alike.
// Errors: not_finite (a place or radius), out_of_range (a radius that is not above 0), cancelled.
Result<PushedApart> pushed_apart(const Spheres& spheres, const PushingRule& rule, const Run& run);

}  // namespace plume

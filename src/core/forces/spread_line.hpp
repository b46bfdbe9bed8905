#pragma once
// A line as points in order, and how many points it takes.

#include <vector>

#include "core/data/vec3.hpp"

namespace plume {

// A closed line does not repeat its first point.
struct SpreadLine {
    std::vector<Vec3> at;
    bool closed = false;
};

double length_of(const SpreadLine& line);
std::size_t edges_of(const SpreadLine& line);

// Through points about as far apart as that, at even lengths along it.
SpreadLine evenly(const SpreadLine& line, double apart);

// Points that are much nearer to the next than that left out, others put in between those that are much
// farther apart, on the cubic through four. Ends stay.
void mend_spacing(SpreadLine& line, double apart);

// The farthest apart that points are left to be by mend_spacing().
inline constexpr double farthest_spacing = 1.6;

}  // namespace plume

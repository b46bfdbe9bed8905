#pragma once
// Surfaces through points at even lengths of others.

#include "core/base/run.hpp"
#include "core/data/surface_set.hpp"

namespace plume {

struct RebuiltSurface {
    SplinePatch patch;
    double deviation = 0;
};
// The smooth surface (spline_interpolation.hpp) through points at even lengths (even_lengths.hpp), so many
// bays along u and along v; closed directions stay closed, fields go along. `deviation` is how far it is from
// the other at most at the middles of its bays and of their sides. It is not trimmed: the
// caller sees to that. Errors: too_few_points (three bays where closed); those of the interpolation;
// cancelled.
Result<RebuiltSurface> rebuilt_evenly(const SplinePatch& patch, std::size_t bays_u, std::size_t bays_v,
                                      const Run& run);

}  // namespace plume

#pragma once
// The facets of a value, for formats that hold nothing else.

#include "core/base/run.hpp"
#include "core/data/value.hpp"

namespace plume {

// A mesh as it is; surfaces as quads between samples that include the interpolated points. Every vertex times
// `scale` is finite and within `largest` along every axis. Errors: wrong_kind for values without faces,
// nothing_to_write, not_finite, out_of_range.
Result<Mesh> exportable_mesh(const Value& value, double scale, double largest, const Run& run);

// The same of facets at hand. Errors: nothing_to_write, not_finite, out_of_range.
Status check_facets(const Mesh& mesh, double scale, double largest);

// Errors: not_finite, out_of_range, naming `what` ("vertex") by its number from 1.
Status check_coordinates(Vec3 point, double largest, const std::string& what, std::size_t index);

}  // namespace plume

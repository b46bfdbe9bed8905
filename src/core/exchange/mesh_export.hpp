#pragma once
// The facets of a value, for formats that hold nothing else.

#include "core/base/run.hpp"
#include "core/data/value.hpp"

namespace plume {

// A mesh as it is; surfaces as quads between samples that include the interpolated points. Every vertex is
// finite. Errors: wrong_kind for values without faces, nothing_to_write, not_finite.
Result<Mesh> exportable_mesh(const Value& value, const Run& run);

}  // namespace plume

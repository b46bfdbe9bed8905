#pragma once
// The parts of a value that are curved, as what bounds them: for formats that have facets for all others.

#include <map>

#include "core/exchange/exact_boundary.hpp"
#include "core/exchange/export.hpp"

namespace plume {

// In millimetres, and what it measures in study lengths.
struct ExactPartShape {
    ExactBoundary boundary;
    double area = 0, volume = 0;  // volume 0: not closed
};

// By the number of the part, of its written form (written.hpp). Those that facets tell exactly are not there,
// nor bodies whose edges do not meet. Loads the geometry kernel where there is any. Errors: what it could not
// put together; that it is not there, `name` of the format; cancelled.
Result<std::map<std::size_t, ExactPartShape>> exact_parts_of(const Value& value, double millimetres,
                                                             const char* name, const Run& run);

// Whether a patch is a piece of a plane over straight parameters.
bool is_flat(const SplinePatch::Parts& patch);

}  // namespace plume

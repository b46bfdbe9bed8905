#pragma once
// Bodies with a hollow of their own form.

#include "core/base/run.hpp"
#include "core/data/solids.hpp"

namespace plume {

// The body less what lies further inside than the walls are thick. Exact where one smooth face closes by
// itself, else a mesh: its vertices moved inwards so that flat faces keep the distance. `target`: polygons of
// an exact body. Errors: out_of_range where the hollow would cross itself or the walls; those of meshing;
// cancelled.
Result<Body> hollowed(const Body& body, double wall, std::size_t target, const Run& run);

}  // namespace plume

#pragma once
// Where a mesh ends.

#include "core/data/curve_set.hpp"
#include "core/data/mesh.hpp"

namespace plume {

// Polylines along edges that no other face runs back along (open_edges() in solids/bodies.hpp), as the faces
// beside them run, joined into the longest; closed where they come round. None of a closed mesh. O(n log n).
CurveSet borders_of(const Mesh& mesh);
// The same as vertices; what comes round names its first one again at the end.
std::vector<std::vector<std::uint32_t>> border_ways(const Mesh& mesh);

}  // namespace plume

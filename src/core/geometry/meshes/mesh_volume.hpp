#pragma once
// What a closed mesh encloses.

#include "core/data/mesh.hpp"

namespace plume {

// By the divergence theorem: above 0 where faces turn outwards. It means nothing for an open mesh.
double volume_of(const Mesh& mesh);
// There is a face, and no open edge (open_edges() in solids/bodies.hpp).
bool is_closed(const Mesh& mesh);

}  // namespace plume

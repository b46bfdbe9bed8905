#pragma once
// What a closed mesh encloses.

#include "core/data/mesh.hpp"

namespace plume {

// By the divergence theorem: above 0 where faces turn outwards. It means nothing for an open mesh.
double volume_of(const Mesh& mesh);
// Every side belongs to two faces that run along it in opposite directions; there is a face.
bool is_closed(const Mesh& mesh);

}  // namespace plume

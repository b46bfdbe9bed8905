#pragma once
// Parts of a mesh that are one shape, moved, turned and stretched: posts, copies, what a lattice carries.

#include <optional>
#include <vector>

#include "core/base/run.hpp"
#include "core/data/mesh.hpp"
#include "core/geometry/moves/affine.hpp"

namespace plume {

// What takes the first part to each of the parts, itself included; places are true to 1e-5 of a part's size,
// which is enough to be looked at. Nothing when a part has other faces or is no affine image of the first,
// and for a mesh of one part. Where the first is flat, what is square to it stays so. O(corners).
std::optional<std::vector<Affine>> repeats_of(const Mesh& mesh, const Run& run);

}  // namespace plume

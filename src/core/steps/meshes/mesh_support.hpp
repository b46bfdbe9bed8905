#pragma once
// What the steps that change meshes share.

#include "core/study/step_kind.hpp"

namespace plume {

// The slot `mesh`: meshes, and surfaces and bodies as meshes of them.
SlotSpec changed_mesh_slot();
// What stands in it or in another slot of these kinds. Error: empty_input without a face, at the slot.
Result<Mesh> changed_mesh(const Inputs& in, const Run& run, const char* slot = "mesh");
// About how many corners and vertices it has.
double changed_corners(const Inputs& in);
// Of work that takes so much a corner.
Estimate changed_estimate(const Inputs& in, double bytes_a_corner, double seconds_a_corner);

}  // namespace plume

#pragma once
// What schedules of panels tell beside their numbers.

#include "core/data/mesh.hpp"
#include "core/results/columns.hpp"

namespace plume {

// Whether parts of a mesh are panels: faces carry their marks (panel_names.hpp).
bool are_panels(const Mesh& mesh);

// The lengths of the edges of each part's outline, from its first corner on, the angles at its corners, and
// how far the corners are from one plane. Nothing of parts that are no plates.
void add_panel_shapes(Table& table, const Mesh& mesh);

}  // namespace plume

#pragma once
// Boundaries as lines of an IFC file: advanced faces over splines and planes.

#include "core/exchange/exact_boundary.hpp"
#include "core/exchange/ifc_text.hpp"

namespace plume {

// An IfcAdvancedBrep where it is closed, else an IfcShellBasedSurfaceModel. Places times `scale`.
IfcRef add_boundary(IfcLines& lines, const ExactBoundary& boundary, double scale);

}  // namespace plume

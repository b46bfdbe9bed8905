#pragma once
// What bounds a shape of the geometry kernel (OpenCASCADE 7.6). For exact_module.cpp alone.

#include <TopoDS_Shape.hxx>

#include "core/exchange/exact_boundary.hpp"

namespace plume {

// Edges without a length, where a patch is drawn together, are left out. Throws Standard_Failure.
ExactBoundary boundary_of(const TopoDS_Shape& shape, bool closed);

}  // namespace plume

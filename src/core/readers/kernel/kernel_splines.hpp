#pragma once
// Splines of the geometry kernel (OpenCASCADE 7.6) as parts of ours, knot for knot and pole for pole, of any
// degree; periodic ones are opened at their seam. For what links the kernel alone.

#include <Geom2d_BSplineCurve.hxx>
#include <Geom_BSplineSurface.hxx>
#include <TopoDS_Edge.hxx>

#include "core/data/surface_set.hpp"

namespace plume {

// From the start of its curve on, whichever way the edge is used. Throws Standard_Failure where it has none.
SplineCurve::Parts curve_along(const TopoDS_Edge& edge);
// Over the parameters of a surface, z 0. This and the next open what they are given, where it is periodic.
SplineCurve::Parts flat_curve_of(const Handle(Geom2d_BSplineCurve) & spline);
SplinePatch::Parts patch_of(const Handle(Geom_BSplineSurface) & spline);

}  // namespace plume

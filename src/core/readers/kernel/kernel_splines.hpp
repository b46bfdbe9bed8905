#pragma once
// Splines of the geometry kernel (OpenCASCADE 7.6) as parts of ours, knot for knot and pole for pole, of any
// degree; periodic ones are opened at their seam. For what links the kernel alone.

#include <Geom2d_BSplineCurve.hxx>
#include <Geom_BSplineCurve.hxx>
#include <Geom_BSplineSurface.hxx>
#include <TopoDS_Edge.hxx>

#include "core/data/surface_set.hpp"

namespace plume {

// From the start of its curve on, whichever way the edge is used. Throws Standard_Failure where it has none.
Handle(Geom_BSplineCurve) spline_along(const TopoDS_Edge& edge);

// Each opens what it is given, where it is periodic.
SplineCurve::Parts curve_of(const Handle(Geom_BSplineCurve) & spline);
SplineCurve::Parts flat_curve_of(const Handle(Geom2d_BSplineCurve) & spline);  // over parameters, z 0
SplinePatch::Parts patch_of(const Handle(Geom_BSplineSurface) & spline);

}  // namespace plume

#pragma once
// Curves and surfaces as a geometry kernel (OpenCASCADE 7.6) has them: a second way to the same figures.
// Nothing of the product uses it.

#include <Geom_BSplineCurve.hxx>
#include <Geom_BSplineSurface.hxx>

#include "core/data/curve_set.hpp"
#include "core/data/surface_set.hpp"

namespace plume::test {

// Closed directions are opened at their seams.
Handle(Geom_BSplineCurve) kernel_curve(const SplineCurve& curve);
Handle(Geom_BSplineSurface) kernel_surface(const SplinePatch& patch);

}  // namespace plume::test

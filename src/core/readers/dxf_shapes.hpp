#pragma once
// The curves of DXF's entities, exactly.

#include "core/data/curve_set.hpp"
#include "core/geometry/moves/affine.hpp"
#include "core/readers/dxf_tags.hpp"

namespace plume {

// The axes of an entity that lies in a plane of its own: those DXF takes for a direction out of it (code
// 210).
Affine dxf_axes(const DxfEntity& entity);

// A corner of a polyline, and the tangent of a quarter of the angle the arc to the next one turns by.
struct DxfCorner {
    Vec3 place;
    double bulge = 0;
};
// Errors: too_few_points, not_finite.
Result<SplineCurve> dxf_polyline(const std::vector<DxfCorner>& corners, bool closed);

// Of LINE, ARC, CIRCLE, ELLIPSE, LWPOLYLINE and SPLINE, in the coordinates of the drawing or of its block.
// Errors without a place: too_few_points, not_finite, broken_invariant; unknown_name for other types.
Result<SplineCurve> dxf_curve(const DxfEntity& entity);

}  // namespace plume

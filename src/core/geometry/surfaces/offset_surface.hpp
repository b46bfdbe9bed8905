#pragma once
// Surfaces at a distance from a patch, along its normals.
//
// Such a surface is no spline in general: it is interpolated over the patch's own basis at the means of its
// knots (Greville's parameters), which is exact for planes, cylinders, cones and spheres, and knots are added
// to both until it is true to the tolerance halfway between those (Piegl & Tiller, Computing offsets of NURBS
// curves and surfaces, Computer-Aided Design 31, 1999, doi 10.1016/S0010-4485(98)00066-9, do it likewise).
// Along a crease it lies where the offsets of both sides meet.

#include <functional>
#include <vector>

#include "core/base/run.hpp"
#include "core/data/surface_set.hpp"

namespace plume {

// Places of the patch on a grid of parameters, u fastest.
struct OffsetGrid {
    const SplinePatch& patch;
    std::vector<double> u, v;
    std::vector<Vec3> places;
};
// Distances along the normal there, one a place; below 0 on the other side.
using OffsetBy = std::function<Result<Doubles>(const OffsetGrid& grid)>;
OffsetBy offset_by(double distance);

struct Offsets {
    SplinePatch patch;  // the same surface over the refined basis
    std::vector<SplinePatch> at;
    double deviation = 0;  // the largest that was measured, of any
};
// Trims are not looked at. A closed direction has a corner at its seam. Errors: those of the distances;
// over_budget beyond `most_poles`; not_finite; cancelled.
Result<Offsets> offsets_of(const SplinePatch& patch, const std::vector<OffsetBy>& distances,
                           double tolerance_abs, const Run& run);

// Where a surface bends most towards one of its sides: 1 along the normal, -1 against it.
struct TightestSide {
    double radius = 0;
    Vec3 place;
};
// Looked for at the means and the middles of the knots; nothing where it bends to that side nowhere.
std::optional<TightestSide> tightest_on(const SplinePatch& patch, int side);

}  // namespace plume

#pragma once
// How a surface bends at a place: its principal curvatures and their directions (do Carmo, Differential
// Geometry of Curves and Surfaces, 1976, ch. 3.2 and 3.3), and the numbers that are read off them.
//
// Curvatures are 1 / radius, above 0 where the surface bends towards its normal: a bowl seen from inside.

#include <cmath>

#include "core/base/units.hpp"
#include "core/geometry/surfaces/patch_evaluator.hpp"

namespace plume {

// A quadratic form over two axes that are unit and square to each other.
struct QuadraticForm {
    double aa = 0, ab = 0, bb = 0;
};

struct Bending {
    Vec3 normal;  // unit, or zero where the surface stands still; curvatures are 0 there
    // Over the axis, which is not unit, and what is square to it, anticlockwise seen against the normal.
    QuadraticForm form;
    Vec3 axis;

    double mean() const { return (form.aa + form.bb) / 2; }
    double gaussian() const { return form.aa * form.bb - form.ab * form.ab; }
    // The principal curvatures: the roots of the characteristic equation.
    double least() const { return mean() - apart(); }
    double most() const { return mean() + apart(); }
    // Unit, either way round; they are square to each other. Where it bends alike all around, any are.
    Vec3 along_most() const;
    Vec3 along_least() const { return cross(normal, along_most()); }

    double apart() const {  // half their difference
        const double half = (form.aa - form.bb) / 2;
        return std::sqrt(half * half + form.ab * form.ab);
    }
};

Bending bending_of(const SurfaceBend& bend);
// The same, but where a rim is drawn together to a tip what it comes to just inside, if it comes to anything:
// a sphere bends at its poles as everywhere, a cone has no curvature at its tip.
Bending bending_at(const PatchEvaluator& patch, const SplineBasis& u_basis, const SplineBasis& v_basis,
                   double u, double v);

enum class BendingNumber { gaussian, mean, most, least, radius };
Dimension dimension_of(BendingNumber number);
// The radius is the smallest one; of what is flat it is not finite.
double number_of(const Bending& bending, BendingNumber number);

}  // namespace plume

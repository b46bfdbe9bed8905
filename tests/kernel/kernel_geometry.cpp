#include "kernel/kernel_geometry.hpp"

#include <TColStd_Array1OfInteger.hxx>
#include <TColStd_Array1OfReal.hxx>
#include <TColStd_Array2OfReal.hxx>
#include <TColgp_Array1OfPnt.hxx>
#include <TColgp_Array2OfPnt.hxx>

#include "core/geometry/curves/curve_edit.hpp"
#include "core/geometry/surfaces/patch_edit.hpp"

namespace plume::test {
namespace {

// Each knot once, and how often it stands.
struct Knots {
    explicit Knots(const SplineBasis& basis) {
        for (const double knot : basis.knots) {
            if (at.empty() || knot > at.back()) {
                at.push_back(knot);
                times.push_back(0);
            }
            ++times.back();
        }
    }
    TColStd_Array1OfReal places() const {
        TColStd_Array1OfReal all(1, static_cast<int>(at.size()));
        for (int index = 1; index <= all.Length(); ++index)
            all(index) = at[static_cast<std::size_t>(index - 1)];
        return all;
    }
    TColStd_Array1OfInteger multiplicities() const {
        TColStd_Array1OfInteger all(1, static_cast<int>(times.size()));
        for (int index = 1; index <= all.Length(); ++index)
            all(index) = times[static_cast<std::size_t>(index - 1)];
        return all;
    }
    std::vector<double> at;
    std::vector<int> times;
};

}  // namespace

Handle(Geom_BSplineCurve) kernel_curve(const SplineCurve& curve) {
    const SplineCurve open = changed(curve, opened(curve.basis()));
    const Knots knots(open.basis());
    const int count = static_cast<int>(open.x().size());
    TColgp_Array1OfPnt poles(1, count);
    TColStd_Array1OfReal weights(1, count);
    for (int pole = 1; pole <= count; ++pole) {
        const Vec3 at = open.pole(static_cast<std::size_t>(pole - 1));
        poles(pole) = gp_Pnt(at.x, at.y, at.z);
        weights(pole) = open.weight(static_cast<std::size_t>(pole - 1));
    }
    return new Geom_BSplineCurve(poles, weights, knots.places(), knots.multiplicities(), open.basis().degree);
}

Handle(Geom_BSplineSurface) kernel_surface(const SplinePatch& patch) {
    SplinePatch open = changed(patch, 0, opened(patch.u()));
    open = changed(open, 1, opened(open.v()));
    const Knots u(open.u()), v(open.v());
    const int columns = static_cast<int>(open.u().pole_count()),
              rows = static_cast<int>(open.v().pole_count());
    TColgp_Array2OfPnt poles(1, columns, 1, rows);
    TColStd_Array2OfReal weights(1, columns, 1, rows);
    for (int row = 1; row <= rows; ++row)
        for (int column = 1; column <= columns; ++column) {
            const auto at = static_cast<std::size_t>(column - 1 + columns * (row - 1));
            poles(column, row) = gp_Pnt(open.x()[at], open.y()[at], open.z()[at]);
            weights(column, row) = open.rational() ? open.weights()[at] : 1;
        }
    return new Geom_BSplineSurface(poles, weights, u.places(), v.places(), u.multiplicities(),
                                   v.multiplicities(), open.u().degree, open.v().degree);
}

}  // namespace plume::test

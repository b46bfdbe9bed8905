#include "core/readers/kernel/kernel_splines.hpp"

#include <BRep_Tool.hxx>
#include <GeomConvert.hxx>
#include <Geom_BSplineCurve.hxx>
#include <Geom_TrimmedCurve.hxx>
#include <Standard_Failure.hxx>

namespace plume {
namespace {

// Every knot as often as it stands.
template <class Knot, class Times>
std::vector<double> knots_of(int count, Knot knot, Times times) {
    std::vector<double> knots;
    for (int at = 1; at <= count; ++at)
        knots.insert(knots.end(), static_cast<std::size_t>(times(at)), knot(at));
    return knots;
}

// Weights that are all the same are none.
Column weights_or_none(Doubles weights) {
    for (const double weight : weights)
        if (weight != weights[0]) return {std::move(weights)};
    return {};
}

Vec3 place_of(const gp_Pnt& pole) {
    return {pole.X(), pole.Y(), pole.Z()};
}
Vec3 place_of(const gp_Pnt2d& pole) {
    return {pole.X(), pole.Y(), 0};
}

// Poles and weights, gathered one by one for curves and patches alike.
struct Poles {
    void add(Vec3 place, double weight) {
        x.push_back(place.x);
        y.push_back(place.y);
        z.push_back(place.z);
        weights.push_back(weight);
    }
    template <class Parts>
    void move_to(Parts& parts) {
        parts.x = std::move(x);
        parts.y = std::move(y);
        parts.z = std::move(z);
        parts.weights = weights_or_none(std::move(weights));
    }
    Doubles x, y, z, weights;
};

template <class Spline>
SplineCurve::Parts parts_of(Spline& spline) {
    if (spline.IsPeriodic()) spline.SetNotPeriodic();
    SplineCurve::Parts parts;
    parts.basis.degree = spline.Degree();
    parts.basis.knots = knots_of(
        spline.NbKnots(), [&](int at) { return spline.Knot(at); },
        [&](int at) { return spline.Multiplicity(at); });
    Poles poles;
    for (int at = 1; at <= spline.NbPoles(); ++at)
        poles.add(place_of(spline.Pole(at)), spline.Weight(at));
    poles.move_to(parts);
    return parts;
}

}  // namespace

Handle(Geom_BSplineCurve) spline_along(const TopoDS_Edge& edge) {
    double from = 0, to = 0;
    const Handle(Geom_Curve) curve = BRep_Tool::Curve(edge, from, to);
    if (curve.IsNull()) throw Standard_Failure("an edge without a curve");
    Handle(Geom_BSplineCurve) spline = Handle(Geom_BSplineCurve)::DownCast(curve->Copy());
    const bool whole = !spline.IsNull() && from <= spline->FirstParameter() && to >= spline->LastParameter();
    if (!whole) spline = GeomConvert::CurveToBSplineCurve(new Geom_TrimmedCurve(curve, from, to));
    return spline;
}

SplineCurve::Parts curve_of(const Handle(Geom_BSplineCurve) & spline) {
    return parts_of(*spline);
}

SplineCurve::Parts flat_curve_of(const Handle(Geom2d_BSplineCurve) & spline) {
    return parts_of(*spline);
}

SplinePatch::Parts patch_of(const Handle(Geom_BSplineSurface) & spline) {
    if (spline->IsUPeriodic()) spline->SetUNotPeriodic();
    if (spline->IsVPeriodic()) spline->SetVNotPeriodic();
    SplinePatch::Parts parts;
    parts.u.degree = spline->UDegree();
    parts.v.degree = spline->VDegree();
    parts.u.knots = knots_of(
        spline->NbUKnots(), [&](int at) { return spline->UKnot(at); },
        [&](int at) { return spline->UMultiplicity(at); });
    parts.v.knots = knots_of(
        spline->NbVKnots(), [&](int at) { return spline->VKnot(at); },
        [&](int at) { return spline->VMultiplicity(at); });
    Poles poles;
    for (int row = 1; row <= spline->NbVPoles(); ++row)
        for (int column = 1; column <= spline->NbUPoles(); ++column)
            poles.add(place_of(spline->Pole(column, row)), spline->Weight(column, row));
    poles.move_to(parts);
    return parts;
}

}  // namespace plume

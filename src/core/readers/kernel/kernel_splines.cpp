#include "core/readers/kernel/kernel_splines.hpp"

#include <BRep_Tool.hxx>
#include <GeomConvert.hxx>
#include <Geom_BSplineCurve.hxx>
#include <Geom_TrimmedCurve.hxx>
#include <Standard_Failure.hxx>

namespace plume {
namespace {

// Every knot as often as it stands.
template <class Spline>
std::vector<double> knots_of(const Spline& spline) {
    std::vector<double> knots;
    for (int at = 1; at <= spline.NbKnots(); ++at)
        knots.insert(knots.end(), static_cast<std::size_t>(spline.Multiplicity(at)), spline.Knot(at));
    return knots;
}

// Weights that are all the same are none.
Column weights_or_none(Doubles weights) {
    for (const double weight : weights)
        if (weight != weights[0]) return {std::move(weights)};
    return {};
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
    if (spline->IsPeriodic()) spline->SetNotPeriodic();
    SplineCurve::Parts parts;
    parts.basis.degree = spline->Degree();
    parts.basis.knots = knots_of(*spline);
    Doubles x, y, z, weights;
    for (int at = 1; at <= spline->NbPoles(); ++at) {
        const gp_Pnt pole = spline->Pole(at);
        x.push_back(pole.X());
        y.push_back(pole.Y());
        z.push_back(pole.Z());
        weights.push_back(spline->Weight(at));
    }
    parts.x = std::move(x);
    parts.y = std::move(y);
    parts.z = std::move(z);
    parts.weights = weights_or_none(std::move(weights));
    return parts;
}

SplineCurve::Parts flat_curve_of(const Handle(Geom2d_BSplineCurve) & spline) {
    if (spline->IsPeriodic()) spline->SetNotPeriodic();
    SplineCurve::Parts parts;
    parts.basis.degree = spline->Degree();
    parts.basis.knots = knots_of(*spline);
    Doubles x, y, weights;
    for (int at = 1; at <= spline->NbPoles(); ++at) {
        x.push_back(spline->Pole(at).X());
        y.push_back(spline->Pole(at).Y());
        weights.push_back(spline->Weight(at));
    }
    parts.z = Doubles(x.size(), 0.0);
    parts.x = std::move(x);
    parts.y = std::move(y);
    parts.weights = weights_or_none(std::move(weights));
    return parts;
}

SplinePatch::Parts patch_of(const Handle(Geom_BSplineSurface) & spline) {
    if (spline->IsUPeriodic()) spline->SetUNotPeriodic();
    if (spline->IsVPeriodic()) spline->SetVNotPeriodic();
    SplinePatch::Parts parts;
    parts.u.degree = spline->UDegree();
    parts.v.degree = spline->VDegree();
    for (int at = 1; at <= spline->NbUKnots(); ++at)
        parts.u.knots.insert(parts.u.knots.end(), static_cast<std::size_t>(spline->UMultiplicity(at)),
                             spline->UKnot(at));
    for (int at = 1; at <= spline->NbVKnots(); ++at)
        parts.v.knots.insert(parts.v.knots.end(), static_cast<std::size_t>(spline->VMultiplicity(at)),
                             spline->VKnot(at));
    Doubles x, y, z, weights;
    for (int row = 1; row <= spline->NbVPoles(); ++row)
        for (int column = 1; column <= spline->NbUPoles(); ++column) {
            const gp_Pnt pole = spline->Pole(column, row);
            x.push_back(pole.X());
            y.push_back(pole.Y());
            z.push_back(pole.Z());
            weights.push_back(spline->Weight(column, row));
        }
    parts.x = std::move(x);
    parts.y = std::move(y);
    parts.z = std::move(z);
    parts.weights = weights_or_none(std::move(weights));
    return parts;
}

}  // namespace plume

#include "core/geometry/curves/curve_interpolation.hpp"
#include "core/geometry/curves/held_curve.hpp"
#include "core/steps/curves/curve_support.hpp"

namespace plume {
namespace {

Route route_of(const std::string& word) {
    if (word == "columns") return Route::columns;
    return word == "rows" ? Route::rows : Route::in_order;
}

Estimate estimate(const Inputs& in) {
    const PointLattice& points = in.lattice("points");
    const auto count = static_cast<double>(points.address_count());
    return {count * (8 + 2 * static_cast<double>(points.fields().size())) * sizeof(double), count * 2e-7};
}

CurveMaker maker_of(const Inputs& in) {
    const std::string& shape = in.word("shape");
    if (shape == "held")
        return [degree = static_cast<int>(in.count("degree"))](CurvePoints item) {
            return curve_held_by({std::move(item.points), {}, std::move(item.fields), degree, item.closed});
        };
    return [shape = shape == "smooth" ? CurveShape::smooth : CurveShape::straight](CurvePoints item) {
        return curve_through(std::move(item), shape);
    };
}

Result<Value> make(const Inputs& in, const Run& run) {
    Result<CurveSet> set = join_points(in.lattice("points"), route_of(in.word("route")), maker_of(in),
                                       in.word("ends") == "closed", run);
    if (!set) return set.error();
    return Value(*std::move(set));
}

}  // namespace

StepKind join_into_curve() {
    return {
        .key = "curve.join",
        .verb = "Join points into a curve",
        .synonyms = "polyline spline interpolate line connect rows columns poles control points held",
        .sentence = "Join {points} {route} by {shape}[shape=held| of degree {degree}], {ends}.",
        .slots = {reference_slot("points", "Points", {Kind::points, Kind::field}),
                  choice_slot("route", "Route",
                              {{"in_order", "in order", "one curve through all points"},
                               {"rows", "row by row", "a curve for each row, along i"},
                               {"columns", "column by column", "a curve for each column, along j"}}),
                  choice_slot(
                      "shape", "Shape",
                      {{"smooth", "smooth curves", "cubic splines through every point"},
                       {"straight", "straight lines", "polylines"},
                       {"held", "curves held by them", "the points are the poles, near which it passes"}}),
                  degree_slot(),
                  choice_slot("ends", "Ends",
                              {{"open", "open where they are open", "rows that close stay closed"},
                               {"closed", "closed", "the last point is joined to the first"}})},
        .results = {Kind::curves},
        .result_name = "curve",
        .help =
            "Curves through points, or held by them as poles. A gap ends a curve and the next point begins "
            "another.",
        .companion = {},
        .estimate = estimate,
        .make = make,
    };
}

}  // namespace plume

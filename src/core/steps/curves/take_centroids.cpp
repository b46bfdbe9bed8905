#include "core/geometry/curves/curve_figures.hpp"
#include "core/geometry/parts/subset.hpp"
#include "core/steps/curves/curve_support.hpp"

namespace plume {
namespace {

Result<Value> make(const Inputs& in, const Run& run) {
    const CurveSet& set = in.held<CurveSet>("curve");
    std::vector<Vec3> places;
    for (std::size_t index = 0; index < set.curves.size(); ++index) {
        if (run.cancelled()) return cancelled_error();
        const SplineCurve& curve = set.curves[index];
        if (in.word("of") == "line") {
            places.push_back(centroid_of_line(curve));
            continue;
        }
        if (!curve.closed())
            return about_slot(at_curve(Error{ErrorCode::has_gaps, "", "is open and encloses no area",
                                             "Close it, or take the centroid of the line."},
                                       set, index),
                              "curve");
        const auto place = centroid_of_area(curve);
        if (!place) return about_slot(at_curve(place.error(), set, index), "curve");
        places.push_back(*place);
    }
    return Value(points_at({Arrangement::row, {places.size(), 1, 1}, {}}, places));
}

}  // namespace

StepKind take_centroids() {
    return {
        .key = "points.centroids",
        .verb = "Take the centroids of curves",
        .synonyms = "centre of gravity middle area centroid barycentre",
        .sentence = "Take the centroid of {of} of each of {curve}.",
        .slots = {choice_slot("of", "Of",
                              {{"area", "the area", "inside a closed flat curve"},
                               {"line", "the line", "by its length"}}),
                  curves_slot()},
        .results = {Kind::points},
        .result_name = "centroids",
        .help = "One point for each curve, in their order.",
        .estimate = [](const Inputs& in) { return poles_estimate(in, 100, 4e-5); },
        .make = make,
    };
}

}  // namespace plume

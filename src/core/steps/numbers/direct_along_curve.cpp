#include "core/geometry/numbers/curve_readings.hpp"
#include "core/steps/curves/curve_support.hpp"

namespace plume {
namespace {

CurveDirection direction_of(const std::string& word) {
    return word == "tangent"  ? CurveDirection::tangent
           : word == "normal" ? CurveDirection::normal
                              : CurveDirection::binormal;
}

Result<Value> make(const Inputs& in, const Run& run) {
    const PointLattice& points = in.lattice("points");
    auto columns = curve_directions(points, in.held<CurveSet>("curve"), direction_of(in.word("what")), run);
    if (!columns) return about_slot(columns.error(), "curve");
    return Value(with_directions(points, in.result_name(), std::move(columns->x), std::move(columns->y),
                                 std::move(columns->z), plain_number));
}

}  // namespace

StepKind direct_along_curve() {
    return {
        .key = "directions.on_curve",
        .verb = "Direct points along a curve",
        .synonyms = "tangent normal binormal follow run direction vector frenet",
        .sentence = "Direct each point of {points} by {what} of {curve} where it is nearest.",
        .slots = {reference_slot("points", "Points", {Kind::points, Kind::field}),
                  choice_slot("what", "What",
                              {{"tangent", "the tangent", "the way it runs on"},
                               {"normal", "the normal", "towards the centre of its bend"},
                               {"binormal", "the binormal", "square to the plane of its bend"}}),
                  curves_slot()},
        .results = {Kind::directions},
        .result_name = "way",
        .help =
            "A direction of length 1 on each point. Where the curve is straight it has a tangent alone, and "
            "a normal is nothing.",
        .bears_name = true,
        .estimate = [](const Inputs& in) { return nearest_on_curves_estimate(in, 3); },
        .make = make,
    };
}

}  // namespace plume

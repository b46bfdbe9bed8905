#include "core/geometry/numbers/curve_readings.hpp"
#include "core/steps/curves/curve_support.hpp"

namespace plume {
namespace {

CurveNumber number_of(const std::string& word) {
    return word == "length"      ? CurveNumber::length
           : word == "share"     ? CurveNumber::share
           : word == "curvature" ? CurveNumber::curvature
                                 : CurveNumber::radius;
}

Result<Value> make(const Inputs& in, const Run& run) {
    const PointLattice& points = in.lattice("points");
    auto field = curve_numbers(points, in.held<CurveSet>("curve"), number_of(in.word("what")), run);
    if (!field) return about_slot(field.error(), "curve");
    field->name = in.result_name();
    return Value(FieldOnPoints{points.with_field(*std::move(field)), in.result_name()});
}

}  // namespace

StepKind read_curve() {
    return {
        .key = "field.on_curve",
        .verb = "Read a curve at points",
        .synonyms = "curvature radius bend length along station chainage parameter nearest",
        .sentence = "Read {what} of {curve} where it is nearest to each of {points}.",
        .slots = {choice_slot("what", "What",
                              {{"curvature", "the curvature", "1 / radius; 0 where it is straight"},
                               {"radius", "the radius of the bend", "of what is straight there is none"},
                               {"length", "the length so far", "from its start"},
                               {"share", "the share of its length", "0 at its start, 1 at its end"}}),
                  curves_slot(), reference_slot("points", "Points", {Kind::points, Kind::field})},
        .results = {Kind::field},
        .result_name = "bend",
        .help =
            "A number on each point, read off the place of the curve that is nearest to it: points on the "
            "curve read it where they are. Of several curves the nearest one counts.",
        .bears_name = true,
        .estimate = [](const Inputs& in) { return nearest_on_curves_estimate(in, 1); },
        .make = make,
    };
}

}  // namespace plume

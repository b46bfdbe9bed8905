#include <cmath>
#include <limits>

#include "core/base/sum.hpp"
#include "core/data/place_text.hpp"
#include "core/geometry/curves/curve_division.hpp"
#include "core/geometry/curves/curve_figures.hpp"
#include "core/steps/curves/curve_support.hpp"

namespace plume {
namespace {

Result<Value> total_length(const CurveSet& set, const Run& run) {
    Sum sum;
    for (const SplineCurve& curve : set.curves) {
        if (run.cancelled()) return cancelled_error();
        sum.add(length_of(curve));
    }
    return Value(Quantity{sum.value(), a_length});
}

Result<Value> total_area(const CurveSet& set, const Run& run) {
    Sum sum;
    for (std::size_t index = 0; index < set.curves.size(); ++index) {
        if (run.cancelled()) return cancelled_error();
        if (!set.curves[index].closed())
            return about_slot(at_curve(Error{ErrorCode::has_gaps, "", "is open and encloses no area",
                                             "Close it, or choose closed ones."},
                                       set, index),
                              "curve");
        sum.add(length(area_vector(set.curves[index])));
    }
    return Value(Quantity{sum.value(), {2, 0}});
}

Result<Value> smallest_radius(const CurveSet& set, const Inputs& in, const Run& run) {
    std::optional<TightestBend> tightest;
    for (const SplineCurve& curve : set.curves) {
        if (run.cancelled()) return cancelled_error();
        const auto bend = tightest_bend(curve);
        if (bend && (!tightest || bend->radius < tightest->radius)) tightest = bend;
    }
    if (!tightest)
        return about_slot(Error{ErrorCode::out_of_range, "", "is straight everywhere and has no radius",
                                "Choose one that bends."},
                          "curve");
    run.remark("It bends so tightly at " + place_text(tightest->place, length(tightest->place), in.units()) +
               ".");
    return Value(Quantity{tightest->radius, a_length});
}

Result<Value> make(const Inputs& in, const Run& run) {
    const CurveSet& set = in.held<CurveSet>("curve");
    const std::string& figure = in.word("figure");
    if (figure == "area") return total_area(set, run);
    return figure == "radius" ? smallest_radius(set, in, run) : total_length(set, run);
}

}  // namespace

StepKind take_curve_figure() {
    return {
        .key = "number.curve",
        .verb = "Take a figure of a curve",
        .synonyms = "length perimeter area enclosed smallest radius curvature measure total",
        .sentence = "Take {figure} of {curve}.",
        .slots = {choice_slot(
                      "figure", "Figure",
                      {{"length", "the length", "of all curves together"},
                       {"area", "the enclosed area", "of closed curves, each in its own plane, together"},
                       {"radius", "the smallest radius", "where they bend most tightly"}}),
                  curves_slot()},
        .results = {Kind::number},
        .result_name = "figure",
        .help = "One number of curves, exact to nine digits. Expressions of later steps read it by its name.",
        .estimate =
            [](const Inputs& in) {
                Estimate estimate = poles_estimate(in, 60, 4e-5);
                estimate.bytes = 1e3 + estimate.bytes;
                return estimate;
            },
        .make = make,
    };
}

}  // namespace plume

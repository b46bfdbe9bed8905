#include "core/geometry/curves/curve_chains.hpp"
#include "core/geometry/curves/curve_edit.hpp"
#include "core/steps/curves/curve_support.hpp"

namespace plume {
namespace {

Extension extension_of(const std::string& word) {
    if (word == "arc") return Extension::arc;
    return word == "straight" ? Extension::straight : Extension::onwards;
}

Result<Value> make(const Inputs& in, const Run& run) {
    const std::string& end = in.word("end");
    const Extension shape = extension_of(in.word("shape"));
    return each_curve(in, run, [&](const SplineCurve& curve) -> Result<SplineCurve> {
        SplineCurve longer = curve;
        if (end != "start") {
            const auto made = extended(longer, in.number("by"), shape);
            if (!made) return about_slot(made.error(), curve.closed() ? "curve" : "by");
            longer = *made;
        }
        if (end == "end") return longer;
        const auto made = extended(reversed(longer), in.number("by"), shape);
        if (!made) return about_slot(made.error(), curve.closed() ? "curve" : "by");
        return reversed(*made);
    });
}

}  // namespace

StepKind extend_curve() {
    return {
        .key = "curve.extend",
        .verb = "Extend a curve",
        .synonyms = "lengthen longer continue overhang",
        .sentence = "Extend {curve} at {end} by {by}, {shape}.",
        .slots = {curves_slot(),
                  choice_slot(
                      "end", "End",
                      {{"both", "both ends", ""}, {"start", "its start", ""}, {"end", "its end", ""}}),
                  length_above_zero_slot("by", "Length", "1 m"),
                  choice_slot("shape", "Shape",
                              {{"straight", "straight on", "along its direction there"},
                               {"arc", "in its bend", "on the circle that fits it there"},
                               {"onwards", "as it runs", "the spline goes on"}})},
        .results = {Kind::curves},
        .result_name = "extended",
        .help = "An open curve made longer. What was there stays exactly what it is.",
        .estimate = [](const Inputs& in) { return poles_estimate(in, 24, 1e-5); },
        .make = make,
    };
}

}  // namespace plume

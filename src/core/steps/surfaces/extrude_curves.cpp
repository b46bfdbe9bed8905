#include "core/geometry/surfaces/loft.hpp"
#include "core/steps/curves/curve_support.hpp"
#include "core/steps/moves/axis_slots.hpp"

namespace plume {
namespace {

Result<Value> make(const Inputs& in, const Run& run) {
    return surface_of_each(in, run, "by", [&](const SplineCurve& curve) {
        return extruded(curve, way_of(in) * in.number("by"));
    });
}

}  // namespace

StepKind extrude_curves() {
    return {
        .key = "surface.extrude",
        .verb = "Extrude a curve",
        .synonyms = "pull wall sheet height along direction translate surface",
        .sentence = "Extrude {curve} by {by} {direction}[direction=placed| of {placement}].",
        .slots = {curves_slot(), length_slot("by", "Length", "3 m"),
                  choice_slot("direction", "Direction",
                              {{"z", "up", "along Z"},
                               {"x", "along X", ""},
                               {"y", "along Y", ""},
                               {"placed", "along the up", "of a placement"}}),
                  reference_slot("placement", "Placement", {Kind::placements})},
        .results = {Kind::surface},
        .result_name = "wall",
        .help = "The surface a curve passes over when it is moved: exact, one for each curve.",
        .estimate = [](const Inputs& in) { return poles_estimate(in, 16, 1e-7); },
        .make = make,
    };
}

}  // namespace plume

#include "core/geometry/surfaces/loft.hpp"
#include "core/steps/curves/curve_support.hpp"

namespace plume {
namespace {

Placement axis_of(const Inputs& in) {
    const std::string& axis = in.word("axis");
    if (axis == "placed") return in.held<Placements>("placement").present_placements().front();
    const Vec3 up = axis == "x" ? Vec3{1, 0, 0} : axis == "y" ? Vec3{0, 1, 0} : Vec3{0, 0, 1};
    return placement_of({}, up, axis == "x" ? Vec3{0, 1, 0} : Vec3{1, 0, 0});
}

Result<Value> make(const Inputs& in, const Run& run) {
    return surface_of_each(in, run, "sweep", [&](const SplineCurve& curve) {
        return revolved(curve, axis_of(in), in.number("sweep"));
    });
}

}  // namespace

StepKind revolve_curves() {
    return {
        .key = "surface.revolve",
        .verb = "Revolve a curve",
        .synonyms = "turn lathe rotation axis profile vase dome bell sphere torus",
        .sentence = "Revolve {curve} about the {axis} axis[axis=placed| of {placement}] over {sweep}.",
        .slots = {curves_slot(),
                  choice_slot(
                      "axis", "Axis",
                      {{"z", "Z", ""}, {"x", "X", ""}, {"y", "Y", ""}, {"placed", "up", "of a placement"}}),
                  reference_slot("placement", "Placement", {Kind::placements}), sweep_slot("360°")},
        .results = {Kind::surface},
        .result_name = "revolved",
        .help =
            "The exact surface a curve passes over when it is turned about an axis; over 360° it is closed.",
        .estimate = [](const Inputs& in) { return poles_estimate(in, 120, 1e-6); },
        .make = make,
    };
}

}  // namespace plume

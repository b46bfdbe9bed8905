#include "core/geometry/solids/extruded_body.hpp"
#include "core/geometry/surfaces/patch_evaluator.hpp"
#include "core/geometry/surfaces/plane_fill.hpp"
#include "core/steps/curves/curve_support.hpp"
#include "core/steps/solids/body_support.hpp"

namespace plume {
namespace {

Vec3 way_of(const Inputs& in, const SplinePatch& face) {
    const std::string& direction = in.word("direction");
    const double by = in.number("by");
    if (direction == "x") return {by, 0, 0};
    if (direction == "y") return {0, by, 0};
    if (direction == "z") return {0, 0, by};
    const PatchEvaluator evaluator(face);
    return normal_at(evaluator, face.u(), face.v(), face.u().start(), face.v().start()) * by;
}

Result<Value> make(const Inputs& in, const Run& run) {
    const auto faces = plane_fills(in.held<CurveSet>("curve"), run);
    if (!faces) return about_slot(faces.error(), "curve");
    SolidSet bodies;
    for (const SplinePatch& face : *faces) {
        Result<Body> body = extruded(face, way_of(in, face), run);
        if (!body) return about_slot(at_body(body.error(), bodies.bodies.size(), faces->size()), "by");
        bodies.bodies.push_back(*std::move(body));
    }
    return Value(std::move(bodies));
}

}  // namespace

StepKind extrude_outlines() {
    return {
        .key = "body.extrude",
        .verb = "Make bodies of outlines",
        .synonyms = "extrude prism block plate floor slab solid pull height wall",
        .sentence = "Make bodies of {curve}, {by} {direction}.",
        .slots = {curves_slot(), length_slot("by", "Height", "3 m"),
                  choice_slot("direction", "Direction",
                              {{"z", "up", "along Z"},
                               {"square", "square to them", "along the normal of each outline's plane"},
                               {"x", "along X", ""},
                               {"y", "along Y", ""}})},
        .results = {Kind::bodies},
        .result_name = "blocks",
        .help =
            "Closed flat outlines as exact bodies of a height. An outline inside of another one of its plane "
            "is a hole in it, one inside of a hole a body again.",
        .estimate = [](const Inputs& in) { return poles_estimate(in, 300, 2e-5); },
        .make = make,
    };
}

}  // namespace plume

#include "core/geometry/solids/combined.hpp"
#include "core/steps/solids/body_support.hpp"

namespace plume {
namespace {

Result<Value> make(const Inputs& in, const Run& run) {
    const Placement plane = in.held<Placements>("plane").present_placements().front();
    const std::string& side = in.word("side");
    SolidSet made;
    for (const bool above : {true, false}) {
        if (side == (above ? "below" : "above")) continue;
        Result<SolidSet> half =
            one_side_of(in.held<SolidSet>("bodies"), plane.origin, plane.up, above, body_polygons, run);
        if (!half) return about_slot(half.error(), "bodies");
        made.bodies.insert(made.bodies.end(), half->bodies.begin(), half->bodies.end());
    }
    remark_polygons(in.held<SolidSet>("bodies"), run);
    return some_bodies(std::move(made), "plane", "leaves nothing on this side");
}

}  // namespace

StepKind split_bodies() {
    return {
        .key = "body.split",
        .verb = "Split bodies at a plane",
        .synonyms = "cut section half slice saw trim plane",
        .sentence = "Split {bodies} at {plane} and keep {side}.",
        .slots = {bodies_slot(), reference_slot("plane", "Plane", {Kind::placements}),
                  choice_slot("side", "Side",
                              {{"both", "both sides", "what is above comes first"},
                               {"above", "what is above", "where the placement's up points"},
                               {"below", "what is below", ""}})},
        .results = {Kind::bodies},
        .result_name = "halves",
        .help =
            "Bodies cut through by the plane of a placement, square to its up. What comes of them is closed.",
        .estimate = [](const Inputs& in) { return bodies_estimate(in, "bodies", 800, 4e-5); },
        .make = make,
    };
}

}  // namespace plume

#include "core/study/step_kind.hpp"

namespace plume {
namespace {

Result<Value> make(const Inputs& in, const Run& /*run*/) {
    std::vector<Attractor> items;
    for (const ResolvedPlace& place : in.places("places"))
        items.push_back({place.name, place.position, place.weight});
    Result<Attractors> attractors = Attractors::make(std::move(items));
    if (!attractors) return attractors.error();
    return Value(*std::move(attractors));
}

}  // namespace

StepKind place_attractors() {
    return {
        .key = "attractors.points",
        .verb = "Place attractors",
        .synonyms = "points magnets perches pull influence",
        .sentence = "Place attractors at {places}.",
        .slots = {places_slot("places", "Attractors",
                              {{"first", "-6 m", "-3 m", "0 m", "1"}, {"second", "7 m", "4 m", "0 m", "1"}})},
        .results = {Kind::attractors},
        .result_name = "attractors",
        .help =
            "Points with a weight that other points are measured against. Drag them in the model; a weight "
            "above 1 "
            "makes an attractor count for more.",
        .companion = {},
        .estimate =
            [](const Inputs&) {
                return Estimate{1e3, 0};
            },
        .make = make,
        .formula_place = {},
    };
}

}  // namespace plume

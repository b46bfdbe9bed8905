#include "core/study/step_kind.hpp"

namespace plume {
namespace {

Result<Value> make(const Inputs& in, const Run& /*run*/) {
    std::vector<Attractor> items;
    for (const ResolvedPlace& place : in.places("places"))
        items.push_back({place.name, place.position, place.weight});
    const std::size_t own = items.size();
    // Behind the others, so that a dragged image is found by its number.
    if (in.word("pairs") != "single")
        for (std::size_t at = 0; at < own; ++at) {
            Attractor image = items[at];
            image.name += " mirrored";
            (in.word("pairs") == "x" ? image.position.x : image.position.y) *= -1;
            items.push_back(std::move(image));
        }
    Result<Attractors> attractors = Attractors::make(std::move(items));
    if (!attractors) return about_slot(attractors.error(), "places");
    return Value(*std::move(attractors));
}

}  // namespace

StepKind place_attractors() {
    SlotSpec places =
        places_slot("places", "Attractors",
                    {{"first", "-6 m", "-3 m", "0 m", "1"}, {"second", "7 m", "4 m", "0 m", "1"}});
    places.weighted = true;
    places.mirrored_by = "pairs";
    return {
        .key = "attractors.points",
        .verb = "Place attractors",
        .synonyms = "points magnets perches pull influence",
        .sentence = "Place attractors at {places}, {pairs}.",
        .slots = {places,
                  choice_slot("pairs", "Pairs",
                              {{"single", "each alone", ""},
                               {"x", "in pairs across the YZ plane", "each with its mirror image in x"},
                               {"y", "in pairs across the XZ plane", "each with its mirror image in y"}})},
        .results = {Kind::attractors},
        .result_name = "attractors",
        .help =
            "Points with a weight that other points are measured against. Drag them in the model, also as "
            "mirrored pairs; a weight above 1 makes an attractor count for more, one below 0 turns it round.",
        .estimate =
            [](const Inputs&) {
                return Estimate{1e3, 0};
            },
        .make = make,
    };
}

}  // namespace plume

#include <algorithm>

#include "core/base/text.hpp"
#include "core/forces/smallest_surface.hpp"
#include "core/geometry/meshes/face_places.hpp"
#include "core/steps/forces/held_places.hpp"
#include "core/steps/meshes/mesh_support.hpp"

namespace plume {
namespace {

// The border, and what else is held.
Result<std::vector<std::uint8_t>> held_in(const Value& mesh) {
    const auto firmness = firmness_in(mesh);
    if (!firmness) return firmness.error();
    auto mask = border_of(mesh);
    std::vector<std::uint8_t> held = mask ? *std::move(mask) : std::vector<std::uint8_t>(firmness->size(), 0);
    for (std::size_t at = 0; at < held.size(); ++at)
        if ((*firmness)[at] > 0) held[at] = 1;
    return held;
}

Result<Value> make(const Inputs& in, const Run& run) {
    const auto mesh = changed_mesh(in, run);
    if (!mesh) return mesh.error();
    const Value value(*mesh);
    const auto held = held_in(value);
    if (!held) return about_slot(held.error(), "mesh");
    const auto made =
        smallest_surface(places_in(value).at, triangles_of(*mesh).vertices, *held, in.count("rounds"), run);
    if (!made) return about_slot(made.error(), "mesh");
    const auto area = [&](double of) { return quantity_text({of, {2, 0}}, in.units()); };
    run.remark(
        "Its area went from " + area(made->area_before) + " to " + area(made->area) + " in " +
        count_text(made->rounds, "round", "rounds") +
        (made->settled ? "." : ", and still shrinks: it may have no smallest form within this border."));
    return with_places(value, made->places);
}

}  // namespace

StepKind draw_smallest() {
    return {
        .key = "forces.smallest",
        .verb = "Draw a mesh into the smallest surface",
        .synonyms = "minimal surface soap film membrane tension catenoid form finding",
        .sentence = "Draw {mesh} into the smallest surface within its border, in at most {rounds} rounds.",
        .slots = {changed_mesh_slot(), count_slot("rounds", "Rounds", "200", 1)},
        .results = {Kind::mesh},
        .result_name = "film",
        .help =
            "The surface that a soap film takes between its borders: of all with these borders, near to this "
            "one, it has the least area, and equal tension everywhere. Borders and held points stay. Two "
            "rings "
            "that are too far apart have none: it is drawn to a thread, and says so.",
        .estimate =
            [](const Inputs& in) {
                const Estimate one = changed_estimate(in, 500, 1.2e-6);
                return Estimate{one.bytes, one.seconds * std::min(in.number("rounds"), 20.0)};
            },
        .make = make,
    };
}

}  // namespace plume

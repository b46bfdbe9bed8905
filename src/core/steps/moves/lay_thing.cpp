#include "core/geometry/measures/bounds.hpp"
#include "core/geometry/moves/copies.hpp"
#include "core/geometry/surfaces/patch_figures.hpp"
#include "core/geometry/surfaces/surface_map.hpp"
#include "core/steps/moves/axis_slots.hpp"
#include "core/steps/moves/flat_rectangle.hpp"
#include "core/steps/moves/mapped_thing.hpp"
#include "core/steps/moves/tiles.hpp"
#include "core/steps/surfaces/surface_support.hpp"

namespace plume {
namespace {

Result<Value> make(const Inputs& in, const Run& run) {
    const auto patch = only_patch(in, "one is laid onto");
    if (!patch) return patch.error();
    const auto rectangle = rectangle_of(in);
    if (!rectangle) return rectangle.error();
    const auto tiled = tiles_of(in, *rectangle, run);
    if (!tiled) return tiled.error();
    const SurfaceMap surface(*patch, tiled->rectangle, map_steps(in), mapped_place_count(*tiled->thing));
    // Points in a hole are gaps; curves may run across it, as rims that trim the surface once more do.
    const TrimSides sides(*patch);
    const bool leaves_holes = lattice_of(in.value("thing")) != nullptr;
    const ThingMap map{[&](Vec3 place) -> std::optional<Vec3> {
                           const auto found = surface.laid(place);
                           if (!found || (leaves_holes && !sides.hold(found->u, found->v))) return {};
                           return found->place;
                       },
                       bounds_of(*patch).diagonal(),
                       leaves_holes && patch->trimmed()
                           ? "lies beside the rectangle or where the surface is trimmed"
                           : "lies beside the rectangle",
                       "Make the rectangle larger, or move what is laid."};
    auto laid = mapped_thing(*tiled->thing, map, in, run);
    if (!laid || tiled->count == 1) return laid;
    return joints_welded(*std::move(laid), map.size);
}

Estimate estimate(const Inputs& in) {
    double crossed = 0;
    for (const SplinePatch& patch : in.held<SurfaceSet>("surface").patches)
        crossed += static_cast<double>(patch.u().pole_count() + patch.v().pole_count());
    const double each = in.word("steps") == "lengths" ? 1.5e-4 : 5e-7, tiles = tile_count(in);
    const Estimate one = mapped_estimate(in.value("thing"), each, crossed);
    const double copies = tiles > 1 ? copies_bytes(in.value("thing"), tiles) : 0;
    return {one.bytes * tiles + copies, one.seconds * tiles};
}

}  // namespace

StepKind lay_thing() {
    return {
        .key = "thing.lay",
        .verb = "Lay onto a surface",
        .synonyms =
            "map wrap flat pattern u v plane curve points mesh body apply morph tile repeat scales panels",
        .sentence = std::string("Lay {thing}, flat over ") + flat_rectangle_words +
                    ", onto {surface} by {steps}, " + tile_words + ".",
        .slots = with_tiles(
            with_flat_rectangle({reference_slot("thing", "Thing", mapped_kinds()),
                                 reference_slot("surface", "Surface", {Kind::surface}), map_steps_slot()})),
        .results = mapped_kinds(),
        .result_name = "laid",
        .help =
            "What was drawn flat, laid onto a surface: the sides of a rectangle become u and v, heights "
            "above "
            "it go along the normal. Many tiles share the surface, all alike or every other one mirrored; "
            "meshes are one where they touch. Around a closed surface it goes on; beside an open one points "
            "are gaps and anything else is refused. Curves lie there to a ten millionth of the surface's "
            "size; meshes go by their vertices, and bodies as meshes.",
        .estimate = estimate,
        .make = make,
    };
}

}  // namespace plume

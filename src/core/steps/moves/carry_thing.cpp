#include <memory>

#include "core/geometry/measures/bounds.hpp"
#include "core/geometry/surfaces/patch_figures.hpp"
#include "core/geometry/surfaces/surface_map.hpp"
#include "core/steps/moves/flat_rectangle.hpp"
#include "core/steps/moves/mapped_thing.hpp"
#include "core/steps/surfaces/surface_support.hpp"

namespace plume {
namespace {

// Shares of u and v and a height, to where they lie.
using FromShares = std::function<std::optional<Vec3>(Vec3)>;

FromShares onto_plane(const SurfaceShares& source) {
    return [width = source.width(), depth = source.depth()](Vec3 at) {
        return std::optional(Vec3{at.x * width, at.y * depth, at.z});
    };
}

FromShares onto_surface(const SplinePatch& target, MapSteps steps, std::size_t places) {
    const auto map = std::make_shared<const SurfaceMap>(target, FlatRectangle{}, steps, places);
    const auto sides = std::make_shared<const TrimSides>(target);
    return [map, sides](Vec3 at) -> std::optional<Vec3> {
        const auto found = map->laid(at);
        if (!found || !sides->hold(found->u, found->v)) return {};
        return found->place;
    };
}

Result<Value> make(const Inputs& in, const Run& run) {
    const auto patch = only_patch(in, "things are carried from one");
    if (!patch) return patch.error();
    const SurfaceShares source(*patch, map_steps(in));
    FromShares to = onto_plane(source);
    double size = bounds_of(*patch).diagonal();
    if (in.word("onto") == "surface") {
        const std::vector<SplinePatch>& targets = in.held<SurfaceSet>("target").patches;
        if (targets.size() != 1)
            return about_slot(
                Error{ErrorCode::wrong_kind, "",
                      "has " + std::to_string(targets.size()) + " parts, and things are carried onto one",
                      "Choose a single surface."},
                "target");
        to = onto_surface(targets.front(), map_steps(in), mapped_place_count(in.value("thing")));
        size = std::max(size, bounds_of(targets.front()).diagonal());
    }
    const ThingMap map{[&](Vec3 place) -> std::optional<Vec3> {
                           const auto at = source.shares(place);
                           return at ? to(*at) : std::nullopt;
                       },
                       size, "lies beside the surface",
                       "Pull it onto the surface, or keep what lies over it."};
    return mapped_thing(in.value("thing"), map, in, run);
}

Estimate estimate(const Inputs& in) {
    const std::vector<SplinePatch>& patches = in.held<SurfaceSet>("surface").patches;
    const double bays = searched_bays(patches);
    double crossed = 0;
    for (const SplinePatch& patch : patches)
        crossed += static_cast<double>(patch.u().pole_count() + patch.v().pole_count());
    const double each = in.word("steps") == "lengths" ? 1.5e-4 : 5e-6;
    const Estimate mapped = mapped_estimate(in.value("thing"), each, crossed);
    return {mapped.bytes + bays * 400, mapped.seconds + bays * 1e-6};
}

}  // namespace

StepKind carry_thing() {
    return {
        .key = "thing.carry",
        .verb = "Carry from a surface",
        .synonyms = "unmap back flat plane unlay unroll transfer surface to surface u v morph",
        .sentence = "Carry {thing} from {surface} by {steps} onto {onto}[onto=surface| {target}].",
        .slots = {reference_slot("thing", "Thing", mapped_kinds()), surface_slot(), map_steps_slot(),
                  choice_slot("onto", "Onto",
                              {{"plane", "the ground plane",
                                "from the origin, as long and deep as its lines "
                                "are in the mean"},
                               {"surface", "another surface", "to the same shares of its u and v"}}),
                  reference_slot("target", "Target", {Kind::surface})},
        .results = mapped_kinds(),
        .result_name = "carried",
        .help =
            "What lies on or over a surface, taken back to the plane, where u runs along X and v along Y, or "
            "over to another surface. Heights are those along the normals. What was laid by even lengths "
            "over "
            "a rectangle as large as the surface comes back as it was drawn.",
        .estimate = estimate,
        .make = make,
    };
}

}  // namespace plume

#include "core/geometry/surfaces/patch_edit.hpp"
#include "core/steps/surfaces/surface_support.hpp"

namespace plume {
namespace {

Result<Value> make(const Inputs& in, const Run& run) {
    const std::string& way = in.word("way");
    return each_patch(in, run, Trims::go_along, [&](const SplinePatch& patch) -> Result<SplinePatch> {
        if (way == "swapped") return swapped(patch);
        return reversed(patch, way == "v" ? 1 : 0);
    });
}

}  // namespace

StepKind turn_surface() {
    return {
        .key = "surface.flip",
        .verb = "Flip a surface",
        .synonyms = "reverse normals swap directions turn over side front back u v",
        .sentence = "Flip {surface} {way}.",
        .slots = {surface_slot(),
                  choice_slot("way", "Way",
                              {{"u", "along u", "u runs the other way"},
                               {"v", "along v", "v runs the other way"},
                               {"swapped", "with u as v", "the two directions are swapped"}})},
        .results = {Kind::surface},
        .result_name = "flipped",
        .help = "The same surface with its directions run through otherwise: front and back change places.",
        .estimate = [](const Inputs& in) { return surface_poles_estimate(in, 120, 3e-7); },
        .make = make,
    };
}

}  // namespace plume

#include "core/data/place_text.hpp"
#include "core/geometry/surfaces/offset_surface.hpp"
#include "core/geometry/surfaces/patch_figures.hpp"
#include "core/steps/surfaces/surface_support.hpp"

namespace plume {
namespace {

Result<Value> smallest_radius(const SurfaceSet& set, const Inputs& in, const Run& run) {
    std::optional<TightestSide> tightest;
    for (const SplinePatch& patch : set.patches)
        for (const int side : {1, -1}) {
            if (run.cancelled()) return cancelled_error();
            const auto here = tightest_on(patch, side);
            if (here && (!tightest || here->radius < tightest->radius)) tightest = here;
        }
    if (!tightest)
        return about_slot(Error{ErrorCode::out_of_range, "", "is flat everywhere and has no radius",
                                "Choose one that bends."},
                          "surface");
    run.remark("It bends so tightly near " +
               place_text(tightest->place, length(tightest->place), in.units()) + ".");
    return Value(Quantity{tightest->radius, a_length});
}

Result<Value> make(const Inputs& in, const Run& run) {
    const SurfaceSet& set = in.held<SurfaceSet>("surface");
    if (in.word("figure") == "radius") return smallest_radius(set, in, run);
    const auto area = area_of(set, run);
    if (!area) return area.error();
    return Value(Quantity{*area, {2, 0}});
}

}  // namespace

StepKind take_surface_figure() {
    return {
        .key = "number.surface",
        .verb = "Take a figure of a surface",
        .synonyms = "area smallest radius curvature measure cladding size",
        .sentence = "Take {figure} of {surface}.",
        .slots = {choice_slot("figure", "Figure",
                              {{"area", "the area", "of all surfaces together, without what is trimmed away"},
                               {"radius", "the smallest radius",
                                "where it bends most tightly, looked for at its knots and between them"}}),
                  surface_slot()},
        .results = {Kind::number},
        .result_name = "figure",
        .help = "One number of surfaces. Expressions of later steps read it by its name.",
        .estimate = [](const Inputs& in) { return surface_poles_estimate(in, 60, 3e-6); },
        .make = make,
    };
}

}  // namespace plume

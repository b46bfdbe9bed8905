#include <functional>
#include <memory>
#include <optional>

#include "core/geometry/surfaces/cast_curve.hpp"
#include "core/geometry/surfaces/traced_curve.hpp"
#include "core/geometry/surfaces/trimming.hpp"
#include "core/steps/curves/curve_support.hpp"
#include "core/steps/moves/axis_slots.hpp"
#include "core/steps/surfaces/surface_support.hpp"

namespace plume {
namespace {

using CastOn = std::function<Result<Cast>(const SplineCurve& outline)>;

// How outlines are brought onto a patch: what that takes is made once for all of them.
CastOn cast_on(const SplinePatch& patch, const Inputs& in, const Run& run) {
    if (in.word("cast") == "on")
        return [search = std::make_shared<const SurfaceSearch>(patch), &run](const SplineCurve& outline) {
            return traced_on(*search, outline, run);
        };
    return [shadow = shadow_of(patch, way_of(in)), &run](const SplineCurve& outline) {
        return cast_onto(shadow, outline, run);
    };
}

// What all outlines cast on a patch; `met` counts for each how many patches it met, or lies around.
Result<std::vector<Cast>> casts_on(const SplinePatch& patch, const Inputs& in, const Run& run,
                                   std::vector<std::size_t>& met) {
    const CurveSet& outlines = in.held<CurveSet>("curve");
    const CastOn onto = cast_on(patch, in, run);
    std::vector<Cast> casts;
    for (std::size_t number = 0; number < outlines.curves.size(); ++number) {
        auto cast = onto(outlines.curves[number]);
        if (!cast) return about_slot(at_curve(cast.error(), outlines, number), "curve");
        met[number] += !cast->curves.empty() || cast->holds(patch.u().start(), patch.v().start()) ? 1 : 0;
        casts.push_back(*std::move(cast));
    }
    return casts;
}

// An outline that meets nothing may be meant for elsewhere, or be misplaced.
Status look_for_misses(const std::vector<std::size_t>& met, const Run& run) {
    const auto missed = static_cast<std::size_t>(std::ranges::count(met, std::size_t{0}));
    if (missed == met.size())
        return about_slot(Error{ErrorCode::empty_input, "", "misses the surface",
                                "Move it over the surface, or cast it along another direction."},
                          "curve");
    if (missed > 0)
        run.remark_loss(std::to_string(missed) + (missed == 1 ? " outline misses" : " outlines miss") +
                        " the surface and cut nothing.");
    return Done{};
}

Result<Value> make(const Inputs& in, const Run& run) {
    const TrimSide keep = in.word("keep") == "inside" ? TrimSide::inside : TrimSide::outside;
    const std::vector<SplinePatch>& patches = in.held<SurfaceSet>("surface").patches;
    if (patches.empty())
        return about_slot(Error{ErrorCode::empty_input, "", "holds no surface", "Choose another."},
                          "surface");
    const std::size_t outlines = in.held<CurveSet>("curve").curves.size();
    if (outlines == 0)
        return about_slot(Error{ErrorCode::empty_input, "", "holds no curve", "Draw one."}, "curve");
    std::vector<std::size_t> met(outlines, 0);
    SurfaceSet made;
    std::optional<Error> nothing_left;
    for (const SplinePatch& patch : patches) {
        const auto casts = casts_on(patch, in, run, met);
        if (!casts) return casts.error();
        auto pieces = trimmed(patch, *casts, keep, run);
        // What nothing is left of is left out, as long as something else is.
        if (!pieces && pieces.error().code == ErrorCode::empty_input) {
            nothing_left = pieces.error();
            continue;
        }
        if (!pieces) return about_slot(pieces.error(), "curve");
        made.patches.insert(made.patches.end(), pieces->begin(), pieces->end());
    }
    if (Status looked = look_for_misses(met, run); !looked) return looked.error();
    if (made.patches.empty() && nothing_left) return about_slot(*nothing_left, "curve");
    return Value(std::move(made));
}

// A trim has some hundred poles a knot of its outline, and is laid into triangles once.
Estimate estimate(const Inputs& in) {
    const Estimate patches = surface_poles_estimate(in, 120, 1e-6);
    const auto count = static_cast<double>(in.held<SurfaceSet>("surface").patches.size());
    const double poles = pole_count(in.held<CurveSet>("curve")) * count;
    return {patches.bytes + poles * 4000, patches.seconds + poles * 5e-4};
}

}  // namespace

StepKind trim_surface() {
    std::vector<SlotSpec> slots = with_direction(
        {surface_slot(), curves_slot("curve", "Outline"),
         choice_slot("cast", "Cast",
                     {{"along", "cast along", "onto wherever a line of that direction meets the surface"},
                      {"on", "where it lies on it", "one that was pulled or laid onto it"}})});
    slots.push_back(choice_slot("keep", "Keep",
                                {{"outside", "what lies outside", "outlines are holes"},
                                 {"inside", "what lies inside", "outlines are the new rims"}}));
    return {
        .key = "surface.trim",
        .verb = "Trim a surface",
        .synonyms = "cut hole opening window outline cast project onto region pierce punch",
        .sentence =
            "Trim {surface} by {curve}, {cast}[cast=along| {direction}]"
            "[cast=along&direction=placed| of {placement}], keeping {keep}.",
        .slots = std::move(slots),
        .results = {Kind::surface},
        .result_name = "trimmed",
        .help =
            "Closed curves are cast onto a surface along a direction, or lie on it, and cut it: they become "
            "holes, or its new rims. The surface itself stays exact, the trims are true to a ten millionth "
            "of its size, "
            "and exact where the surface is spaced evenly as it is seen along the direction. Outlines may "
            "run "
            "beyond its rims, through earlier trims and round a closed surface. One inside of a hole leaves "
            "an island, a surface of its own.",
        .estimate = estimate,
        .make = make,
    };
}

}  // namespace plume

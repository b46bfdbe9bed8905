#include <algorithm>
#include <cmath>

#include "core/geometry/measures/bounds.hpp"
#include "core/geometry/surfaces/offset_surface.hpp"
#include "core/geometry/surfaces/trimming.hpp"
#include "core/steps/curves/curve_support.hpp"
#include "core/steps/surfaces/surface_formula.hpp"
#include "core/steps/surfaces/surface_support.hpp"

namespace plume {
namespace {

// Of the distance, as thickened surfaces are.
constexpr double true_share = 1e-4;

constexpr const char* gives = "the distance";

bool by_formula(const Inputs& in) {
    return in.word("rule") == "formula";
}

OffsetBy distance_of(const Inputs& in, const Run& run) {
    if (!by_formula(in)) return offset_by(in.number("by"));
    return [&in, &run](const OffsetGrid& grid) -> Result<Doubles> {
        Result<Doubles> distances = numbers_by_formula(in, site_on_grid(grid, gives), a_length, run);
        if (distances && !std::ranges::all_of(*distances, [](double by) { return std::isfinite(by); }))
            return about_slot(Error{ErrorCode::not_finite, "", "gives a distance that is no number somewhere",
                                    "Look where its range begins."},
                              "formula");
        return distances;
    };
}

Result<Value> make(const Inputs& in, const Run& run) {
    double deviation = 0;
    Result<Value> made =
        each_patch(in, run, Trims::go_along, [&](const SplinePatch& patch) -> Result<SplinePatch> {
            const double size =
                by_formula(in) ? 1e-3 * bounds_of(patch).diagonal() : std::abs(in.number("by"));
            Result<Offsets> offsets = offsets_of(patch, {distance_of(in, run)}, true_share * size, run);
            if (!offsets) return offsets.error();
            deviation = std::max(deviation, offsets->deviation);
            return with_trims(offsets->at.front(), patch.trims());
        });
    if (made && deviation > 1e-12 * bounds_of(*made).diagonal())
        run.remark(deviation_sentence(deviation, in));
    return made;
}

Result<FormulaSite> site_of(const Inputs& in) {
    return site_on_first_patch(in, gives);
}

}  // namespace

StepKind offset_surfaces() {
    return {
        .key = "surface.offset",
        .verb = "Offset a surface",
        .synonyms = "parallel distance thickness inner outer normal",
        .sentence = "Offset {surface} by {rule}[rule=even| {by}][rule=formula| {formula}].",
        .slots = {surface_slot(),
                  choice_slot(
                      "rule", "Rule",
                      {{"even", "a distance of", "the same everywhere"},
                       {"formula", "distances by", "a formula of the place and the surface's numbers"}}),
                  length_slot("by", "By", "500 mm"),
                  formula_slot("formula", formula_label, "500 mm + 200 mm * sin(360° * u)")},
        .results = {Kind::surface},
        .result_name = "offset",
        .help =
            "The surface at a distance along its normals; below 0 on the other side. Planes, cylinders, "
            "cones "
            "and spheres are exact, others true to a ten thousandth of the distance; how true is told below. "
            "A "
            "formula reads x, y, z, the shares u and v and the surface's numbers; its last line is the "
            "distance.",
        .estimate = [](const Inputs& in) { return surface_poles_estimate(in, 360, 3e-6); },
        .make = make,
        .contexts = {{"formula", context(site_of)}},
    };
}

}  // namespace plume

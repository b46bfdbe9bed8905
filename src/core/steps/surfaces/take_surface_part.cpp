#include <cmath>

#include "core/geometry/surfaces/patch_edit.hpp"
#include "core/steps/surfaces/surface_support.hpp"

namespace plume {
namespace {

SlotSpec share_slot(const char* key, const char* label, const char* preset) {
    SlotSpec spec = number_slot(key, label, preset);
    spec.least = 0;
    spec.most = 1;
    return spec;
}

Result<Value> make(const Inputs& in, const Run& run) {
    const std::pair<const char*, const char*> ends[] = {{"from_u", "to_u"}, {"from_v", "to_v"}};
    for (const auto& [from, to] : ends)
        if (!(in.number(from) < in.number(to)))
            return about_slot(Error{ErrorCode::out_of_range, "", "is not behind where the part begins",
                                    "Type a larger share."},
                              to);
    return each_patch(in, run, Trims::refused, [&](const SplinePatch& patch) -> Result<SplinePatch> {
        SplinePatch part = patch;
        for (const int direction : {0, 1}) {
            const auto& [from, to] = ends[direction];
            const double low = in.number(from), high = in.number(to);
            if (low == 0 && high == 1) continue;
            const SplineBasis& basis = basis_along(part, direction);
            part = part_of(part, direction, std::lerp(basis.start(), basis.end(), low),
                           std::lerp(basis.start(), basis.end(), high));
        }
        return part;
    });
}

}  // namespace

StepKind take_surface_part() {
    return {
        .key = "surface.part",
        .verb = "Take a part of a surface",
        .synonyms = "trim cut segment piece extract u v sub shares",
        .sentence =
            "Take the part of {surface} from {from_u} to {to_u} along u and from {from_v} to {to_v} along v.",
        .slots = {surface_slot(), share_slot("from_u", "From along u", "0"),
                  share_slot("to_u", "To along u", "0.5"), share_slot("from_v", "From along v", "0"),
                  share_slot("to_v", "To along v", "1")},
        .results = {Kind::surface},
        .result_name = "part",
        .help =
            "Exactly the surface between shares of its two parameters, 0 at their start and 1 at their end.",
        .estimate = [](const Inputs& in) { return surface_poles_estimate(in, 160, 1e-6); },
        .make = make,
    };
}

}  // namespace plume

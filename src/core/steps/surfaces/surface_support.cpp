#include "core/steps/surfaces/surface_support.hpp"

#include <algorithm>

namespace plume {

SlotSpec surface_slot() {
    return reference_slot("surface", "Surface", {Kind::surface});
}

Result<SplinePatch> only_patch(const Inputs& in, const std::string& what_is_done) {
    const std::vector<SplinePatch>& patches = in.held<SurfaceSet>("surface").patches;
    if (patches.size() == 1) return patches.front();
    return about_slot(Error{ErrorCode::wrong_kind, "",
                            "has " + std::to_string(patches.size()) + " parts, and " + what_is_done,
                            "Choose a single surface."},
                      "surface");
}

Result<Value> each_patch(const Inputs& in, const Run& run, Trims trims,
                         const std::function<Result<SplinePatch>(const SplinePatch&)>& change) {
    const std::vector<SplinePatch>& patches = in.held<SurfaceSet>("surface").patches;
    if (patches.empty())
        return about_slot(Error{ErrorCode::empty_input, "", "holds no surface", "Choose another."},
                          "surface");
    SurfaceSet changed;
    for (std::size_t number = 0; number < patches.size(); ++number) {
        if (run.cancelled()) return cancelled_error();
        Result<SplinePatch> one =
            trims == Trims::refused && patches[number].trimmed()
                ? Result<SplinePatch>(Error{ErrorCode::unlike_arrangement, "", "is trimmed",
                                            "Change it before it is trimmed."})
                : change(patches[number]);
        if (!one) {
            Error error = one.error();
            if (patches.size() > 1)
                error.message = "has surface " + std::to_string(number) + ", which " + error.message;
            return about_slot(std::move(error), "surface");
        }
        changed.patches.push_back(*std::move(one));
    }
    return Value(std::move(changed));
}

Estimate surface_poles_estimate(const Inputs& in, double bytes_a_pole, double seconds_a_pole) {
    double poles = 0;
    for (const SplinePatch& patch : in.held<SurfaceSet>("surface").patches)
        poles +=
            static_cast<double>(patch.x().size()) * (1 + 0.2 * static_cast<double>(patch.fields().size()));
    return {poles * bytes_a_pole + 1e4, poles * seconds_a_pole + 1e-5};
}

double searched_bays(const std::vector<SplinePatch>& patches) {
    double bays = 0;
    for (const SplinePatch& patch : patches)
        bays += std::max(static_cast<double>(patch.x().size()), 400.0);
    return bays;
}

}  // namespace plume

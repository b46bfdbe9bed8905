#include "core/steps/solids/body_support.hpp"

#include <algorithm>

namespace plume {

SlotSpec bodies_slot(std::string key, std::string label) {
    return reference_slot(std::move(key), std::move(label), {Kind::bodies});
}

SlotSpec density_slot() {
    SlotSpec spec = number_slot("density", "Density", "500");
    spec.least = 0;
    return spec;
}

Result<Value> some_bodies(SolidSet set, const char* slot, const std::string& none) {
    if (set.bodies.empty())
        return about_slot(Error{ErrorCode::empty_input, "", none, "Move it, or choose another."}, slot);
    return Value(std::move(set));
}

void remark_polygons(const SolidSet& set, const Run& run) {
    const auto is_round = [](const SplinePatch& patch) {
        return patch.u().degree > 1 || patch.v().degree > 1 ||
               std::ranges::any_of(patch.trims(),
                                   [](const SplineCurve& trim) { return trim.basis().degree > 1; });
    };
    const bool any = std::ranges::any_of(
        set.bodies, [&](const Body& body) { return std::ranges::any_of(body.patches(), is_round); });
    if (any)
        run.remark("Round faces are polygons here, true to about a twenty thousandth of the body's size.");
}

Estimate bodies_estimate(const Inputs& in, const char* slot, double bytes_a_polygon,
                         double seconds_a_polygon) {
    double polygons = 0;
    for (const Body& body : in.held<SolidSet>(slot).bodies)
        polygons += body.exact() ? static_cast<double>(body_polygons)
                                 : static_cast<double>(body.mesh().corner_count()) / 3;
    return {polygons * bytes_a_polygon, polygons * seconds_a_polygon};
}

Error at_body(Error error, std::size_t number, std::size_t count) {
    if (count > 1) error.message = "has number " + std::to_string(number) + ", which " + error.message;
    return error;
}

}  // namespace plume

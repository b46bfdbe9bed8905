#include "core/steps/moves/axis_slots.hpp"

#include <cmath>

#include "core/geometry/measures/bounds.hpp"

namespace plume {

SlotSpec axis_slot() {
    return choice_slot("axis", "Axis",
                       {{"z", "the Z axis", "upright, through the origin"},
                        {"x", "the X axis", "through the origin"},
                        {"y", "the Y axis", "through the origin"},
                        {"placed", "the up axis", "of a placement: any axis anywhere"}});
}

SlotSpec placement_slot() {
    return reference_slot("placement", "Placement", {Kind::placements});
}

std::vector<SlotSpec> with_axis(std::vector<SlotSpec> slots) {
    slots.push_back(axis_slot());
    slots.push_back(placement_slot());
    return slots;
}

Placement axis_of(const Inputs& in) {
    const std::string& axis = in.word("axis");
    if (axis == "x") return {{}, {0, 1, 0}, {0, 0, 1}, {1, 0, 0}};
    if (axis == "y") return {{}, {0, 0, 1}, {1, 0, 0}, {0, 1, 0}};
    if (axis == "placed") return in.held<Placements>("placement").present_placements().front();
    return {};
}

SlotSpec direction_slot() {
    return choice_slot("direction", "Direction",
                       {{"z", "Z", "upright"},
                        {"x", "X", ""},
                        {"y", "Y", ""},
                        {"placed", "the up axis", "of a placement: any direction"}});
}

std::vector<SlotSpec> with_direction(std::vector<SlotSpec> slots) {
    slots.push_back(direction_slot());
    slots.push_back(placement_slot());
    return slots;
}

Vec3 way_of(const Inputs& in) {
    const std::string& direction = in.word("direction");
    if (direction == "x") return {1, 0, 0};
    if (direction == "y") return {0, 1, 0};
    if (direction == "placed") return in.held<Placements>("placement").present_placements().front().up;
    return {0, 0, 1};
}

Placement plane_across(const Inputs& in) {
    return placement_of({}, way_of(in), {1, 0, 0});
}

double extent_along(const Value& thing, const Inputs& in) {
    const Vec3 size = bounds_of(thing).size(), way = way_of(in);
    return std::abs(size.x * way.x) + std::abs(size.y * way.y) + std::abs(size.z * way.z);
}

SlotSpec thing_slot() {
    return reference_slot("thing", "Thing", movable_kinds());
}

std::vector<SlotSpec> with_vector(std::vector<SlotSpec> slots, std::string x, std::string y, std::string z) {
    slots.push_back(length_slot("x", "Along X", std::move(x)));
    slots.push_back(length_slot("y", "Along Y", std::move(y)));
    slots.push_back(length_slot("z", "Along Z", std::move(z)));
    return slots;
}

Vec3 vector_of(const Inputs& in) {
    return {in.number("x"), in.number("y"), in.number("z")};
}

Result<SplineCurve> single_curve(const Inputs& in, const std::string& slot) {
    const CurveSet& set = in.held<CurveSet>(slot);
    if (set.curves.size() == 1) return set.curves.front();
    return about_slot(Error{ErrorCode::wrong_kind, "",
                            "holds " + std::to_string(set.curves.size()) + " curves, and one is wanted",
                            "Choose a single curve."},
                      "curve");
}

Result<Value> moved_thing(const Inputs& in, const Affine& map) {
    return transformed(in.value("thing"), map);
}

Estimate moved_estimate(const Inputs& in) {
    const auto bytes = static_cast<double>(bytes_of(in.value("thing")));
    return {bytes * 1.5, bytes * 1e-9};
}

}  // namespace plume

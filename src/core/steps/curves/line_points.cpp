#include "core/steps/curves/line_points.hpp"

#include <algorithm>
#include <cmath>

#include "core/geometry/curves/curve_division.hpp"
#include "core/geometry/curves/curve_rebuild.hpp"

namespace plume {
namespace {

Result<std::size_t> bays_of(const SplineCurve& curve, double length, const EvenSlots& slots,
                            const Inputs& in) {
    const std::size_t least = curve.closed() ? 3 : 1;
    if (slots.by_bays) return std::max(in.count("bays"), least);
    const double bays = std::round(length / in.number(slots.step));
    if (bays > most_bays)
        return about_slot(Error{ErrorCode::over_budget, "", "would give more than a million points",
                                "Type a larger spacing."},
                          slots.step);
    return std::max(static_cast<std::size_t>(bays), least);
}

}  // namespace

SlotSpec bays_slot() {
    SlotSpec bays = count_slot("bays", "Bays", "24", 1);
    bays.most = most_bays;
    return bays;
}

SlotSpec step_slot(std::string key) {
    return length_above_zero_slot(std::move(key), "Spacing", "1 m");
}

SlotSpec shape_slot() {
    return choice_slot("shape", "Shape",
                       {{"smooth", "a smooth curve", "a cubic spline through the points"},
                        {"straight", "straight lines", "a polyline"}});
}

SlotSpec corner_slot() {
    SlotSpec corner = angle_slot("corner", "Corners kept", "30°");
    corner.least = 0;
    return corner;
}

std::vector<SlotSpec> with_line_points(std::vector<SlotSpec> slots) {
    slots.push_back(choice_slot("points", "Points",
                                {{"exact", "as they are", "as many points as they need to be true"},
                                 {"true", "true to", "no further than a distance from where they belong"},
                                 {"bays", "evened into", "so many bays of the same length each"},
                                 {"spacing", "evened about every", "the nearest length that goes in evenly"},
                                 {"thinned", "thinned to", "as few points as keep within a distance"}}));
    slots.push_back(length_above_zero_slot("true_to", "Tolerance", "0.01 mm"));
    slots.push_back(bays_slot());
    slots.push_back(step_slot("step"));
    slots.push_back(length_above_zero_slot("within", "Distance", "5 mm"));
    slots.push_back(shape_slot());
    slots.push_back(corner_slot());
    return slots;
}

Result<SplineCurve> evened(const SplineCurve& curve, const EvenSlots& slots, const Inputs& in, const Run& run,
                           double& deviation) {
    const CurveLength measure(curve);
    const auto bays = bays_of(curve, measure.total(), slots, in);
    if (!bays) return bays.error();
    const CurveShape shape = in.word("shape") == "straight" ? CurveShape::straight : CurveShape::smooth;
    const auto rebuilt = rebuilt_evenly(curve, measure, *bays, shape, in.number("corner"), run);
    if (!rebuilt) return rebuilt.error();
    deviation = std::max(deviation, rebuilt->deviation);
    return rebuilt->curve;
}

Result<SplineCurve> with_wished_points(const SplineCurve& line, const Inputs& in, const Run& run,
                                       double& deviation) {
    const std::string& points = in.word("points");
    if (points == "exact" || points == "true") return line;
    if (points != "thinned") return evened(line, {points == "bays", "step"}, in, run, deviation);
    const auto thinned = simplified(line, in.number("within"), run);
    if (!thinned) return thinned.error();
    deviation = std::max(deviation, thinned->deviation);
    return thinned->curve;
}

}  // namespace plume

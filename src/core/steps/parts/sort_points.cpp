#include <algorithm>

#include "core/geometry/parts/point_order.hpp"
#include "core/study/step_kind.hpp"

namespace plume {
namespace {

Column along(const PointLattice& points, Vec3 direction) {
    Doubles values(points.address_count());
    for (std::size_t index = 0; index < values.size(); ++index)
        values[index] = dot(points.point(index), direction);
    return values;
}

Result<std::vector<std::size_t>> order_of(const Inputs& in, const Run& run) {
    const PointLattice& points = in.lattice("points");
    const std::string& by = in.word("by");
    if (by == "walk") return nearest_walk(points, run);
    if (by == "order") return by_number(points, Doubles(points.address_count(), 0.0));
    if (by == "numbers") {
        const FieldOnPoints& numbers = in.field("numbers");
        if (!points.same_arrangement(numbers.points))
            return about_slot(Error{ErrorCode::unlike_arrangement, "‘" + numbers.name + "’",
                                    "stands on " + arrangement_text(numbers.points),
                                    "Measure the numbers on the points you sort."},
                              "numbers");
        return by_number(points, numbers.field().values);
    }
    const Vec3 direction = by == "x" ? Vec3{1, 0, 0} : (by == "y" ? Vec3{0, 1, 0} : Vec3{0, 0, 1});
    return by_number(points, along(points, direction));
}

Result<Value> make(const Inputs& in, const Run& run) {
    Result<std::vector<std::size_t>> order = order_of(in, run);
    if (!order) return order.error();
    if (order->empty())
        return about_slot(
            Error{ErrorCode::empty_input, "", "have no finite coordinates", "Choose other points."},
            "points");
    if (in.word("sense") == "falling") std::ranges::reverse(*order);
    return Value(row_of(in.lattice("points"), *order));
}

}  // namespace

StepKind sort_points() {
    return {
        .key = "points.sort",
        .verb = "Sort points",
        .synonyms = "order reverse arrange nearest walk tour along axis flip",
        .sentence = "Sort {points} {by}[by=numbers| {numbers}], {sense}.",
        .slots = {reference_slot("points", "Points", {Kind::points, Kind::field}),
                  choice_slot("by", "By",
                              {{"numbers", "by", "numbers on them"},
                               {"x", "along X", ""},
                               {"y", "along Y", ""},
                               {"z", "along Z", ""},
                               {"walk", "by a walk from one to the nearest", "from the first point on"},
                               {"order", "in their own order", "to reverse it"}}),
                  reference_slot("numbers", "Numbers", {Kind::field}),
                  choice_slot("sense", "Sense",
                              {{"rising", "first to last", ""}, {"falling", "last to first", "reversed"}})},
        .results = {Kind::points},
        .result_name = "sorted",
        .help =
            "Points as a row in another order: by a number, along an axis, by walking to the nearest, or "
            "reversed.",
        .estimate =
            [](const Inputs& in) {
                const auto points = static_cast<double>(in.lattice("points").address_count());
                return Estimate{points * 120, points * (in.word("by") == "walk" ? 3e-6 : 2e-7)};
            },
        .make = make,
    };
}

}  // namespace plume

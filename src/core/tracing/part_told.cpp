#include "core/tracing/part_told.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/rounding.hpp"
#include "core/data/place_text.hpp"
#include "core/geometry/curves/curve_nodes.hpp"
#include "core/geometry/surfaces/surface_nodes.hpp"
#include "core/study/told_number.hpp"
#include "core/tracing/part_places.hpp"

namespace plume {
namespace {

using Numbers = std::vector<std::pair<std::string, Quantity>>;

// `size`: of the numbers it came of, whose rounding is not told.
std::string place_told(Vec3 place, double size, const Units& units) {
    return place_text(place, size, units, told_digits);
}

Numbers numbers_among(std::span<const Field> fields, std::size_t number) {
    Numbers numbers;
    for (const Field& field : fields)
        numbers.emplace_back(field.name, Quantity{field.values[number], field.dimension});
    return numbers;
}

// Of a point that splines were made through.
Numbers numbers_there(const std::vector<Field>& fields, const std::vector<double>& there) {
    Numbers numbers;
    for (std::size_t field = 0; field < there.size(); ++field) {
        double largest = 0;
        for (const double pole : fields[field].values.span())
            largest = std::max(largest, std::abs(pole));
        numbers.emplace_back(fields[field].name,
                             Quantity{without_rounding(there[field], largest), fields[field].dimension});
    }
    return numbers;
}

Numbers numbers_of_vertex(const Value& value, std::size_t number) {
    if (const auto* set = std::get_if<SurfaceSet>(&value)) {
        const SurfaceNode node = node_at(*set, number);
        return numbers_there(set->patches[node.patch].fields(), fields_at(*set, node));
    }
    if (const auto* set = std::get_if<CurveSet>(&value)) {
        const CurveNode node = node_at(*set, number);
        return numbers_there(set->curves[node.curve].fields(), fields_at(*set, node));
    }
    return numbers_among(std::get<Mesh>(value).fields(), number);
}

// A spline has the numbers it was made through but for rounding.
bool same_number(double a, double b) {
    return a == b || (std::isnan(a) && std::isnan(b)) ||
           without_rounding(a - b, 100 * std::max(std::abs(a), std::abs(b))) == 0;
}

bool among(const Numbers& numbers, const std::pair<std::string, Quantity>& wanted) {
    return std::ranges::any_of(numbers, [&](const auto& number) {
        return number.first == wanted.first && same_number(number.second.value, wanted.second.value);
    });
}

// Of what stands at one place, and of what begins and ends at one: that, where it is new, and how far it is
// from where it came from.
std::vector<std::string> place_lines(const Value& value, PartRef part,
                                     const std::vector<EarlierPart>& earlier, const Units& units) {
    const std::vector<Vec3> places = places_of(value, part);
    if (places.size() == 2) {
        const bool known = std::ranges::any_of(
            earlier, [&](const EarlierPart& each) { return places_of(each.value, each.part) == places; });
        if (known) return {};
        const double size = std::max(length(places[0]), length(places[1]));
        return {"from " + place_told(places[0], size, units) + " to " + place_told(places[1], size, units)};
    }
    if (places.size() != 1) return {};
    std::vector<Vec3> before;
    for (const EarlierPart& each : earlier)
        if (const auto were = places_of(each.value, each.part);
            were.size() == 1 && std::ranges::find(before, were[0]) == before.end())
            before.push_back(were[0]);
    const double rounding = rounding_within(value, part);
    if (std::ranges::any_of(before, [&](Vec3 were) { return length(were - places[0]) <= rounding; }))
        return {};
    const double size = length(places[0]);
    const bool curve = std::holds_alternative<CurveSet>(value) && part.sort == PartSort::item;
    const std::string at = (curve ? "begins at " : "at ") + place_told(places[0], size, units);
    if (before.size() != 1) return {at};
    return {at + ", moved by " + place_told(places[0] - before[0], std::max(size, length(before[0])), units)};
}

}  // namespace

Numbers numbers_of(const Value& value, PartRef part) {
    if (part.sort == PartSort::face) return numbers_among(std::get<Mesh>(value).face_fields(), part.number);
    if (part.sort == PartSort::vertex) return numbers_of_vertex(value, part.number);
    const Items items = items_of(value);
    return numbers_of(pointed_at(items, part.number));
}

Numbers numbers_of(const PointedAt& item) {
    const auto& [sort, number] = item;
    auto numbers = numbers_among(sort.fields, number);
    if (sort.figures)
        for (auto& figure : sort.figures(number))
            numbers.push_back(std::move(figure));
    return numbers;
}

std::vector<std::string> told_of_part(const Value& value, PartRef part,
                                      const std::vector<EarlierPart>& earlier, const Units& units) {
    std::vector<std::string> lines = place_lines(value, part, earlier, units);
    Numbers before;
    for (const EarlierPart& each : earlier)
        for (auto& number : numbers_of(each.value, each.part))
            before.push_back(std::move(number));
    for (const auto& number : numbers_of(value, part))
        if (!among(before, number)) lines.push_back(number.first + ' ' + told_number(number.second, units));
    if (part.sort != PartSort::item) return lines;
    const Items items = items_of(value);
    const auto& [sort, number] = pointed_at(items, part.number);
    if (sort.why) {
        const auto why = sort.why(number);
        lines.insert(lines.end(), why.begin(), why.end());
    }
    return lines;
}

}  // namespace plume

#include "core/results/numbers_along.hpp"

#include <algorithm>
#include <optional>

namespace plume {
namespace {

std::optional<double> number_along(const SplineCurve& curve, const std::string& name) {
    const auto field = std::ranges::find(curve.fields(), name, &Field::name);
    if (field == curve.fields().end()) return {};
    const auto [least, most] = std::ranges::minmax(field->values.span());
    return least == most ? std::optional(least) : std::nullopt;
}

}  // namespace

std::vector<Field> numbers_along(const std::vector<SplineCurve>& curves) {
    std::vector<Field> fields;
    if (curves.empty()) return fields;
    for (const Field& field : curves.front().fields()) {
        Doubles numbers;
        for (const SplineCurve& curve : curves) {
            const auto number = number_along(curve, field.name);
            if (!number) break;
            numbers.push_back(*number);
        }
        if (numbers.size() == curves.size())
            fields.push_back({field.name, std::move(numbers), field.dimension});
    }
    return fields;
}

}  // namespace plume

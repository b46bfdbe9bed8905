#include "core/steps/frames/family_support.hpp"

#include <algorithm>
#include <cmath>
#include <limits>

#include "core/base/text.hpp"

namespace plume {

std::vector<double> tolerances_up_to(double most, double present) {
    constexpr int steps = 40;
    constexpr double least_share = 1e-4;
    std::vector<double> tolerances;
    if (!(most > 0)) return tolerances;
    for (int at = 0; at <= steps; ++at)
        tolerances.push_back(most * std::pow(least_share, 1 - static_cast<double>(at) / steps));
    if (present > tolerances.front() && present < tolerances.back())
        tolerances.insert(std::ranges::lower_bound(tolerances, present), present);
    return tolerances;
}

void say_families(const Families& families, double tolerance, const Run& run) {
    std::vector<std::size_t> sizes(families.count, 0);
    for (const std::uint32_t family : families.family)
        if (family != no_family) ++sizes[family];
    const std::size_t largest = sizes.empty() ? 0 : *std::ranges::max_element(sizes);
    run.remark(count_text(families.count, "family", "families") + ", the largest of " +
               std::to_string(largest) + ".");
    if (tolerance == 0)
        run.remark("At a tolerance of 0 rounding tells apart what is meant to be alike: type a little more.");
}

Column family_numbers(const Families& families) {
    Doubles numbers(families.family.size());
    for (std::size_t item = 0; item < numbers.size(); ++item)
        numbers[item] = families.family[item] == no_family ? std::numeric_limits<double>::quiet_NaN()
                                                           : static_cast<double>(families.family[item]);
    return numbers;
}

Result<FamilyCounts> counts_of(const ShapeRows& shapes, double most, Quantity tolerance, const Run& run) {
    constexpr std::size_t most_shapes = 5'000;
    if (shapes.rows.size() > most_shapes)
        return Error{ErrorCode::over_budget, "", "are too many to be grouped again and again", ""};
    FamilyCounts made{tolerances_up_to(most, tolerance.value), {}, tolerance.dimension, tolerance.value};
    for (const double other : made.tolerances) {
        const auto families = families_of(shapes, other, run);
        if (!families) return families.error();
        made.counts.push_back(families->count);
    }
    return made;
}

}  // namespace plume

#include "core/measure/statistics.hpp"

#include <algorithm>
#include <cmath>
#include <numeric>

#include "core/base/sum.hpp"

namespace plume {
namespace {

// Middle of the sorted numbers, mean of the two middle ones for an even count; reorders `values`.
double median_of(std::vector<double>& values) {
    const auto middle = values.begin() + static_cast<std::ptrdiff_t>(values.size() / 2);
    std::nth_element(values.begin(), middle, values.end());
    if (values.size() % 2 == 1) return *middle;
    return std::midpoint(*middle, *std::max_element(values.begin(), middle));
}

std::vector<std::size_t> histogram_of(const std::vector<double>& values, double least, double most,
                                      std::size_t bins) {
    const double width = most - least;
    if (!(width > 0) || !std::isfinite(width)) return {values.size()};
    std::vector<std::size_t> histogram(bins, 0);
    for (const double value : values) {
        const auto bin = static_cast<std::size_t>((value - least) / width * static_cast<double>(bins));
        ++histogram[std::min(bin, bins - 1)];
    }
    return histogram;
}

}  // namespace

Statistics statistics_of(const PointLattice& lattice, const Column& values, std::size_t bins) {
    Statistics figures;
    std::vector<double> finite;
    finite.reserve(values.size());
    for (std::size_t index = 0; index < values.size(); ++index) {
        if (!lattice.present(index)) continue;
        ++figures.count;
        if (std::isfinite(values[index])) {
            finite.push_back(values[index]);
        } else {
            ++figures.not_finite;
            if (!figures.first_not_finite) figures.first_not_finite = lattice.address(index);
        }
    }
    if (finite.empty()) return figures;
    Sum sum;
    for (const double value : finite)
        sum.add(value);
    const auto [low, high] = std::ranges::minmax(finite);
    figures.least = low;
    figures.most = high;
    figures.sum = sum.value();
    figures.mean = figures.sum / static_cast<double>(finite.size());
    figures.histogram = histogram_of(finite, figures.least, figures.most, bins);
    figures.median = median_of(finite);
    return figures;
}

}  // namespace plume

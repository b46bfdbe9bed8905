#include "core/measure/statistics.hpp"

#include <algorithm>
#include <cmath>

#include "core/support.hpp"

namespace plume {
namespace {

TEST(Statistics, FiguresOfAShortList) {
    const Statistics figures = statistics_of(test::grid(6, 1), Doubles{4, 1, 3, 2, NAN, INFINITY}, 3);
    EXPECT_EQ(figures.count, 6U);
    EXPECT_EQ(figures.not_finite, 2U);
    EXPECT_EQ(figures.first_not_finite, (Address{4, 0, 0}));
    EXPECT_EQ(figures.least, 1);
    EXPECT_EQ(figures.most, 4);
    EXPECT_DOUBLE_EQ(figures.mean, 2.5);
    EXPECT_DOUBLE_EQ(figures.median, 2.5);
    EXPECT_EQ(figures.histogram, (std::vector<std::size_t>{1, 1, 2})) << "the last bin holds its upper end";
}

TEST(Statistics, OddCountAndEqualNumbers) {
    EXPECT_EQ(statistics_of(test::grid(3, 1), Doubles{9, 1, 5}, 4).median, 5);
    const Statistics equal = statistics_of(test::grid(3, 1), Doubles{2, 2, 2}, 4);
    EXPECT_EQ(equal.histogram, std::vector<std::size_t>{3});
    EXPECT_EQ(equal.median, 2);
}

TEST(Statistics, NothingFinite) {
    const Statistics figures = statistics_of(test::grid(2, 1), Doubles{NAN, NAN}, 4);
    EXPECT_EQ(figures.not_finite, 2U);
    EXPECT_TRUE(figures.histogram.empty());
}

TEST(Statistics, HistogramCountsEveryFiniteNumber) {
    Doubles values(10'000);
    for (std::size_t index = 0; index < values.size(); ++index)
        values[index] = std::sin(static_cast<double>(index));
    // Counted the plain way.
    const auto [least, most] = std::minmax_element(values.begin(), values.end());
    std::vector<std::size_t> expected(24, 0);
    for (const double value : values)
        ++expected[std::min<std::size_t>(23,
                                         static_cast<std::size_t>((value - *least) / (*most - *least) * 24))];
    const Statistics figures = statistics_of(test::grid(100, 100), std::move(values), 24);
    EXPECT_EQ(figures.histogram, expected);
    EXPECT_NEAR(figures.mean, 0, 1e-3);
}

// Most of them close together, some far away, against sorting them all.
TEST(Statistics, TheMedianOfManyNumbers) {
    for (const std::size_t count : {20'000U, 20'001U}) {
        Doubles values(count);
        for (std::size_t index = 0; index < count; ++index) {
            values[index] = std::pow(std::sin(static_cast<double>(index)), 9);
            if (index % 1000 == 7) values[index] *= 1e6;
        }
        values[5] = values[count - 1] = NAN;
        std::vector<double> sorted(values.begin(), values.end());
        std::erase_if(sorted, [](double value) { return std::isnan(value); });
        std::ranges::sort(sorted);
        const std::size_t n = sorted.size();
        const double expected =
            n % 2 == 1 ? sorted[n / 2] : sorted[n / 2 - 1] + (sorted[n / 2] - sorted[n / 2 - 1]) / 2;
        const Statistics figures = statistics_of(test::grid(count, 1), std::move(values), 24);
        EXPECT_DOUBLE_EQ(figures.median, expected);
        EXPECT_EQ(figures.count, count);
        EXPECT_EQ(figures.not_finite, 2U);
        EXPECT_EQ(figures.first_not_finite, (Address{5, 0, 0}));
        EXPECT_EQ(figures.least, sorted.front());
        EXPECT_EQ(figures.most, sorted.back());
    }
}

TEST(Statistics, GapsDoNotCount) {
    for (const auto& [name, lattice] : test::pathological())
        EXPECT_EQ(statistics_of(lattice, lattice.x(), 4).count, lattice.point_count()) << name;
}

}  // namespace
}  // namespace plume

#include "core/geometry/numbers/distance.hpp"

#include <cmath>
#include <limits>
#include <numbers>

#include "core/support.hpp"

namespace plume {
namespace {

using test::grid;

const Response all_responses[] = {Response::distance,    Response::straight, Response::half_sine,
                                  Response::smooth_step, Response::inverse,  Response::inverse_square,
                                  Response::bell,        Response::sine_hump};

double answer(Response response, double distance, double reach) {
    respond(response, reach, {&distance, 1});
    return distance;
}

// The definitions of response.hpp, written the plain way.
double plain_answer(Response response, double d, double reach) {
    const double t = d / reach, limited = std::min(t, 1.0);
    switch (response) {
        case Response::distance:
            return d;
        case Response::straight:
            return limited;
        case Response::half_sine:
            return 0.5 - 0.5 * std::cos(std::numbers::pi * limited);
        case Response::smooth_step:
            return 3 * limited * limited - 2 * limited * limited * limited;
        case Response::inverse:
            return 1 / (1 + t);
        case Response::inverse_square:
            return 1 / (1 + t * t);
        case Response::bell:
            return std::exp(-0.5 * 9 * t * t);
        case Response::sine_hump:
            return std::sin(std::numbers::pi * limited);
        case Response::waves:
        case Response::drawn:
            break;  // response_curve_test.cpp
    }
    return 0;
}

TEST(Response, MatchesItsDefinition) {
    for (const Response response : all_responses)
        for (double d = 0; d < 30; d += 0.037)
            EXPECT_NEAR(answer(response, d, 12), plain_answer(response, d, 12), 4e-16 * (1 + d))
                << static_cast<int>(response) << " at " << d;
}

TEST(Response, KnownPlaces) {
    EXPECT_DOUBLE_EQ(answer(Response::half_sine, 6, 12), 0.5);
    EXPECT_DOUBLE_EQ(answer(Response::half_sine, 12, 12), 1);
    EXPECT_EQ(answer(Response::half_sine, 0, 12), 0);
    EXPECT_DOUBLE_EQ(answer(Response::inverse, 12, 12), 0.5);
    EXPECT_DOUBLE_EQ(answer(Response::inverse_square, 12, 12), 0.5);
    EXPECT_DOUBLE_EQ(answer(Response::bell, 4, 12), std::exp(-0.5));
    EXPECT_DOUBLE_EQ(answer(Response::straight, 3, 12), 0.25);
}

TEST(Response, WavesRunBetweenTheirEnds) {
    const auto wave = [](double t, double periods, double phase, Swell swell) {
        Shaping shaping(Response::waves);
        shaping.waves = {periods, phase, swell};
        respond(shaping, 1, {&t, 1});
        return t;
    };
    EXPECT_NEAR(wave(0, 3, 0, Swell::even), 0, 1e-15) << "from a trough on";
    EXPECT_NEAR(wave(1.0 / 6, 3, 0, Swell::even), 1, 1e-15);
    EXPECT_NEAR(wave(1.0 / 12, 3, 0, Swell::even), 0.5, 1e-15);
    EXPECT_NEAR(wave(0, 3, std::numbers::pi, Swell::even), 1, 1e-15) << "half a turn on, from a crest";
    EXPECT_NEAR(wave(1, 2.5, 0, Swell::even), 1, 1e-15);
    EXPECT_NEAR(wave(7, 2.5, 0, Swell::even), 1, 1e-15) << "held beyond its end";
    EXPECT_NEAR(wave(0, 3, 0, Swell::growing), 0.5, 1e-15) << "flat at first";
    EXPECT_NEAR(wave(0.5, 3, 0, Swell::growing), 0.75, 1e-15) << "half as high half way: a crest";
    EXPECT_NEAR(wave(0.5, 3, 0, Swell::fading), 0.75, 1e-15);
    EXPECT_NEAR(wave(1, 3, 0, Swell::fading), 0.5, 1e-15) << "flat at the end";
    EXPECT_NEAR(wave(1.0 / 3, 3, 0, Swell::fading), 0.5 - 1.0 / 3, 1e-15);
    for (double t = 0; t < 1.2; t += 0.01)
        for (const Swell swell : {Swell::even, Swell::growing, Swell::fading}) {
            EXPECT_GE(wave(t, 7.3, 1, swell), -1e-15);
            EXPECT_LE(wave(t, 7.3, 1, swell), 1 + 1e-15);
        }
}

TEST(Response, TheHumpRisesAndReturns) {
    EXPECT_EQ(answer(Response::sine_hump, 0, 12), 0);
    EXPECT_DOUBLE_EQ(answer(Response::sine_hump, 6, 12), 1);
    EXPECT_NEAR(answer(Response::sine_hump, 2, 12), 0.5, 1e-15);
    EXPECT_NEAR(answer(Response::sine_hump, 10, 12), 0.5, 1e-15);
    EXPECT_EQ(answer(Response::sine_hump, 12, 12), 0);
    EXPECT_EQ(answer(Response::sine_hump, 40, 12), 0);
}

TEST(Response, DrawingGoesOnFromAnyShape) {
    for (const Response response :
         {Response::straight, Response::half_sine, Response::smooth_step, Response::inverse, Response::bell,
          Response::sine_hump, Response::waves}) {
        const Shaping shaping(response);
        const auto knots = knots_like(shaping);
        const auto curve = ResponseCurve::make(knots);
        ASSERT_TRUE(curve) << static_cast<int>(response);
        const std::vector<double> shape = shape_of(shaping, 101);
        for (std::size_t at = 0; at <= 100; ++at)
            EXPECT_NEAR((*curve)(static_cast<double>(at) / 100), shape[at], 0.06)
                << static_cast<int>(response);
    }
}

TEST(Response, StaysFiniteOnAnAttractorAndFarAway) {
    for (const Response response : all_responses) {
        EXPECT_TRUE(std::isfinite(answer(response, 0, 1e-9)));
        EXPECT_TRUE(std::isfinite(answer(response, 1.8e12, 1e-9)));
    }
}

Field measured(const PointLattice& points, std::vector<Attractor> items, const DistanceRule& rule) {
    return *distance_field(points, *Attractors::make(std::move(items)), rule, plume::Run());
}

TEST(Distance, NearestOfTwo) {
    const Field field = measured(grid(5, 1), {{"a", {0, 3, 0}, 1}, {"b", {4, 0, 0}, 1}}, {});
    const double expected[] = {3, 3, 2, 1, 0};  // sqrt(10) at i = 1 is more than 3
    for (std::size_t i = 0; i < 5; ++i)
        EXPECT_DOUBLE_EQ(field.values[i], expected[i]) << i;
    EXPECT_EQ(field.dimension, a_length);
}

TEST(Distance, WeightsAndCombinationsByHand) {
    // One point at the origin; distances 3 and 4.
    const std::vector<Attractor> two{{"a", {3, 0, 0}, 1}, {"b", {0, 4, 0}, 2}};
    const auto one = [&](Combination combination) {
        return measured(grid(1, 1), two, {combination, Response::distance, 1});
    };
    EXPECT_DOUBLE_EQ(one(Combination::nearest).values[0], 2) << "4 over the weight 2";
    EXPECT_DOUBLE_EQ(one(Combination::average).values[0], (3 + 2 * 4) / 3.0);
    EXPECT_DOUBLE_EQ(one(Combination::sum).values[0], 3 + 2 * 4);
    EXPECT_DOUBLE_EQ(one(Combination::product).values[0], 3 * 16);
    EXPECT_EQ(one(Combination::product).dimension, (Dimension{3, 0}));
    EXPECT_EQ(measured(grid(1, 1), two, {Combination::sum, Response::bell, 5}).dimension, plain_number);
}

// The fast chunked loops against a plain loop over every pathological lattice.
TEST(Distance, MatchesAPlainLoopEverywhere) {
    const std::vector<Attractor> items{{"a", {1, 2, 0.5}, 1}, {"b", {2, 2, 0}, 1.5}, {"c", {1, 1, 1}, 0.3}};
    for (const auto& [name, lattice] : test::pathological())
        for (const Response response : all_responses) {
            const Field sum = measured(lattice, items, {Combination::sum, response, 2.5});
            const Field nearest = measured(lattice, items, {Combination::nearest, response, 2.5});
            for (std::size_t index = 0; index < lattice.address_count(); ++index) {
                double total = 0, least = 1e300;
                for (const Attractor& item : items) {
                    const double d = length(lattice.point(index) - item.position);
                    total += item.weight * plain_answer(response, d, 2.5);
                    least = std::min(least, d / item.weight);
                }
                EXPECT_NEAR(sum.values[index], total, 1e-14 * (1 + std::abs(total))) << name;
                EXPECT_NEAR(nearest.values[index], plain_answer(response, least, 2.5), 1e-14 * (1 + least))
                    << name;
            }
        }
}

TEST(Distance, SameOverManyBlocksAsPointByPoint) {
    const PointLattice large = grid(301, 211, [](double i, double j) { return std::sin(i) * j; });
    const std::vector<Attractor> items{{"a", {100, 50, 3}, 1}};
    const Field field = measured(large, items, {Combination::nearest, Response::half_sine, 80});
    for (std::size_t index = 0; index < large.address_count(); index += 97) {
        const PointLattice single = *PointLattice::make({Arrangement::grid,
                                                         {1, 1, 1},
                                                         {},
                                                         Doubles{large.x()[index]},
                                                         Doubles{large.y()[index]},
                                                         Doubles{large.z()[index]},
                                                         {},
                                                         {}});
        EXPECT_EQ(field.values[index],
                  measured(single, items, {Combination::nearest, Response::half_sine, 80}).values[0]);
    }
}

TEST(Distance, CanBeCancelled) {
    const plume::Run run;
    run.cancel();
    EXPECT_EQ(distance_field(grid(300, 300), *Attractors::make({{"a", {}, 1}}), {}, run).error().code,
              ErrorCode::cancelled);
}

// Many attractors are found by a tree where they are alike, one after the other where they are not.
TEST(Distance, ManyAttractorsAreAsFewAreMeasured) {
    const PointLattice points = grid(12, 9);
    for (const double weight : {1.0, 0.25, 3.0})
        for (const bool alike : {true, false}) {
            std::vector<Attractor> items;
            for (int at = 0; at < 150; ++at)
                items.push_back(
                    {"a", {std::fmod(at * 1.7, 11.0), std::fmod(at * 2.3, 8.0), 0.01 * at}, weight});
            if (!alike) items.back().weight = 2 * weight;
            const Field field = *distance_field(points, *Attractors::make(items), {}, plume::Run());
            for (std::size_t index = 0; index < points.address_count(); ++index) {
                double least = std::numeric_limits<double>::infinity();
                for (const Attractor& item : items)
                    least = std::min(least, length(points.point(index) - item.position) / item.weight);
                EXPECT_NEAR(field.values[index], least, 1e-14 * (1 + least)) << weight << ' ' << alike;
            }
        }
}

}  // namespace
}  // namespace plume

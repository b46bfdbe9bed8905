// Distances to curves, directions, responses, combining, smoothing, chance and noise.

#include <cmath>
#include <map>
#include <numbers>

#include "core/base/noise.hpp"
#include "core/geometry/curves/segment_tree.hpp"
#include "core/geometry/measures/bounds.hpp"
#include "core/geometry/numbers/direction_field.hpp"
#include "core/geometry/numbers/distance.hpp"
#include "core/geometry/numbers/field_arithmetic.hpp"
#include "core/geometry/numbers/noise_field.hpp"
#include "core/geometry/numbers/random_field.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

using test::grid;
using test::StudyMaker;

std::vector<Vec3> winding(std::size_t count) {
    std::vector<Vec3> corners;
    for (std::size_t at = 0; at < count; ++at) {
        const double t = static_cast<double>(at) * 0.05;
        corners.push_back({10 + t * std::cos(t), 8 + t * std::sin(t), std::sin(3 * t)});
    }
    return corners;
}

double plain_distance(const std::vector<Vec3>& corners, Vec3 point) {
    double least = 1e300;
    for (std::size_t at = 1; at < corners.size(); ++at) {
        const Vec3 along = corners[at] - corners[at - 1];
        const double square = dot(along, along);
        const double share =
            square > 0 ? std::clamp(dot(point - corners[at - 1], along) / square, 0.0, 1.0) : 0;
        least = std::min(least, length(point - (corners[at - 1] + along * share)));
    }
    return least;
}

TEST(SegmentTree, FindsWhatAPlainLoopFinds) {
    for (const std::size_t count : {2UL, 3UL, 17UL, 400UL}) {
        const auto corners = winding(count);
        const SegmentTree tree(corners);
        std::size_t guess = 0;
        for (int at = 0; at < 500; ++at) {
            const Vec3 point{std::fmod(at * 7.31, 25.0), std::fmod(at * 3.77, 20.0),
                             std::fmod(at * 1.3, 5.0) - 2};
            const NearestPlace found = tree.nearest(point, guess);
            EXPECT_NEAR(found.distance, plain_distance(corners, point), 1e-12);
            EXPECT_NEAR(length(found.place - point), found.distance, 1e-12);
            guess = found.segment;
        }
    }
    const SegmentTree dot_alone({{1, 1, 1}, {1, 1, 1}});
    EXPECT_DOUBLE_EQ(dot_alone.nearest({1, 1, 4}).distance, 3);
}

Attractor path(std::vector<Vec3> corners, double weight = 1) {
    const Vec3 first = corners.front();
    return {"path", first, weight, std::make_shared<const std::vector<Vec3>>(std::move(corners))};
}

TEST(Distance, PathsAndPointsTogether) {
    const PointLattice points = grid(40, 30);
    const auto corners = winding(300);
    const Attractors items = *Attractors::make({path(corners), {"p", {30, 25, 0}, 1}});
    const Field field = *distance_field(points, items, {}, plume::Run());
    for (std::size_t index = 0; index < points.address_count(); index += 7)
        EXPECT_NEAR(field.values[index],
                    std::min(plain_distance(corners, points.point(index)),
                             length(points.point(index) - Vec3{30, 25, 0})),
                    1e-12);
}

TEST(Distance, NegativeWeightsTurnTheAnswerRound) {
    const auto one = [](Combination combination) {
        const Attractors items = *Attractors::make({{"a", {3, 0, 0}, 1}, {"b", {0, 4, 0}, -2}});
        return (*distance_field(grid(1, 1), items, {combination, Response::distance, 1}, plume::Run()))
            .values[0];
    };
    EXPECT_DOUBLE_EQ(one(Combination::nearest), -2) << "4 over 2, of the one that repels";
    EXPECT_DOUBLE_EQ(one(Combination::sum), 3 - 8);
    EXPECT_DOUBLE_EQ(one(Combination::average), (3 - 8) / 3.0);
    EXPECT_EQ(Attractors::make({{"a", {}, 0}}).error().code, ErrorCode::out_of_range);
    EXPECT_EQ(Attractors::make({{"a", {NAN, 0, 0}, 1}}).error().code, ErrorCode::not_finite);
}

TEST(Distance, AttractorsOnPointsAndOnEachOther) {
    const Attractors items =
        *Attractors::make({{"a", {1, 1, 0}, 1}, {"b", {1, 1, 0}, 1}, path({{2, 2, 0}, {2, 2, 0}})});
    for (const Response response :
         {Response::distance, Response::inverse, Response::inverse_square, Response::bell})
        for (const Combination combination :
             {Combination::nearest, Combination::average, Combination::sum, Combination::product}) {
            const Field field = *distance_field(grid(4, 4), items, {combination, response, 2}, plume::Run());
            for (std::size_t index = 0; index < 16; ++index)
                EXPECT_TRUE(std::isfinite(field.values[index]));
        }
    const auto flow = *direction_field(grid(4, 4), items, {}, plume::Run());
    for (std::size_t index = 0; index < 16; ++index)
        EXPECT_TRUE(std::isfinite(flow.x[index]) && std::isfinite(flow.y[index]));
}

TEST(Distance, CurvesAndPointsOfTheStudyAttract) {
    StudyMaker maker;
    maker.add("lattice.rectangular", "grid");
    maker.add("outline.shape", "ring");
    maker.word("ring", "shape", "circle").number("ring", "radius", "5 m");
    maker.add("attractors.result", "edge");
    maker.set("edge", "source", ResultName{"ring"});
    maker.add("field.distance", "far");
    maker.set("far", "points", ResultName{"grid"}).set("far", "attractors", ResultName{"edge"});
    const auto far = std::get<FieldOnPoints>(test::value_of(test::run(maker.study), "far"));
    for (std::size_t index = 0; index < far.points.address_count(); index += 5)
        EXPECT_NEAR(far.field().values[index],
                    std::abs(std::hypot(far.points.x()[index], far.points.y()[index]) - 5), 5e-3);
    maker.set("edge", "source", ResultName{"grid"});
    const auto near = std::get<FieldOnPoints>(test::value_of(test::run(maker.study), "far"));
    for (const double value : near.field().values.span())
        EXPECT_EQ(value, 0) << "every point stands on one";
    maker.number("edge", "weight", "0");
    EXPECT_EQ(test::error_of(test::run(maker.study), "edge").code, ErrorCode::out_of_range);
}

TEST(Distance, AllFourAtOnce) {
    StudyMaker maker = test::canopy();
    maker.word("reach", "combination", "all").word("reach", "response", "distance");
    const auto item = std::get<FieldOnPoints>(test::value_of(test::run(maker.study), "reach"));
    for (const char* name : {"reach", "reach_average", "reach_sum", "reach_product"})
        ASSERT_TRUE(item.points.field(name)) << name;
    EXPECT_NEAR(item.points.field("reach_sum")->values[0], 2 * item.points.field("reach_average")->values[0],
                1e-12);
    EXPECT_EQ(item.points.field("reach_product")->dimension, (Dimension{2, 0}));
}

TEST(Directions, AwayTowardsAndAround) {
    const Attractors one = *Attractors::make({{"a", {0, 0, 0}, 1}});
    DirectionRule rule;
    rule.fading = Response::distance;
    const auto at = [&](DirectionSense sense, Vec3 point) {
        rule.sense = sense;
        PointLattice::Parts parts;
        parts.counts = {1, 1, 1};
        parts.x = Doubles{point.x};
        parts.y = Doubles{point.y};
        parts.z = Doubles{point.z};
        const auto found = *direction_field(*PointLattice::make(std::move(parts)), one, rule, plume::Run());
        return Vec3{found.x[0], found.y[0], found.z[0]};
    };
    EXPECT_LT(length(at(DirectionSense::away, {3, 4, 0}) - Vec3{0.6, 0.8, 0}), 1e-15);
    EXPECT_LT(length(at(DirectionSense::towards, {3, 4, 0}) - Vec3{-0.6, -0.8, 0}), 1e-15);
    EXPECT_LT(length(at(DirectionSense::around, {3, 4, 0}) - Vec3{-0.8, 0.6, 0}), 1e-15) << "anticlockwise";
    rule.fading = Response::inverse;
    rule.reach = 5;
    EXPECT_NEAR(length(at(DirectionSense::away, {3, 4, 0})), 0.5, 1e-15) << "half as strong at the reach";
}

TEST(Directions, SumOfOppositesIsNothingAndPushesFollow) {
    StudyMaker maker;
    maker.add("lattice.rectangular", "grid");
    maker.add("attractors.points", "pair");
    maker.set("pair", "places", Places{{"a", "6 m", "0 m", "0 m", "1"}}).word("pair", "pairs", "x");
    maker.add("directions.attractors", "flow");
    maker.add("field.formula", "far");
    maker.formula("far", "2 m");
    maker.add("points.push", "pushed");
    maker.set("pushed", "points", ResultName{"grid"}).word("pushed", "direction", "field");
    const Evaluation evaluation = test::run(maker.study);
    const auto flow = std::get<DirectionsOnPoints>(test::value_of(evaluation, "flow"));
    const std::size_t middle = flow.points.index({12, 8, 0});
    EXPECT_LT(length(flow.direction(middle)), 1e-12) << "in the middle of a mirrored pair";
    const auto pushed = std::get<PointLattice>(test::value_of(evaluation, "pushed"));
    EXPECT_LT(length(pushed.point(0) - (flow.points.point(0) + flow.direction(0) * 2)), 1e-12);
    maker.word("pushed", "direction", "place").number("pushed", "factor", "100");
    const auto gathered = std::get<PointLattice>(test::value_of(test::run(maker.study), "pushed"));
    EXPECT_LT(length(gathered.point(7) - Vec3{0, 0, 6}), 1e-9) << "to the place and no further";
    maker.number("pushed", "strength", "1.5");
    EXPECT_EQ(test::error_of(test::run(maker.study), "pushed").where, "Strength");
}

// Responses -----------------------------------------------------------------------------------------------

TEST(ResponseCurve, PassesThroughItsKnotsAndStaysBetween) {
    const auto curve = *read_response("0:0 0.3:0.8 0.5:0.8- 0.7:0.2 1:1");
    for (const ResponseKnot& knot : curve.knots())
        EXPECT_NEAR(curve(knot.at), knot.answer, 1e-15);
    EXPECT_NEAR(curve(0.6), 0.5, 1e-15) << "straight from 0.5 to 0.7";
    for (std::size_t piece = 0; piece + 1 < curve.knots().size(); ++piece) {
        const ResponseKnot &a = curve.knots()[piece], &b = curve.knots()[piece + 1];
        double before = a.answer;
        for (int at = 0; at <= 50; ++at) {
            const double now = curve(a.at + (b.at - a.at) * at / 50);
            EXPECT_GE(now, std::min(a.answer, b.answer) - 1e-12);
            EXPECT_LE(now, std::max(a.answer, b.answer) + 1e-12);
            EXPECT_GE((now - before) * (b.answer - a.answer), -1e-12) << "monotone between knots";
            before = now;
        }
    }
    EXPECT_EQ(curve(-3), 0);
    EXPECT_EQ(curve(9), 1);
    EXPECT_TRUE(std::isnan(curve(NAN)));
}

TEST(ResponseCurve, TextAndBack) {
    for (const char* text : {"0:0 1:1", "0:1 0.25:0.5- 1:0", "0:0 0.1:1 0.2:0 0.9:0.123456 1:1"})
        EXPECT_EQ(response_text(read_response(text)->knots()), text);
    EXPECT_EQ(read_response("0:0").error().code, ErrorCode::too_few_points);
    EXPECT_EQ(read_response("0:0 1").error().code, ErrorCode::bad_number);
    EXPECT_EQ(read_response("0:0 0.5:2 1:1").error().where, "Knot 2");
    EXPECT_EQ(read_response("0:0 0.5:1 0.5:0 1:1").error().where, "Knot 3");
    EXPECT_EQ(read_response("0.1:0 1:1").error().code, ErrorCode::out_of_range);
}

TEST(ResponseCurve, DrawnFromAWordRunsAboutAsIt) {
    for (const char* word : {"straight", "half_sine", "smooth_step"}) {
        const Shaping shaping = *shaping_of(word);
        const ResponseCurve curve = *ResponseCurve::make(knots_like(shaping));
        for (double t = 0; t <= 1; t += 0.01) {
            double exact = t;
            respond(shaping, 1, {&exact, 1});
            EXPECT_NEAR(curve(t), exact, 0.03) << word << " at " << t;
        }
    }
    EXPECT_FALSE(shaping_of("no_such"));
    EXPECT_FALSE(shaping_of("drawn 0:0 nonsense"));
}

TEST(ResponseCurve, ShapesDistancesRangesAndChance) {
    StudyMaker maker = test::canopy();
    maker.word("rise", "response", "drawn 0:0 0.5:0.25- 1:1").word("reach", "response", "distance");
    const Evaluation evaluation = test::run(maker.study);
    const auto reach = std::get<FieldOnPoints>(test::value_of(evaluation, "reach"));
    const auto rise = std::get<FieldOnPoints>(test::value_of(evaluation, "rise"));
    const ResponseCurve curve = *read_response("0:0 0.5:0.25- 1:1");
    double low = 1e9, high = -1e9;
    for (const double value : reach.field().values.span()) {
        low = std::min(low, value);
        high = std::max(high, value);
    }
    for (std::size_t index = 0; index < 425; index += 11)
        EXPECT_NEAR(rise.field().values[index],
                    3.2 * curve((reach.field().values[index] - low) / (high - low)), 1e-12);
    maker.word("rise", "response", "drawn 0:0 1:9");
    const Error error = test::error_of(test::run(maker.study), "rise");
    EXPECT_EQ(error.code, ErrorCode::out_of_range);
}

TEST(ResponseNumbers, CountsWhatComesInAndGoesOut) {
    StudyMaker maker = test::canopy();
    maker.word("reach", "response", "drawn 0:0 1:0.5");
    const Evaluation evaluation = test::run(maker.study);
    for (const char* name : {"reach", "rise"}) {
        const Step& step = *maker.study->step(name);
        const StepKind& kind = *standard_catalogue().find(step.kind);
        const auto made =
            context_of<ResponseNumbers>(kind, "response", *evaluation.outcome(step.id)->inputs, plume::Run());
        ASSERT_TRUE(made && *made) << name;
        const ResponseNumbers& numbers = **made;
        std::size_t in = 0, out = 0;
        for (std::size_t bin = 0; bin < numbers.incoming.size(); ++bin) {
            in += numbers.incoming[bin];
            out += numbers.outgoing[bin];
        }
        EXPECT_EQ(in, 425U);
        EXPECT_EQ(out, 425U);
    }
}

TEST(ResponseNumbers, TheDistanceItselfReachesToTheFarthestPoint) {
    StudyMaker maker = test::canopy();
    maker.word("reach", "response", "distance");
    const Evaluation evaluation = test::run(maker.study);
    const Step& step = *maker.study->step("reach");
    const auto made = context_of<ResponseNumbers>(*standard_catalogue().find(step.kind), "response",
                                                  *evaluation.outcome(step.id)->inputs, plume::Run());
    ASSERT_TRUE(made && *made);
    const auto& reach = std::get<FieldOnPoints>(*evaluation.outcome(step.id)->value).field().values;
    EXPECT_DOUBLE_EQ((*made)->in_high, std::ranges::max(reach.span()));
    EXPECT_EQ((*made)->out_high, (*made)->in_high);
    EXPECT_EQ((*made)->out_dimension, a_length);
    EXPECT_LT((*made)->incoming.back(), 10U) << "not all of them beyond the end";
}

TEST(Range, OfNoWidthIsRefusedWithAMend) {
    StudyMaker maker = test::canopy();
    maker.add("field.formula", "same");
    maker.formula("same", "3");
    maker.add("field.range", "ranged");
    maker.set("ranged", "field", ResultName{"same"});
    const Error error = test::error_of(test::run(maker.study), "ranged");
    EXPECT_EQ(error.code, ErrorCode::out_of_range);
    EXPECT_FALSE(error.mend.empty());
}

// Two fields and one --------------------------------------------------------------------------------------

TEST(Combine, EachOperationByHand) {
    const Column a(Doubles{1, -2, 4}), b(Doubles{3, 5, 0.5});
    const auto all = [&](FieldOperation operation, double share = 0) {
        const Column found = *combined(a, b, operation, share, plume::Run());
        return std::vector<double>(found.data(), found.data() + 3);
    };
    EXPECT_EQ(all(FieldOperation::add), (std::vector<double>{4, 3, 4.5}));
    EXPECT_EQ(all(FieldOperation::subtract), (std::vector<double>{-2, -7, 3.5}));
    EXPECT_EQ(all(FieldOperation::multiply), (std::vector<double>{3, -10, 2}));
    EXPECT_EQ(all(FieldOperation::average), (std::vector<double>{2, 1.5, 2.25}));
    EXPECT_EQ(all(FieldOperation::smallest), (std::vector<double>{1, -2, 0.5}));
    EXPECT_EQ(all(FieldOperation::largest), (std::vector<double>{3, 5, 4}));
    EXPECT_EQ(all(FieldOperation::mix, 0.25), (std::vector<double>{1.5, -0.25, 3.125}));
}

TEST(Combine, UnitsAndPlacesHaveToAgree) {
    StudyMaker maker = test::canopy();
    maker.word("reach", "response", "bell");
    maker.add("field.combine", "both");
    maker.set("both", "a", ResultName{"reach"}).set("both", "b", ResultName{"rise"});
    EXPECT_EQ(test::error_of(test::run(maker.study), "both").code, ErrorCode::unit_mismatch);
    maker.word("both", "operation", "multiply");
    EXPECT_EQ(std::get<FieldOnPoints>(test::value_of(test::run(maker.study), "both")).field().dimension,
              a_length);
    maker.add("numbers.list", "row");
    maker.set("both", "b", ResultName{"row"});
    EXPECT_EQ(test::error_of(test::run(maker.study), "both").code, ErrorCode::reads_below);
}

TEST(Smooth, KeepsAPlaneInsideAndSettlesOnTheMean) {
    // Means of a plane are the plane itself, away from the border.
    const PointLattice lattice = grid(9, 9);
    Doubles plane(81), peak(81, 0.0);
    for (std::size_t index = 0; index < 81; ++index)
        plane[index] = lattice.x()[index] + 2 * lattice.y()[index];
    const Column same = *smoothed(lattice, plane, 1, 1, plume::Run());
    EXPECT_NEAR(same[lattice.index({4, 4, 0})], plane[lattice.index({4, 4, 0})], 1e-12);
    peak[lattice.index({4, 4, 0})] = 1;
    const Column once = *smoothed(lattice, peak, 1, 1, plume::Run());
    EXPECT_EQ(once[lattice.index({4, 4, 0})], 0);
    EXPECT_EQ(once[lattice.index({5, 4, 0})], 0.25);
    // On a torus the mean never changes.
    const PointLattice ring = test::torus(10, 8, 3, 1);
    Doubles wild(80);
    for (std::size_t index = 0; index < 80; ++index)
        wild[index] = std::sin(static_cast<double>(index * index));
    const Column calm = *smoothed(ring, wild, 300, 0.7, plume::Run());
    double before = 0, after = 0;
    for (std::size_t index = 0; index < 80; ++index) {
        before += wild[index];
        after += calm[index];
        EXPECT_NEAR(calm[index], calm[0], 1e-3);
    }
    EXPECT_NEAR(before, after, 1e-9);
}

TEST(Smooth, NotANumberStaysByItself) {
    const PointLattice lattice = grid(3, 1);
    const Column out = *smoothed(lattice, Doubles{1, NAN, 3}, 2, 0.5, plume::Run());
    EXPECT_EQ(out[0], 1);
    EXPECT_EQ(out[2], 3);
    PointLattice::Parts parts;
    parts.arrangement = Arrangement::scatter;
    parts.counts = {2, 1, 1};
    parts.x = parts.y = parts.z = Column(Doubles{0, 1});
    EXPECT_EQ(smoothed(*PointLattice::make(std::move(parts)), Doubles{1, 2}, 1, 1, plume::Run()).error().code,
              ErrorCode::wrong_kind);
}

TEST(Statistic, IsReadByExpressionsBelow) {
    StudyMaker maker = test::canopy();
    maker.add("number.statistic", "highest");
    maker.word("highest", "statistic", "most").set("highest", "field", ResultName{"rise"});
    maker.add("thing.move", "lifted");
    maker.set("lifted", "thing", ResultName{"lattice"}).number("lifted", "z", "highest * 2");
    const Evaluation evaluation = test::run(maker.study);
    EXPECT_NEAR(std::get<Quantity>(test::value_of(evaluation, "highest")).value, 3.2, 1e-12);
    EXPECT_NEAR(bounds_of(test::value_of(evaluation, "lifted")).high.z, 6.4, 1e-12);
    // A formula reads it, too, and renaming follows.
    maker.add("field.formula", "share");
    maker.set("share", "points", ResultName{"rise"}).formula("share", "rise / highest");
    EXPECT_TRUE(test::run(maker.study).outcome("share")->value);
    maker.study = *rename_step(*maker.study, maker.study->step("highest")->id, "top");
    EXPECT_EQ(std::get<NumberText>(maker.study->step("lifted")->slots.at("z")).text, "top * 2");
    EXPECT_TRUE(test::run(maker.study).outcome("share")->value);
    // It cannot be read above itself.
    EXPECT_EQ(move_items(*maker.study, {maker.study->step("lifted")->id}, 0).error().code,
              ErrorCode::reads_below);
    EXPECT_EQ(remove_items(*maker.study, {maker.study->step("top")->id}, false).error().code,
              ErrorCode::still_read);
}

TEST(Statistic, EachFigureByHand) {
    StudyMaker maker;
    maker.add("numbers.list", "row");
    maker.number("row", "count", "5").number("row", "from", "1").number("row", "to", "5");
    maker.add("number.statistic", "figure");
    const std::map<std::string, double> expected{{"mean", 3},
                                                 {"least", 1},
                                                 {"most", 5},
                                                 {"median", 3},
                                                 {"sum", 15},
                                                 {"count", 5},
                                                 {"spread", std::sqrt(2.0)}};
    for (const auto& [word, value] : expected) {
        maker.word("figure", "statistic", word);
        EXPECT_NEAR(std::get<Quantity>(test::value_of(test::run(maker.study), "figure")).value, value, 1e-12)
            << word;
    }
}

// Chance --------------------------------------------------------------------------------------------------

TEST(Chance, InverseNormalAgainstTheErrorFunction) {
    for (const double share : {1e-12, 1e-5, 0.01, 0.2, 0.5, 0.77, 0.999, 1 - 1e-9}) {
        const double z = inverse_normal(share);
        EXPECT_NEAR(0.5 * std::erfc(-z / std::numbers::sqrt2) / share, 1, 1e-7) << share;
    }
    EXPECT_NEAR(inverse_normal(0.975), 1.959963984540054, 1e-14);
}

std::vector<double> thrown(const std::string& distribution,
                           const std::vector<std::pair<std::string, std::string>>& slots,
                           const std::string& seed = "5") {
    StudyMaker maker;
    maker.add("lattice.rectangular", "grid");
    maker.number("grid", "columns", "199").number("grid", "rows", "199");
    maker.add("field.random", "chance");
    maker.word("chance", "distribution", distribution).number("chance", "seed", seed);
    for (const auto& [slot, text] : slots)
        if (slot == "choices")
            maker.set("chance", slot, Lines{text});
        else
            maker.number("chance", slot, text);
    const auto item = std::get<FieldOnPoints>(test::value_of(test::run(maker.study), "chance"));
    return {item.field().values.data(), item.field().values.data() + 40'000};
}

TEST(Chance, UniformFillsEveryTenthAlike) {
    const auto numbers = thrown("uniform", {{"low", "2 m"}, {"high", "4 m"}});
    std::array<int, 10> bins{};
    for (const double number : numbers) {
        ASSERT_TRUE(number >= 2 && number < 4);
        ++bins[static_cast<std::size_t>((number - 2) * 5)];
    }
    double chi = 0;
    for (const int count : bins)
        chi += std::pow(count - 4000, 2) / 4000.0;
    EXPECT_LT(chi, 27.9) << "chi square of 9 degrees, one in a thousand";
}

TEST(Chance, NormalHasItsMeanAndDeviation) {
    const auto numbers = thrown("normal", {{"mean", "3 m"}, {"deviation", "0.5 m"}});
    double mean = 0, square = 0, within = 0;
    for (const double number : numbers)
        mean += number / 40'000;
    for (const double number : numbers) {
        square += std::pow(number - mean, 2) / 40'000;
        within += std::abs(number - 3) < 0.5 ? 1 : 0;
    }
    EXPECT_NEAR(mean, 3, 4 * 0.5 / 200);
    EXPECT_NEAR(std::sqrt(square), 0.5, 0.01);
    EXPECT_NEAR(within / 40'000, 0.6827, 0.01);
}

TEST(Chance, WholeNumbersAndChoicesComeAsOftenAsTheyWeigh) {
    std::map<double, int> seen;
    for (const double number : thrown("whole", {{"low_count", "1"}, {"high_count", "6"}}))
        ++seen[number];
    ASSERT_EQ(seen.size(), 6U);
    for (const auto& [face, count] : seen)
        EXPECT_NEAR(count, 40'000 / 6.0, 5 * std::sqrt(40'000 / 6.0)) << face;
    std::map<double, int> chosen_times;
    for (const double number : thrown("choice", {{"choices", "30 cm : 3; 0.5 m"}}))
        ++chosen_times[number];
    ASSERT_EQ(chosen_times.size(), 2U);
    EXPECT_NEAR(chosen_times[0.3], 30'000, 500);
}

TEST(Chance, SeedsNameThrows) {
    const auto one = thrown("uniform", {}), again = thrown("uniform", {}), other = thrown("uniform", {}, "6");
    EXPECT_EQ(one, again);
    EXPECT_NE(one, other);
    // Neighbouring seeds and neighbouring points have nothing to do with each other.
    double products = 0, along = 0;
    for (std::size_t at = 0; at + 1 < one.size(); ++at) {
        products += (one[at] - 0.5) * (other[at] - 0.5);
        along += (one[at] - 0.5) * (one[at + 1] - 0.5);
    }
    EXPECT_LT(std::abs(products / 40'000 * 12), 0.025);
    EXPECT_LT(std::abs(along / 40'000 * 12), 0.025);
}

TEST(Chance, ThrowAgainAndBack) {
    StudyMaker maker;
    maker.control("tide", 4);
    maker.add("lattice.rectangular", "grid");
    maker.add("field.random", "own");
    maker.add("field.random", "shared");
    maker.number("own", "seed", "9").number("shared", "seed", "tide");
    const Catalogue& kinds = standard_catalogue();
    const auto seed = [](const StudyPointer& study, const char* name) {
        return std::get<NumberText>(study->step(name)->slots.at("seed")).text;
    };
    const StudyPointer next = *throw_again(*maker.study, kinds, maker.study->step("own")->id, true);
    EXPECT_EQ(seed(next, "own"), "10");
    EXPECT_EQ(seed(*throw_again(*next, kinds, next->step("own")->id, false), "own"), "9");
    const StudyPointer tide = *throw_again(*maker.study, kinds, maker.study->step("shared")->id, true);
    EXPECT_EQ(tide->control("tide")->value, 5) << "a shared seed moves with its control";
    maker.number("own", "seed", "0");
    EXPECT_FALSE(throw_again(*maker.study, kinds, maker.study->step("own")->id, false));
    maker.number("own", "seed", "tide * 2");
    EXPECT_EQ(throw_again(*maker.study, kinds, maker.study->step("own")->id, true).error().code,
              ErrorCode::input_failed);
    EXPECT_FALSE(throw_again(*maker.study, kinds, maker.study->step("grid")->id, true));
    EXPECT_TRUE(throws_numbers(kinds, *maker.study->step("own")));
}

TEST(Chance, BadInput) {
    const auto error = [](const char* distribution, const char* slot, SlotValue value) {
        StudyMaker maker;
        maker.add("lattice.rectangular", "grid");
        maker.add("field.random", "chance");
        maker.word("chance", "distribution", distribution).set("chance", slot, std::move(value));
        return test::error_of(test::run(maker.study), "chance");
    };
    EXPECT_EQ(error("uniform", "seed", NumberText{"18446744073709551616"}).where, "Seed");
    EXPECT_EQ(error("uniform", "seed", NumberText{"-1"}).where, "Seed");
    EXPECT_EQ(error("uniform", "low", NumberText{"30°"}).code, ErrorCode::unit_mismatch);
    EXPECT_EQ(error("normal", "deviation", NumberText{"-1 m"}).where, "Deviation");
    EXPECT_EQ(error("whole", "low_count", NumberText{"9"}).code, ErrorCode::out_of_range);
    EXPECT_EQ(error("whole", "low_count", NumberText{"0.5"}).code, ErrorCode::bad_number);
    EXPECT_EQ(error("choice", "choices", Lines{""}).code, ErrorCode::empty_input);
    EXPECT_EQ(error("choice", "choices", Lines{"1 m; 30°"}).code, ErrorCode::unit_mismatch);
    EXPECT_EQ(error("choice", "choices", Lines{"1 m : 0"}).code, ErrorCode::out_of_range);
    EXPECT_FALSE(error("choice", "choices", Lines{"1 m :"}).mend.empty());
}

// Noise ---------------------------------------------------------------------------------------------------

Column column_of(std::size_t count, double from, double step) {
    Doubles values(count);
    for (std::size_t at = 0; at < count; ++at)
        values[at] = from + step * static_cast<double>(at);
    return values;
}

TEST(Noise, BothLoopsAgreeAndStayWithinOne) {
    NoiseRule rule{6, 0.6, 11, {0, 0, 0}};
    const Column x = column_of(20'000, -40, 0.0371), y = column_of(20'000, 3, 0.0113),
                 z = column_of(20'000, 0, 0.002);
    const Doubles fast = *fractal_noise(x, y, z, rule, plume::Run());
    Doubles plain(20'000);
    baseline_noise(x.data(), y.data(), z.data(), plain.size(), rule, plain.data());
    for (std::size_t at = 0; at < plain.size(); ++at) {
        ASSERT_NEAR(fast[at], plain[at], 1e-6) << at;
        ASSERT_LE(std::abs(fast[at]), 1);
    }
    rule.seed = 12;
    const Doubles other = *fractal_noise(x, y, z, rule, plume::Run());
    EXPECT_NE(other[777], fast[777]);
}

TEST(Noise, OneOctaveIsTheNoiseOfFormulasButForItsSeed) {
    // The same slopes and fades written the plain way, in doubles, over the corners of one cell.
    const std::uint32_t seed = static_cast<std::uint32_t>(random_bits(21));
    const auto hashed = [&](std::uint32_t i, std::uint32_t j, std::uint32_t k) {
        return noise_hash(i * 0x8da6b343U ^ j * 0xd8163841U ^ k * 0xcb1ab31fU ^ seed);
    };
    const auto plain = [&](double x, double y, double z) {
        const double cell[3]{std::floor(x), std::floor(y), std::floor(z)};
        double sum = 0;
        for (int corner = 0; corner < 8; ++corner) {
            const int d[3]{corner & 1, corner >> 1 & 1, corner >> 2};
            const double o[3]{x - cell[0], y - cell[1], z - cell[2]};
            const auto number = [&](int axis) {
                return static_cast<std::uint32_t>(static_cast<std::int32_t>(cell[axis]) + d[axis]);
            };
            const std::uint32_t hash = hashed(number(0), number(1), number(2));
            double weight = 1, slope = 0;
            for (int axis = 0; axis < 3; ++axis) {
                weight *= d[axis] == 1 ? noise_fade(o[axis]) : 1 - noise_fade(o[axis]);
                slope += noise_slope(hash, static_cast<unsigned>(10 * axis)) * (o[axis] - d[axis]);
            }
            sum += weight * slope;
        }
        return sum * 2 / 3;
    };
    const Column x = column_of(900, -20, 0.0437), y = column_of(900, 7, -0.021),
                 z = column_of(900, -3, 0.009);
    const Doubles fast = *fractal_noise(x, y, z, {1, 0.5, 21, {0, 0, 0}}, plume::Run());
    for (std::size_t at = 0; at < 900; ++at)
        EXPECT_NEAR(fast[at], plain(x[at], y[at], z[at]), 1e-6) << at;
    const Doubles odd = *fractal_noise(Doubles{NAN, 1e300, -1e12}, Doubles{0.5, 0.5, 0.5},
                                       Doubles{0.5, 0.5, 0.5}, {2, 0.5, 1, {0, 0, 0}}, plume::Run());
    EXPECT_TRUE(std::isnan(odd[0]));
    EXPECT_LE(std::abs(odd[2]), 1);
}

TEST(Noise, IsSmoothAndNothingAtCorners) {
    const NoiseRule rule{1, 0.5, 3, {0, 0, 0}};
    const Column whole = column_of(50, -25, 1), zero = column_of(50, 4, 0);
    const Doubles corners = *fractal_noise(whole, zero, zero, rule, plume::Run());
    for (const double value : corners)
        EXPECT_NEAR(value, 0, 1e-12);
    const Column fine = column_of(20'000, 0, 1e-3), half = column_of(20'000, 0.5, 0);
    const Doubles values = *fractal_noise(fine, half, half, rule, plume::Run());
    for (std::size_t at = 1; at < values.size(); ++at)
        EXPECT_LT(std::abs(values[at] - values[at - 1]), 6e-3);
}

TEST(Noise, RepeatsAfterItsPeriodInEveryOctave) {
    const NoiseRule rule{5, 0.7, 8, {6, 0, 4}};
    const Column x = column_of(1000, 0.01, 0.0123), y = column_of(1000, 0.3, 0.017),
                 z = column_of(1000, 0.2, 0.0051);
    const Doubles here = *fractal_noise(x, y, z, rule, plume::Run());
    Doubles far_x(1000), far_z(1000);
    for (std::size_t at = 0; at < 1000; ++at) {
        far_x[at] = x[at] + 6;
        far_z[at] = z[at] - 4;
    }
    const Doubles there = *fractal_noise(std::move(far_x), y, std::move(far_z), rule, plume::Run());
    for (std::size_t at = 0; at < 1000; ++at)
        EXPECT_NEAR(here[at], there[at], 2e-6);
}

// Strength of a signal at so many waves over its length (a plain Fourier sum).
double strength_at(const Doubles& values, std::size_t waves) {
    double c = 0, s = 0;
    for (std::size_t at = 0; at < values.size(); ++at) {
        const double angle =
            2 * std::numbers::pi * static_cast<double>(waves * at) / static_cast<double>(values.size());
        c += values[at] * std::cos(angle);
        s += values[at] * std::sin(angle);
    }
    return std::hypot(c, s) / static_cast<double>(values.size());
}

TEST(Noise, SpectrumLiesWhereTheOctavesAre) {
    // 64 cells over 4096 samples: one octave has its waves below 64, and hardly any at 512.
    const Column x = column_of(4096, 0.013, 64.0 / 4096), y = column_of(4096, 0.4, 0),
                 z = column_of(4096, 0.6, 0);
    const auto band = [&](int octaves, std::size_t from, std::size_t to) {
        const Doubles values = *fractal_noise(x, y, z, {octaves, 0.5, 2, {64, 0, 0}}, plume::Run());
        double sum = 0;
        for (std::size_t waves = from; waves < to; ++waves)
            sum += std::pow(strength_at(values, waves), 2);
        return sum;
    };
    EXPECT_GT(band(1, 8, 64), 100 * band(1, 256, 512)) << "one octave is smooth";
    EXPECT_GT(band(5, 256, 512), 20 * band(1, 256, 512)) << "five reach further up";
    EXPECT_GT(band(5, 8, 64), band(5, 256, 512)) << "and fall off";
}

TEST(Noise, NoSeamOnClosedDirections) {
    StudyMaker maker;
    maker.add("lattice.polar", "wheel");
    maker.number("wheel", "spokes", "90").number("wheel", "rings", "20");
    maker.add("field.noise", "hills");
    maker.word("hills", "over", "rows").number("hills", "bays", "7").number("hills", "octaves", "3");
    const auto hills = std::get<FieldOnPoints>(test::value_of(test::run(maker.study), "hills"));
    double inside = 0, seam = 0;
    for (std::size_t j = 0; j < 21; ++j) {
        for (std::size_t i = 0; i + 1 < 90; ++i)
            inside = std::max(
                inside, std::abs(hills.field().values[i + 90 * j] - hills.field().values[i + 1 + 90 * j]));
        seam = std::max(seam, std::abs(hills.field().values[89 + 90 * j] - hills.field().values[90 * j]));
    }
    EXPECT_LT(seam, 1.2 * inside);
}

}  // namespace
}  // namespace plume

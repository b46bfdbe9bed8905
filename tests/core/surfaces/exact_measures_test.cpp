// Lengths, bounds, sums and flatness against closed forms; joining across seams and gaps; numbers of
// addresses.

#include <numbers>
#include <random>

#include "core/base/noise.hpp"
#include "core/base/sum.hpp"
#include "core/data/not_finite.hpp"
#include "core/geometry/curves/curve_division.hpp"
#include "core/geometry/curves/curve_interpolation.hpp"
#include "core/geometry/measures/bounds.hpp"
#include "core/geometry/numbers/random_field.hpp"
#include "core/geometry/surfaces/offset_surface.hpp"
#include "core/geometry/surfaces/spline_interpolation.hpp"
#include "core/geometry/surfaces/surface_sampling.hpp"
#include "core/measure/statistics.hpp"
#include "core/support.hpp"
#include "core/surfaces/round_surfaces.hpp"

namespace plume {
namespace {

using test::grid;

SplineCurve curve_of(std::vector<double> x, std::vector<double> y, int degree, std::vector<double> knots) {
    SplineCurve::Parts parts;
    parts.basis.degree = degree;
    parts.basis.knots = std::move(knots);
    Doubles px(x.begin(), x.end()), py(y.begin(), y.end()), pz(x.size(), 0.0);
    parts.x = std::move(px);
    parts.y = std::move(py);
    parts.z = std::move(pz);
    return *SplineCurve::make(std::move(parts));
}

// One parabola, (t, t (1 - t)): its summit lies at 1/4, its poles reach 1/2; without nodes.
SplineCurve parabola() {
    return curve_of({0, 0.5, 1}, {0, 0.5, 0}, 2, {0, 0, 0, 1, 1, 1});
}

TEST(ExactBounds, AParabolaReachesItsSummitNotItsPole) {
    const Box box = bounds_of(parabola());
    EXPECT_NEAR(box.high.y, 0.25, 1e-12);
    EXPECT_NEAR(box.low.y, 0, 1e-12);
    EXPECT_NEAR(box.high.x, 1, 1e-15);
    EXPECT_EQ(box.low.z, 0);
}

// A closed smooth curve through the corners of a square reaches 11.875 across where the poles stand at 12.5.
TEST(ExactBounds, AnOutlineThroughASquare) {
    PointLattice::Parts parts;
    parts.arrangement = Arrangement::row;
    parts.counts = {4, 1, 1};
    parts.closed = {true, false, false};
    parts.x = Doubles{0, 10, 10, 0};
    parts.y = Doubles{0, 0, 10, 10};
    parts.z = Doubles{0, 0, 0, 0};
    const auto set =
        join_points(*PointLattice::make(parts), Route::in_order, CurveShape::smooth, false, plume::Run());
    ASSERT_TRUE(set);
    ASSERT_EQ(set->curves.size(), 1U);
    EXPECT_TRUE(set->curves.front().closed()) << "a closed row in order stays closed";
    const Box box = bounds_of(set->curves.front());
    // Uniform knots: poles at -2.5 and 12.5, half way between two corners the spline is (p + 4.. ) at 11.875.
    EXPECT_NEAR(box.high.x, 11.875, 1e-12);
    EXPECT_NEAR(box.low.x, -1.875, 1e-12);
    EXPECT_NEAR(box.high.y, 11.875, 1e-12);
}

// A rational quadratic quarter of a circle reaches exactly its radius.
TEST(ExactBounds, ARationalPatchIsAsWideAsItsCircle) {
    const double w = std::sqrt(0.5);
    SplinePatch::Parts parts;
    parts.u.degree = 2;
    parts.u.knots = {0, 0, 0, 1, 1, 1};
    parts.v.degree = 1;
    parts.v.knots = {0, 0, 1, 1};
    // From 45° to 135°: the summit (0, 1) lies inside, its pole at sqrt(2).
    parts.x = Doubles{w, 0, -w, w, 0, -w};
    parts.y = Doubles{w, 2 * w, w, w, 2 * w, w};
    parts.z = Doubles{0, 0, 0, 3, 3, 3};
    parts.weights = Doubles{1, w, 1, 1, w, 1};
    const Box box = bounds_of(*SplinePatch::make(std::move(parts)));
    EXPECT_NEAR(box.high.y, 1, 1e-11);
    EXPECT_NEAR(box.low.y, w, 1e-11);
    EXPECT_NEAR(box.high.z, 3, 1e-12);
}

// Against ten thousand samples of random surfaces: never inside them, and no further out than sampling leaves
// open.
TEST(ExactBounds, RandomSurfacesAgainstFineSampling) {
    std::mt19937 random(5);
    std::uniform_real_distribution<double> number(-1, 1);
    for (int round = 0; round < 12; ++round) {
        const PointLattice points = grid(
            7, 6, [&](double, double) { return 3 * number(random); }, round % 3 == 1, round % 4 == 2);
        const auto patch = interpolate_grid(points, plume::Run());
        ASSERT_TRUE(patch);
        const Box box = bounds_of(*patch);
        const auto samples = sample(*patch, 16, plume::Run());
        ASSERT_TRUE(samples);
        Box seen, poles;
        for (std::size_t at = 0; at < samples->x.size(); ++at)
            seen.include(Vec3{samples->x[at], samples->y[at], samples->z[at]});
        for (std::size_t pole = 0; pole < patch->x().size(); ++pole)
            poles.include(Vec3{patch->x()[pole], patch->y()[pole], patch->z()[pole]});
        EXPECT_GE(box.high.z, seen.high.z - 1e-9);
        EXPECT_LE(box.low.z, seen.low.z + 1e-9);
        EXPECT_NEAR(box.high.z, seen.high.z, 0.05);
        EXPECT_NEAR(box.low.z, seen.low.z, 0.05);
        EXPECT_LE(box.high.z, poles.high.z + 1e-9);
    }
}

TEST(ExactBounds, FlatAndLevelSurfacesAndRidges) {
    const auto flat = interpolate_grid(grid(40, 40, [](double, double) { return 2.0; }), plume::Run());
    EXPECT_NEAR(bounds_of(*flat).high.z, 2, 1e-12);
    EXPECT_NEAR(bounds_of(*flat).low.z, 2, 1e-12);
    // A ridge of equal height right across: halving would never end without a bound.
    const auto ridge =
        interpolate_grid(grid(9, 30, [](double i, double) { return -(i - 4.3) * (i - 4.3); }), plume::Run());
    const auto samples = sample(*ridge, 16, plume::Run());
    const double seen = *std::ranges::max_element(samples->z);
    EXPECT_GE(bounds_of(*ridge).high.z, seen - 1e-12);
    EXPECT_LE(bounds_of(*ridge).high.z, seen + 1e-3) << "no further than sampling leaves open";
}

TEST(ExactLength, ClosedForms) {
    // y = x (1 - x) on 0..1: sqrt(2) / 2 + asinh(1) / 2.
    EXPECT_NEAR(length_of(parabola()), std::numbers::sqrt2 / 2 + std::asinh(1.0) / 2, 1e-11);
    // A cubic with a cusp in the middle: (t^2, t^3) from -1 to 1 is 2 (13 sqrt(13) - 8) / 27 long. As Bezier
    // poles of t = 2 s - 1: x = 1, -1/3, -1/3, 1 and y = -1, 1, -1, 1.
    const SplineCurve cusp =
        curve_of({1, -1.0 / 3, -1.0 / 3, 1}, {-1, 1, -1, 1}, 3, {0, 0, 0, 0, 1, 1, 1, 1});
    const double exact = 2 * (13 * std::sqrt(13.0) - 8) / 27;
    EXPECT_NEAR(length_of(cusp), exact, 1e-9 * exact);
    // A polyline.
    EXPECT_NEAR(length_of(curve_of({0, 3, 3}, {0, 0, 4}, 1, {0, 0, 1, 2, 2})), 7, 1e-14);
}

TEST(ExactLength, CurvesWithoutNodesAreSampledAndDivided) {
    const CurveSamples samples = sample(parabola(), 1e-4);
    ASSERT_GT(samples.points.size(), 8U);
    EXPECT_EQ(samples.points.front(), (Vec3{0, 0, 0}));
    EXPECT_EQ(samples.points.back(), (Vec3{1, 0, 0}));
    const CurveLength measure(parabola());
    EXPECT_NEAR(evaluate(parabola(), measure.parameter_at(measure.total() / 2)).position.x, 0.5, 1e-9);
    EXPECT_NE(outline_text(Value(CurveSet{{parabola()}}), {}).find("3 poles"), std::string::npos);
}

TEST(ExactSums, AMillionNumbersToTheLastDigit) {
    const std::size_t count = 1'000'000;
    Doubles values(count);
    for (std::size_t at = 0; at < count; ++at)
        values[at] = 0.1;
    PointLattice::Parts parts;
    parts.arrangement = Arrangement::row;
    parts.counts = {count, 1, 1};
    Doubles zeros(count, 0.0);
    parts.x = parts.y = parts.z = zeros;
    const auto row = PointLattice::make(parts);
    const Statistics figures = statistics_of(*row, values, 8);
    EXPECT_DOUBLE_EQ(figures.mean, 0.1);
    EXPECT_NEAR(figures.sum, 1e5, 1e-10);
    Sum sum;
    for (const double value : {1.0, 1e100, 1.0, -1e100})
        sum.add(value);
    EXPECT_EQ(sum.value(), 2);
}

TEST(Flatness, TheCornersOfAClosedOutlineCountOnce) {
    test::StudyMaker maker;
    maker.add("points.typed", "corners");
    maker.set("corners", "rows", Lines{"0,0,0\n10,0,1\n10,10,0\n0,10,1"})
        .word("corners", "arrangement", "row");
    maker.add("curve.join", "outline");
    maker.word("outline", "shape", "straight").word("outline", "ends", "closed");
    maker.add("mesh.flatten", "flat");
    maker.set("flat", "panels", ResultName{"outline"});
    const Evaluation evaluation = test::run(maker.study);
    ASSERT_EQ(evaluation.problem_count(), 0U);
    EXPECT_NE(evaluation.outcome("flat")->remarks.front().text.find("0.5 m"), std::string::npos)
        << evaluation.outcome("flat")->remarks.front().text;
    EXPECT_NEAR(bounds_of(test::value_of(evaluation, "flat")).low.z, 0.5, 1e-12);
}

PointLattice ring(std::size_t count, const std::vector<std::size_t>& gaps) {
    PointLattice::Parts parts;
    parts.arrangement = Arrangement::row;
    parts.counts = {count, 1, 1};
    parts.closed = {true, false, false};
    Doubles x(count), y(count), z(count, 0.0);
    for (std::size_t at = 0; at < count; ++at) {
        x[at] = std::cos(2 * std::numbers::pi * static_cast<double>(at) / static_cast<double>(count));
        y[at] = std::sin(2 * std::numbers::pi * static_cast<double>(at) / static_cast<double>(count));
    }
    parts.x = std::move(x);
    parts.y = std::move(y);
    parts.z = std::move(z);
    parts.present.assign(count, 1);
    for (const std::size_t gap : gaps)
        parts.present[gap] = 0;
    return *PointLattice::make(std::move(parts));
}

TEST(Joining, AGapEndsACurveAndTheSeamDoesNot) {
    for (const Route route : {Route::in_order, Route::rows}) {
        const auto whole = join_points(ring(12, {}), route, CurveShape::straight, false, plume::Run());
        ASSERT_EQ(whole->curves.size(), 1U);
        EXPECT_TRUE(whole->curves.front().closed());
        EXPECT_NEAR(length_of(whole->curves.front()), 12 * 2 * std::sin(std::numbers::pi / 12), 1e-12);
        // One gap: one open curve of eleven points, ten chords, across the seam.
        const auto one = join_points(ring(12, {5}), route, CurveShape::straight, false, plume::Run());
        ASSERT_EQ(one->curves.size(), 1U);
        EXPECT_FALSE(one->curves.front().closed());
        EXPECT_NEAR(length_of(one->curves.front()), 10 * 2 * std::sin(std::numbers::pi / 12), 1e-12);
        // Two gaps: two curves of four and six points.
        const auto two = join_points(ring(12, {2, 7}), route, CurveShape::straight, false, plume::Run());
        ASSERT_EQ(two->curves.size(), 2U);
        std::vector<std::size_t> poles{two->curves[0].x().size(), two->curves[1].x().size()};
        std::ranges::sort(poles);
        EXPECT_EQ(poles, (std::vector<std::size_t>{4, 6}));
    }
}

TEST(Joining, TwoClosedRowsAreAScatterAndSaidToBe) {
    test::StudyMaker maker;
    maker.add("outline.shape", "circle");
    maker.add("lattice.along_curve", "ring");
    maker.add("thing.join", "both");
    maker.set("both", "first", ResultName{"ring"}).set("both", "second", ResultName{"ring"});
    const Evaluation evaluation = test::run(maker.study);
    ASSERT_EQ(evaluation.problem_count(), 0U);
    const Value value = test::value_of(evaluation, "both");
    EXPECT_EQ(lattice_of(value)->arrangement(), Arrangement::scatter);
    ASSERT_EQ(evaluation.outcome("both")->remarks.size(), 1U);
    EXPECT_TRUE(evaluation.outcome("both")->remarks.front().loss);
}

TEST(RandomNumbers, BelongToTheAddressWhateverTheCounts) {
    const auto small = random_shares(grid(7, 5), 3, plume::Run()),
               wide = random_shares(grid(19, 11), 3, plume::Run());
    for (std::size_t j = 0; j < 5; ++j)
        for (std::size_t i = 0; i < 7; ++i)
            EXPECT_EQ((*small)[i + 7 * j], (*wide)[i + 19 * j]) << i << ' ' << j;
    // And in formulas, on a lattice and in the line a graph runs along.
    const auto chance = [](const char* columns) {
        test::StudyMaker maker;
        maker.add("lattice.rectangular", "ground");
        maker.number("ground", "columns", columns).number("ground", "rows", "5");
        maker.add("field.formula", "n");
        maker.formula("n", "random(4)");
        return std::get<FieldOnPoints>(test::value_of(test::run(maker.study), "n"));
    };
    const FieldOnPoints few = chance("6"), many = chance("400");
    for (std::size_t j = 0; j < 6; ++j)
        for (std::size_t i = 0; i < 7; ++i)
            EXPECT_EQ(few.field().values[few.points.index({i, j, 0})],
                      many.field().values[many.points.index({i, j, 0})]);
    EXPECT_EQ(few.field().values[9], random_of(4, address_number(2, 1, 0)));
}

TEST(RandomNumbers, NoTwoAddressesShareANumber) {
    std::vector<double> numbers;
    for (std::uint64_t k = 0; k < 10; ++k)
        for (std::uint64_t j = 0; j < 100; ++j)
            for (std::uint64_t i = 0; i < 100; ++i)
                numbers.push_back(address_number(i, j, k));
    std::ranges::sort(numbers);
    EXPECT_EQ(std::ranges::adjacent_find(numbers), numbers.end());
    EXPECT_EQ(address_number(7, 0, 0), 7) << "along a row it is the index";
}

TEST(NotFinite, IsRemarkedWhereItComesUpAndOnlyThere) {
    test::StudyMaker maker;
    maker.add("lattice.rectangular", "ground");
    maker.add("field.formula", "odd");
    maker.formula("odd", "mod(x, 0 m)");
    maker.add("points.push", "lifted");
    const Evaluation evaluation = test::run(maker.study);
    ASSERT_EQ(evaluation.problem_count(), 0U);
    EXPECT_TRUE(evaluation.outcome("ground")->remarks.empty());
    ASSERT_EQ(evaluation.outcome("odd")->remarks.size(), 1U);
    EXPECT_EQ(evaluation.outcome("odd")->remarks[0].text,
              "425 numbers of ‘odd’ are not finite, the first at i 0, j 0.");
    EXPECT_TRUE(evaluation.outcome("odd")->remarks[0].loss);
    ASSERT_EQ(evaluation.outcome("lifted")->remarks.size(), 1U);
    EXPECT_EQ(evaluation.outcome("lifted")->remarks[0].text,
              "425 points have coordinates that are not finite, the first at i 0, j 0.");
}

TEST(NotFinite, ListsAndNoiseAtTheEdgeOfNumbers) {
    test::StudyMaker maker;
    maker.add("numbers.list", "list");
    maker.word("list", "rule", "step").number("list", "step", "1e308");
    maker.add("lattice.rectangular", "ground");
    maker.add("field.noise", "rough");
    maker.number("rough", "scale", "5e-324 m");
    const Evaluation evaluation = test::run(maker.study);
    for (const char* name : {"list", "rough"}) {
        const Outcome& outcome = *evaluation.outcome(name);
        ASSERT_TRUE(outcome.value) << name << ": " << sentence(*outcome.error);
        const auto& item = std::get<FieldOnPoints>(*outcome.value);
        const bool all =
            std::ranges::all_of(item.field().values.span(), [](double v) { return std::isfinite(v); });
        EXPECT_EQ(outcome.remarks.empty(), all) << name << " says so when its numbers are not finite";
        for (const Remark& remark : outcome.remarks)
            EXPECT_TRUE(remark.loss);
    }
    EXPECT_FALSE(evaluation.outcome("list")->remarks.empty()) << "11 steps of 1e308 are too many";
}

TEST(NotFinite, GapsDoNotCountAndNumbersDo) {
    PointLattice::Parts parts;
    parts.arrangement = Arrangement::row;
    parts.counts = {3, 1, 1};
    const double nan = std::numeric_limits<double>::quiet_NaN();
    parts.x = Doubles{0, nan, 2};
    parts.y = parts.z = Doubles{0, 0, 0};
    parts.fields = {{"f", Doubles{nan, nan, 1}, plain_number}};
    parts.present = {1, 0, 1};
    SeenColumns seen;
    const auto sentences = not_finite_sentences(Value(*PointLattice::make(std::move(parts))), seen);
    ASSERT_EQ(sentences.size(), 1U);
    EXPECT_EQ(sentences[0], "1 number of ‘f’ is not finite, at i 0, j 0.");
    EXPECT_EQ(not_finite_sentences(Value(Quantity{nan, plain_number}), seen).size(), 1U);
}

// Its tips are places like any other, however nearly one derivative is nothing there.
TEST(TightestSide, OfABallIsItsRadiusUpToItsTips) {
    for (const double radius : {0.3, 3.0, 250.0}) {
        const SplinePatch ball = test::sphere(radius);
        const auto out = tightest_on(ball, 1), in = tightest_on(ball, -1);
        ASSERT_NE(out.has_value(), in.has_value()) << "it bends to one side everywhere";
        EXPECT_NEAR((out ? out : in)->radius, radius, 1e-6 * radius);
    }
}

}  // namespace
}  // namespace plume

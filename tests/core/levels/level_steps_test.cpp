// The steps that draw levels, iso-lines and sections.

#include <cmath>
#include <numbers>
#include <numeric>

#include "core/geometry/curves/curve_corners.hpp"
#include "core/geometry/curves/curve_division.hpp"
#include "core/geometry/levels/contours.hpp"
#include "core/geometry/surfaces/facets.hpp"
#include "core/geometry/surfaces/patch_evaluator.hpp"
#include "core/results/facts.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

constexpr double pi = std::numbers::pi;
using test::StudyMaker;

double field_of(const SplineCurve& curve, const char* name) {
    return field_at(curve, name, std::midpoint(curve.basis().start(), curve.basis().end()));
}
std::vector<SplineCurve> lines_of(const StudyMaker& maker, const std::string& name) {
    return std::get<CurveSet>(test::value_of(test::run(maker.study), name)).curves;
}
std::string remark_of(const StudyMaker& maker, const std::string& name) {
    const Evaluation made = test::run(maker.study);
    const auto& remarks = made.outcome(name)->remarks;
    return remarks.empty() ? "" : remarks.front().text;
}
Error refused(const StudyMaker& maker, const std::string& name) {
    return test::error_of(test::run(maker.study), name);
}

// A heap 4 m in radius and 2 m high, its side at 45 degrees.
StudyMaker heap() {
    StudyMaker maker;
    maker.add("outline.shape", "foot");
    maker.word("foot", "shape", "circle").number("foot", "radius", "4 m");
    maker.add("surface.extrude", "heap");
    maker.set("heap", "curve", ResultName{"foot"}).number("heap", "by", "2 m");
    maker.word("heap", "sides", "leaning").number("heap", "lean", "45°");
    maker.add("curve.levels", "levels");
    maker.set("levels", "thing", ResultName{"heap"});
    return maker;
}
// A cube of 2 m over the origin.
StudyMaker cube() {
    StudyMaker maker;
    maker.add("outline.shape", "foot");
    maker.number("foot", "width", "2 m").number("foot", "depth", "2 m");
    maker.add("body.extrude", "cube");
    maker.set("cube", "curve", ResultName{"foot"}).number("cube", "by", "2 m");
    return maker;
}

TEST(LevelSteps, OfACone) {
    StudyMaker maker = heap();
    maker.number("levels", "spacing", "0.3 m").number("levels", "start", "0.1 m");
    const auto lines = lines_of(maker, "levels");
    ASSERT_EQ(lines.size(), 7U) << "0.1, 0.4 ... 1.9";
    for (std::size_t line = 0; line < lines.size(); ++line) {
        const double level = 0.1 + 0.3 * static_cast<double>(line);
        EXPECT_NEAR(field_of(lines[line], "level"), level, 1e-12);
        EXPECT_NEAR(field_of(lines[line], "length"), 2 * pi * (4 - level), 1e-5);
        EXPECT_EQ(field_of(lines[line], "closed"), 1);
        EXPECT_EQ(field_of(lines[line], "within"), static_cast<double>(line) - 1) << "inwards it rises";
        EXPECT_EQ(field_of(lines[line], "depth"), 0);
    }
    EXPECT_EQ(remark_of(maker, "levels").substr(0, 20), "7 lines, all closed.");
}

TEST(LevelSteps, ByCountAndList) {
    StudyMaker maker = heap();
    maker.word("levels", "rule", "count").number("levels", "count", "3");
    auto lines = lines_of(maker, "levels");
    ASSERT_EQ(lines.size(), 3U);
    EXPECT_NEAR(field_of(lines[0], "level"), 0.5, 1e-9);
    EXPECT_NEAR(field_of(lines[2], "level"), 1.5, 1e-9);
    maker.word("levels", "rule", "list").set("levels", "list", Lines{"1.5; 50 cm 0.5m, 7"});
    lines = lines_of(maker, "levels");
    ASSERT_EQ(lines.size(), 2U) << "50 cm is 0.5 m, and nothing is 7 m high";
    EXPECT_NEAR(field_of(lines[0], "level"), 0.5, 1e-12);
    EXPECT_NEAR(field_of(lines[1], "level"), 1.5, 1e-12);
}

TEST(LevelSteps, TrueToATypedTolerance) {
    StudyMaker maker = heap();
    maker.word("levels", "direction", "x").number("levels", "spacing", "0.9 m");
    maker.number("levels", "start", "0.5 m").word("levels", "points", "true");
    std::size_t poles_before = 0;
    for (const double tolerance : {1e-2, 1e-5, 1e-9}) {
        maker.number("levels", "true_to", std::to_string(tolerance * 1e9) + "e-9 m");
        const auto lines = lines_of(maker, "levels");
        ASSERT_EQ(lines.size(), 12U) << "four across the slope alone, four through the top in two";
        std::size_t poles = 0;
        double worst = 0;
        for (const SplineCurve& line : lines) {
            poles += line.x().size();
            for (int step = 0; step <= 300; ++step) {
                const SplineBasis& basis = line.basis();
                const Vec3 at = evaluate(line, std::lerp(basis.start(), basis.end(), step / 300.0)).position;
                const double beside = (std::hypot(at.x, at.y) - (4 - at.z)) / std::sqrt(2);
                worst = std::max({worst, std::abs(beside), std::abs(at.x - field_of(line, "level"))});
            }
        }
        EXPECT_LE(worst, tolerance);
        EXPECT_GT(poles, poles_before) << tolerance;
        poles_before = poles;
    }
    maker.number("levels", "true_to", "1e-15 m");
    EXPECT_EQ(refused(maker, "levels").slot, "true_to");
}

TEST(LevelSteps, WhatCannotBe) {
    StudyMaker maker = heap();
    EXPECT_EQ(refused(maker.number("levels", "spacing", "0 m"), "levels").slot, "spacing");
    EXPECT_EQ(refused(maker.number("levels", "spacing", "-1 m"), "levels").slot, "spacing");
    maker.number("levels", "spacing", "50 m").number("levels", "start", "10 m");
    EXPECT_EQ(sentence(refused(maker, "levels")).find("Spacing gives no level between 0 m … 2 m"), 0U)
        << sentence(refused(maker, "levels"));
    // A billion lines are asked about.
    maker.number("levels", "spacing", "1e-9 m").number("levels", "start", "0 m");
    EXPECT_EQ(refused(maker, "levels").code, ErrorCode::out_of_memory);
    EXPECT_EQ(refused(maker.number("levels", "spacing", "4e-7 m"), "levels").code, ErrorCode::over_budget);
    maker.number("levels", "spacing", "0.1 m").number("levels", "start", "1e300 m");
    EXPECT_EQ(refused(maker, "levels").slot, "start");
    maker.word("levels", "rule", "list");
    for (const char* list : {"", "one", "1 2 30°", "7 8", "nan"}) {
        maker.set("levels", "list", Lines{list});
        EXPECT_EQ(refused(maker, "levels").slot, "list") << list;
    }
}

TEST(LevelSteps, AFoldedWallIsNotFlat) {
    StudyMaker maker;
    maker.add("outline.shape", "foot");
    maker.add("surface.extrude", "wall");
    maker.set("wall", "curve", ResultName{"foot"});
    const auto lines = details_of(test::value_of(test::run(maker.study), "wall"), Units{});
    EXPECT_NE(std::ranges::find(lines, "flat between its creases"), lines.end());
}

TEST(LevelSteps, BodiesGiveWholeOutlines) {
    StudyMaker maker = cube();
    maker.add("curve.levels", "levels");
    maker.set("levels", "thing", ResultName{"cube"}).word("levels", "rule", "count");
    maker.number("levels", "count", "4");
    for (const char* direction : {"z", "x", "y"}) {
        const auto lines = lines_of(maker.word("levels", "direction", direction), "levels");
        ASSERT_EQ(lines.size(), 4U) << direction;
        for (const SplineCurve& line : lines) {
            EXPECT_TRUE(line.closed()) << "of four faces";
            EXPECT_NEAR(length_of(line), 8, 1e-9);
            EXPECT_EQ(corners_of(line, 0.5).size(), 4U);
        }
    }
    // Exactly at its top: the face lies there, and is said to.
    maker.word("levels", "direction", "z").word("levels", "rule", "list");
    maker.set("levels", "list", Lines{"1 m 2 m"});
    const Evaluation made = test::run(maker.study);
    ASSERT_EQ(made.outcome("levels")->remarks.size(), 2U);
    EXPECT_EQ(made.outcome("levels")->remarks[1].text,
              "1 face lies in a level as a whole and counts as above it.");
}

TEST(LevelSteps, EvenedAndThinned) {
    StudyMaker maker = cube();
    maker.add("curve.levels", "levels");
    maker.set("levels", "thing", ResultName{"cube"}).word("levels", "rule", "count");
    maker.number("levels", "count", "1").word("levels", "points", "bays").number("levels", "bays", "16");
    auto square = lines_of(maker, "levels").front();
    EXPECT_NEAR(length_of(square), 8, 1e-9) << "its corners are kept";
    EXPECT_EQ(corners_of(square, 0.5).size(), 4U);
    maker.number("levels", "corner", "120°");
    EXPECT_LT(corners_of(lines_of(maker, "levels").front(), 0.5).size(), 4U);
    maker.word("levels", "points", "spacing")
        .number("levels", "step", "0.5 m")
        .number("levels", "corner", "30°");
    maker.word("levels", "shape", "straight");
    square = lines_of(maker, "levels").front();
    EXPECT_EQ(square.basis().nodes.size(), 16U);
    EXPECT_TRUE(square.closed());

    StudyMaker round = heap();
    round.word("levels", "rule", "count").number("levels", "count", "1").word("levels", "points", "thinned");
    round.number("levels", "within", "10 mm");
    const auto thinned = lines_of(round, "levels").front();
    EXPECT_TRUE(thinned.closed());
    EXPECT_LT(thinned.x().size(), 30U);
    EXPECT_NEAR(length_of(thinned), 6 * pi, 0.05);
    round.word("levels", "points", "bays").number("levels", "bays", "6").word("levels", "shape", "straight");
    EXPECT_NEAR(length_of(lines_of(round, "levels").front()), 18, 1e-4) << "a hexagon of its radius";
    EXPECT_NE(remark_of(round, "levels").find("The largest deviation is 0.40"), std::string::npos)
        << remark_of(round, "levels") << ": 3 m less 3 m · cos 30°";
}

TEST(LevelSteps, WhichLiesInWhich) {
    // A ring lying flat: at its middle height the inner line is a hole of the outer.
    StudyMaker maker;
    maker.add("outline.shape", "tube");
    maker.word("tube", "shape", "circle").number("tube", "radius", "1 m").word("tube", "plane", "xz");
    maker.add("thing.move", "aside");
    maker.set("aside", "thing", ResultName{"tube"}).number("aside", "x", "3 m");
    maker.number("aside", "y", "0 m").number("aside", "z", "0 m");
    maker.add("surface.revolve", "ring");
    maker.set("ring", "curve", ResultName{"aside"});
    maker.add("curve.levels", "levels");
    maker.set("levels", "thing", ResultName{"ring"}).word("levels", "rule", "list");
    maker.set("levels", "list", Lines{"0 0.6"});
    const auto lines = lines_of(maker, "levels");
    ASSERT_EQ(lines.size(), 4U);
    const double radii[] = {4, 2, 3.8, 2.2}, within[] = {-1, 3, 0, 2}, depth[] = {0, 1, 0, 1};
    for (std::size_t line = 0; line < 4; ++line) {
        EXPECT_NEAR(field_of(lines[line], "length"), 2 * pi * radii[line], 1e-5) << "the longest first";
        EXPECT_NEAR(field_of(lines[line], "within"), within[line], 1e-9) << line;
        EXPECT_NEAR(field_of(lines[line], "depth"), depth[line], 1e-9) << line;
    }
    // Cut through its axis: two circles a plane, neither in the other.
    maker.add("curve.section", "sections");
    maker.set("sections", "surface", ResultName{"ring"}).word("sections", "by", "radial");
    maker.number("sections", "count", "5");
    const auto sections = lines_of(maker, "sections");
    ASSERT_EQ(sections.size(), 10U);
    for (std::size_t line = 0; line < 10; ++line) {
        EXPECT_NEAR(field_of(sections[line], "section"), static_cast<double>(line / 2), 1e-9);
        EXPECT_NEAR(length_of(sections[line]), 2 * pi, 1e-5);
        EXPECT_NEAR(field_of(sections[line], "within"), -1, 1e-9);
    }
}

TEST(LevelSteps, SectionsSquareToACurveAndParallel) {
    StudyMaker maker = cube();
    maker.add("curve.arc", "rail");
    maker.word("rail", "shape", "line");
    maker.set("rail", "ends", Places{{"a", "-0.5 m", "0 m", "1 m", "1"}, {"b", "0.5 m", "0 m", "1 m", "1"}});
    maker.add("curve.section", "ribs");
    maker.set("ribs", "surface", ResultName{"cube"}).word("ribs", "by", "rail").number("ribs", "count", "3");
    maker.set("ribs", "rail", ResultName{"rail"});
    for (const char* by : {"rail", "parallel"}) {
        maker.word("ribs", "by", by).number("ribs", "spacing", "0.5 m");
        const auto ribs = lines_of(maker, "ribs");
        // The far end lies in a plane, too, and counts as beyond it: its rim is where that begins.
        ASSERT_EQ(ribs.size(), by == std::string("rail") ? 3U : 4U) << by;
        for (const SplineCurve& rib : ribs) {
            EXPECT_TRUE(rib.closed());
            EXPECT_NEAR(length_of(rib), 8, 1e-9);
        }
        EXPECT_NEAR(start_of(ribs[2]).x, 0.5, 1e-9) << by;
    }
}

TEST(LevelSteps, IsolinesOfANumber) {
    StudyMaker maker;
    maker.add("lattice.rectangular", "yard");
    maker.number("yard", "columns", "10").number("yard", "rows", "10").number("yard", "width", "10 m");
    maker.number("yard", "depth", "10 m").word("yard", "origin", "corner");
    maker.add("field.formula", "walk");
    maker.set("walk", "points", ResultName{"yard"}).formula("walk", "x + y");
    maker.add("curve.isolines", "lines");
    maker.set("lines", "thing", ResultName{"walk"}).number("lines", "spacing", "4 m");
    const auto lines = lines_of(maker, "lines");
    ASSERT_EQ(lines.size(), 4U) << "4, 8, 12, 16 m; 0 and 20 m are corners";
    const double lengths[] = {4, 8, 8, 4};
    for (std::size_t line = 0; line < 4; ++line) {
        EXPECT_NEAR(length_of(lines[line]), lengths[line] * std::numbers::sqrt2, 1e-6);
        EXPECT_EQ(field_of(lines[line], "closed"), 0);
    }
    EXPECT_EQ(refused(maker.number("lines", "spacing", "30°"), "lines").slot, "spacing");
    EXPECT_EQ(refused(maker.number("lines", "spacing", "-2"), "lines").slot, "spacing");
    maker.number("lines", "spacing", "4")
        .word("lines", "of", "named")
        .set("lines", "number", WordKey{"rain"});
    const Error unknown = refused(maker, "lines");
    EXPECT_EQ(unknown.slot, "number");
    EXPECT_NE(sentence(unknown).find("walk"), std::string::npos) << sentence(unknown);
}

// A sum of bells: the surface's own lines against those of its facets, finely.
TEST(LevelSteps, NumbersThatAreNotFiniteAreLeftOutAndFormsInALevelSaySo) {
    StudyMaker maker;
    maker.add("lattice.rectangular", "grid");
    maker.number("grid", "columns", "10").number("grid", "rows", "10").number("grid", "width", "36 m");
    maker.add("field.formula", "rise");
    maker.set("rise", "points", ResultName{"grid"}).formula("rise", "sqrt(x / 1 m)");
    maker.add("curve.isolines", "lines");
    maker.set("lines", "thing", ResultName{"rise"}).number("lines", "spacing", "0.5");
    const Evaluation made = test::run(maker.study);
    const auto lines = std::get<CurveSet>(test::value_of(made, "lines")).curves;
    ASSERT_EQ(lines.size(), 8U) << "0.5, 1 ... 4 of the right half; 0 is its rim";
    for (const SplineCurve& line : lines)
        EXPECT_GE(evaluate(line, line.basis().start()).position.x, 0);
    const auto& remarks = made.outcome("lines")->remarks;
    ASSERT_EQ(remarks.size(), 2U);
    EXPECT_TRUE(remarks[1].loss);
    EXPECT_EQ(remarks[1].text, "100 faces have a number that is not finite and are left out.");
    // The smooth skin cannot carry them.
    maker.add("skin", "sheet");
    maker.set("sheet", "points", ResultName{"rise"});
    const Evaluation skinned = test::run(maker.study);
    ASSERT_TRUE(skinned.outcome("sheet")->value);
    ASSERT_EQ(skinned.outcome("sheet")->remarks.size(), 1U);
    EXPECT_EQ(skinned.outcome("sheet")->remarks.front().text,
              "‘rise’ is not finite everywhere, and does not go along.");
    maker.add("curve.levels", "flat");
    maker.set("flat", "thing", ResultName{"grid"});
    EXPECT_NE(sentence(refused(maker, "flat")).find("lies in a level as a whole"), std::string::npos);
}

TEST(Contours, OfRandomBellsAgainstDenseMarching) {
    std::uint64_t state = 7;
    const auto next = [&] {
        state = state * 6364136223846793005ULL + 1442695040888963407ULL;
        return static_cast<double>(state >> 40U) / static_cast<double>(1U << 24U);
    };
    for (int trial = 0; trial < 4; ++trial) {
        std::vector<std::array<double, 4>> bells;
        for (int bell = 0; bell < 6; ++bell)
            bells.push_back({next() * 20, next() * 20, 1 + 2 * next(), 2 * next() - 0.7});
        const auto height = [&](double x, double y) {
            double sum = 0;
            for (const auto& [bx, by, wide, high] : bells)
                sum += high * std::exp(-(std::pow(x - bx, 2) + std::pow(y - by, 2)) / (2 * wide * wide));
            return sum;
        };
        const Value smooth = test::grid(21, 21, height);
        constexpr std::size_t finer = 20;
        PointLattice::Parts dense;
        dense.counts = {20 * finer + 1, 20 * finer + 1, 1};
        Doubles x, y, z;
        const auto form = heights_of(smooth, {}, plume::Run());
        ASSERT_TRUE(form);
        const auto& face = std::get<PatchToLevel>(form->things[0][0]);
        const PatchEvaluator evaluator(face.patch);
        for (std::size_t j = 0; j < dense.counts[1]; ++j)
            for (std::size_t i = 0; i < dense.counts[0]; ++i) {
                const auto at = [&](std::size_t n, const SplineBasis& basis) {
                    return std::lerp(basis.start(), basis.end(),
                                     static_cast<double>(n) / static_cast<double>(20 * finer));
                };
                const Vec3 place = evaluator.at(at(i, face.patch.u()), at(j, face.patch.v())).position;
                x.push_back(place.x);
                y.push_back(place.y);
                z.push_back(place.z);
            }
        dense.x = std::move(x);
        dense.y = std::move(y);
        dense.z = std::move(z);
        const Value mesh =
            *facets(*PointLattice::make(std::move(dense)), FacetShape::triangles, plume::Run());
        const std::vector<double> levels{-0.31, 0.07, 0.2, 0.41, 0.63};
        const auto exact = contours_of(*form, levels, {}, plume::Run());
        const auto marched = contours_of(*heights_of(mesh, {}, plume::Run()), levels, {}, plume::Run());
        for (std::size_t level = 0; level < levels.size(); ++level) {
            const auto told = [&](const Contours& made) {
                std::pair<double, std::size_t> sum{0, 0};
                for (const Contour& line : made.lines)
                    if (line.level == level) {
                        sum.first += length_of(line.curve);
                        sum.second += line.curve.closed() ? 1 : 0;
                    }
                return sum;
            };
            const auto [length, closed] = told(*exact);
            const auto [dense_length, dense_closed] = told(*marched);
            EXPECT_NEAR(length, dense_length, 2e-3 * dense_length + 1e-3) << trial << " " << levels[level];
            EXPECT_EQ(closed, dense_closed) << trial << " " << levels[level];
        }
    }
}

}  // namespace
}  // namespace plume

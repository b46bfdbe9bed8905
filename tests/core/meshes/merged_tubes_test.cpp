// Tubes that merge where they meet: watertight, and as large as all of them without what they share.

#include <numbers>

#include "core/support.hpp"

namespace plume::test {
namespace {

// Lines through the origin, 2 m to either side, along each of these.
StudyMaker crossing(std::initializer_list<Vec3> ways, const char* meeting) {
    StudyMaker maker;
    int line = 0;
    std::string script = "-- Lines\n-- sentence: Draw lines.\n-- result: curves\nlocal all = {}\n";
    for (const Vec3 way : ways)
        script += "all[" + std::to_string(++line) + "] = line(column{-2, 2} * " + std::to_string(way.x) +
                  ", column{-2, 2} * " + std::to_string(way.y) + ", column{-2, 2} * " +
                  std::to_string(way.z) + ")\n";
    maker.add("script.lua", "lines");
    maker.set("lines", "script", Lines{script + "return curves(all)"});
    maker.add("mesh.tube", "tubes");
    maker.set("tubes", "curves", ResultName{"lines"});
    maker.number("tubes", "sides", "64").number("tubes", "radius", "0.5 m").word("tubes", "meeting", meeting);
    return maker;
}
Mesh tubes(const StudyMaker& maker) {
    const Evaluation evaluation = run(maker.study);
    EXPECT_EQ(evaluation.problem_count(), 0U)
        << (evaluation.problem_count() ? sentence(error_of(evaluation, "tubes")) : "");
    return std::get<Mesh>(value_of(evaluation, "tubes"));
}

// Two round bars of radius r that cross squarely share 16/3 r^3 (Steinmetz).
TEST(MergedTubes, ThatCrossShareWhatTheyShare) {
    const Mesh apart = tubes(crossing({{1, 0, 0}, {0, 1, 0}}, "apart"));
    const Mesh merged = tubes(crossing({{1, 0, 0}, {0, 1, 0}}, "merged"));
    EXPECT_EQ(apart.part_count(), 2U);
    EXPECT_EQ(merged.part_count(), 1U);
    EXPECT_EQ(open_edges(merged), 0U);
    EXPECT_NEAR(volume(apart) - volume(merged), 16.0 / 3 * 0.125, 0.01);
    // Three of them share 8 (2 - sqrt 2) r^3 all together, each two the above.
    const Mesh three = tubes(crossing({{1, 0, 0}, {0, 1, 0}, {0, 0, 1}}, "merged"));
    EXPECT_EQ(open_edges(three), 0U);
    const double shared = 3 * 16.0 / 3 * 0.125 - 8 * (2 - std::numbers::sqrt2) * 0.125;
    EXPECT_NEAR(volume(apart) * 1.5 - volume(three), shared, 0.02);
    EXPECT_TRUE(three.fields().empty());
}

TEST(MergedTubes, ThatStandApartStayParts) {
    StudyMaker maker = crossing({{1, 0, 0}}, "merged");
    maker.add("thing.move", "moved");
    maker.set("moved", "thing", ResultName{"lines"}).number("moved", "z", "3 m");
    maker.add("thing.join", "both");
    maker.set("both", "first", ResultName{"lines"}).set("both", "second", ResultName{"moved"});
    maker.add("mesh.tube", "pair");
    maker.set("pair", "curves", ResultName{"both"}).word("pair", "meeting", "merged");
    const Mesh mesh = std::get<Mesh>(value_of(run(maker.study), "pair"));
    EXPECT_EQ(mesh.part_count(), 2U);
    EXPECT_EQ(open_edges(mesh), 0U);
}

TEST(MergedTubes, OpenOnesAreRefused) {
    StudyMaker maker = crossing({{1, 0, 0}, {0, 1, 0}}, "merged");
    maker.word("tubes", "ends", "open");
    const Error error = error_of(run(maker.study), "tubes");
    EXPECT_EQ(error.code, ErrorCode::has_gaps);
    EXPECT_EQ(error.slot, "ends");
}

}  // namespace
}  // namespace plume::test

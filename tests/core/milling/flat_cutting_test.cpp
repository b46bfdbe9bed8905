// Cutting flat: where cuts run, in which order, how they begin, by closed forms.

#include "core/milling/flat_cutting.hpp"

#include <algorithm>

#include "core/milling/flat_support.hpp"

namespace plume {
namespace {

using test::beam, test::cuts, test::cutter, test::rectangle, test::round_line, test::sheets;

// Runs of moves that cut, each as the places it goes through, its first one included.
struct CutRun {
    std::vector<Vec3> places;
    double length = 0;
    const ToolMove* first = nullptr;

    double turned() const {  // twice the area it goes around, anticlockwise
        double twice = 0;
        for (std::size_t at = 0; at < places.size(); ++at) {
            const Vec3 a = places[at], b = places[(at + 1) % places.size()];
            twice += a.x * b.y - b.x * a.y;
        }
        return twice;
    }
};
std::vector<CutRun> runs_of(const ToolPath& path) {
    std::vector<CutRun> runs;
    Vec3 at = path.start;
    bool cutting = false;
    for (const ToolMove& move : path.moves) {
        const bool cuts_now = move.form != ToolMove::Form::rapid;
        if (cuts_now && !cutting) runs.push_back({{at}, 0, &move});
        if (cuts_now) {
            runs.back().length += length_of(at, move);
            for (const Vec3 place : places_along(at, move, 0.001))
                runs.back().places.push_back(place);
        }
        cutting = cuts_now;
        at = move.to;
    }
    return runs;
}

constexpr double whole_turn = 2 * std::numbers::pi;

TEST(FlatCuts, APartIsCutOutsideAndItsOpeningsWithin) {
    const auto made = cuts(sheets({{}, {rectangle(0, 0, 200, 100), round_line(60, 50, 20)}, {}}), beam(4));
    const auto runs = runs_of(made.path);
    ASSERT_EQ(runs.size(), 2U);
    // The opening first, anticlockwise, by half of the width within; then the part, clockwise, outside.
    EXPECT_NEAR(runs[0].length, whole_turn * 18, 0.02);
    EXPECT_GT(runs[0].turned(), 0);
    EXPECT_NEAR(runs[1].length, 2 * (200 + 100) + whole_turn * 2, 0.02);
    EXPECT_LT(runs[1].turned(), 0);
    // Everything lies in the middle of a margin of 20.
    Box box;
    for (const CutRun& run : runs)
        for (const Vec3 place : run.places)
            box.include(place);
    EXPECT_NEAR(box.low.x, 18, 1e-3);
    EXPECT_NEAR(box.low.y, 18, 1e-3);
    EXPECT_NEAR(box.high.x, 222, 1e-3);
    EXPECT_NEAR(box.high.y, 122, 1e-3);
}

TEST(FlatCuts, RoundLinesAreFewArcs) {
    const auto made = cuts(sheets({{}, {round_line(60, 50, 20)}, {}}), beam(4));
    EXPECT_LE(made.path.moves.size(), 16U);
    EXPECT_TRUE(std::ranges::any_of(made.path.moves,
                                    [](const ToolMove& move) { return move.form == ToolMove::Form::arc; }));
}

TEST(FlatCuts, TheyBeginInWhatFallsOff) {
    FlatTool tool = beam(0.2);
    tool.lead_in = 6;
    const auto made = cuts(sheets({{}, {rectangle(0, 0, 200, 100), rectangle(30, 30, 60, 40)}, {}}), tool);
    const auto runs = runs_of(made.path);
    ASSERT_EQ(runs.size(), 2U);
    EXPECT_EQ(made.begun_on_line, 0U);
    // 45 degrees off its line: so far within the opening, and outside of the part, from the middle of a long
    // side. The sheet begins 20 before.
    const double beside = 0.1 + 6 * std::sqrt(0.5);
    const Vec3 in_opening = runs[0].places.front(), outside = runs[1].places.front();
    EXPECT_NEAR(std::min(in_opening.y - 50, 90 - in_opening.y), 0.1 + 6 * std::sqrt(0.5), 1e-3);
    EXPECT_NEAR(std::max(20 - outside.y, outside.y - 120), beside, 1e-3);
    EXPECT_NEAR(runs[0].length, 6 + 2 * (60 - 0.2 + 40 - 0.2), 1e-3);
}

TEST(FlatCuts, WithoutRoomTheyBeginCloserOrOnTheLine) {
    FlatTool tool = beam(1);
    tool.lead_in = 30;
    // The opening has no room for 30, but for a half of it.
    auto made = cuts(sheets({{}, {rectangle(0, 0, 40, 40), round_line(20, 20, 16)}, {}}, 40), tool);
    EXPECT_EQ(made.begun_on_line, 0U);
    EXPECT_NEAR(runs_of(made.path)[0].length, 15 + whole_turn * 15.5, 0.05);
    // Here there is none at all.
    made = cuts(sheets({{}, {rectangle(0, 0, 40, 40), round_line(20, 20, 1.5)}, {}}, 40), tool);
    EXPECT_EQ(made.begun_on_line, 1U);
    EXPECT_NEAR(runs_of(made.path)[0].length, whole_turn, 0.01);
}

TEST(FlatCuts, WhatIsWithinComesFirstHoweverDeep) {
    // A target of rings, and single parts with an opening each; the numbers say how deep each lies.
    FlatLines lines;
    for (int ring = 0; ring < 6; ++ring)
        lines.cuts.push_back(round_line(300, 300, 250 - 40 * ring));
    for (int part = 0; part < 5; ++part) {
        lines.cuts.push_back(rectangle(700, 120.0 * part, 100, 100));
        lines.cuts.push_back(rectangle(720, 120.0 * part + 20, 30, 30));
    }
    const auto on_sheets = sheets(lines);
    const auto made = cuts(on_sheets, beam(0.2));
    const auto runs = runs_of(made.path);
    ASSERT_EQ(runs.size(), 16U);
    const auto size = [](const CutRun& run) { return std::abs(run.turned()); };
    const auto box = [](const CutRun& run) {
        Box all;
        for (const Vec3 place : run.places)
            all.include(place);
        return all;
    };
    for (std::size_t one = 0; one < runs.size(); ++one)
        for (std::size_t later = one + 1; later < runs.size(); ++later) {
            const Box inner = box(runs[later]), outer = box(runs[one]);
            const bool within = inner.low.x > outer.low.x && inner.low.y > outer.low.y &&
                                inner.high.x < outer.high.x && inner.high.y < outer.high.y;
            EXPECT_FALSE(within && size(runs[later]) < size(runs[one])) << one << " before " << later;
        }
}

TEST(FlatCuts, TheNextOneIsTheNearest) {
    // A row, given in a wild order, is cut from end to end.
    FlatLines lines;
    for (const int at : {7, 2, 9, 0, 4, 1, 8, 3, 6, 5})
        lines.cuts.push_back(rectangle(50.0 * at, 0, 30, 30));
    const auto made = cuts(sheets(lines), beam(0));
    const auto runs = runs_of(made.path);
    ASSERT_EQ(runs.size(), 10U);
    for (std::size_t at = 1; at < runs.size(); ++at)
        EXPECT_NEAR(runs[at].places.front().x - runs[at - 1].places.front().x, 50, 1e-9);
}

TEST(FlatCuts, MarksAreMadeBeforeAnythingIsLoose) {
    const auto made = cuts(sheets({{},
                                   {rectangle(0, 0, 100, 100)},
                                   {{{{20, 20}, {80, 20}}, false}, {{{20, 40}, {80, 40}}, false}}}),
                           beam(0.2));
    const auto runs = runs_of(made.path);
    ASSERT_EQ(runs.size(), 3U);
    EXPECT_EQ(runs[0].first->strength, 200);
    EXPECT_EQ(runs[0].first->wait_s, 0);
    EXPECT_EQ(runs[2].first->strength, 1000);
    EXPECT_EQ(runs[2].first->wait_s, 0.5);
    // There and back: the second is begun at the end that is nearer.
    EXPECT_NEAR(runs[0].places.back().x, runs[1].places.front().x, 1e-9);
}

TEST(FlatCuts, ACutterGoesThroughLevelByLevel) {
    const auto made = cuts(sheets({{}, {rectangle(0, 0, 100, 60)}, {}}), cutter(6));
    const auto runs = runs_of(made.path);
    ASSERT_EQ(runs.size(), 1U);
    double lowest = 0;
    std::vector<double> levels;
    for (const Vec3 place : runs[0].places) {
        lowest = std::min(lowest, place.z);
        if (levels.empty() || levels.back() != place.z) levels.push_back(place.z);
    }
    EXPECT_NEAR(lowest, -18.5, 1e-9);
    ASSERT_EQ(levels.size(), 4U);  // above, and three that are alike
    EXPECT_NEAR(levels[1] - levels[2], 18.5 / 3, 1e-9);
    const double round = 2 * (100 + 60) + whole_turn * 3;
    EXPECT_NEAR(runs[0].length, 3 * round + 18.5 + 5, 0.05);
    EXPECT_EQ(made.path.moves.back().to.z, 5);
}

TEST(FlatCuts, OpeningsThatACutDoesNotFitIntoAreSaid) {
    const auto made = cuts(sheets({{}, {rectangle(0, 0, 100, 60), round_line(30, 30, 2.5)}, {}}), cutter(6));
    EXPECT_EQ(made.too_narrow, 1U);
    EXPECT_NEAR(made.first_too_narrow.x, 52.5, 3);
    EXPECT_EQ(runs_of(made.path).size(), 1U);
}

TEST(FlatCuts, BetweenSheetsTheMachineStops) {
    const FlatLines lines{{rectangle(0, 0, 300, 200), rectangle(320, 0, 300, 200)},
                          {rectangle(20, 20, 100, 100), rectangle(400, 30, 100, 100)},
                          {}};
    const auto on_sheets = sheets(lines);
    ASSERT_EQ(on_sheets.size(), 2U);
    EXPECT_EQ(on_sheets[1].width, 300);
    const auto made = cuts(on_sheets, beam(0));
    const auto runs = runs_of(made.path);
    ASSERT_EQ(runs.size(), 2U);
    EXPECT_EQ(runs[0].first->sheet, 0U);
    EXPECT_EQ(runs[1].first->sheet, 1U);
    // Each from its own corner.
    Box box;
    for (const Vec3 place : runs[1].places)
        box.include(place);
    EXPECT_NEAR(box.low.x, 80, 1e-9);
    EXPECT_NEAR(box.low.y, 30, 1e-9);
}

TEST(FlatCuts, WhatCannotBeCutIsSaid) {
    const auto refused = [](FlatLines lines) {
        const auto made = flat_sheets(std::move(lines), 10, plume::Run());
        return made ? "made" : sentence(made.error());
    };
    EXPECT_EQ(refused({}), "hold nothing to be cut. Give closed lines.");
    EXPECT_EQ(refused({{rectangle(0, 0, 50, 50)}, {rectangle(40, 0, 50, 50)}, {}}),
              "have a line that lies on no sheet, near X 40 Y 0 mm. Lay it within a rim, or give no rims.");
    const FlatLine bow{{{0, 0}, {50, 50}, {50, 0}, {0, 50}}, true};
    EXPECT_NE(refused({{}, {bow}, {}}).find("crosses itself near"), std::string::npos)
        << refused({{}, {bow}, {}});
    const FlatLine flat{{{0, 0}, {50, 0}, {80, 0}}, true};
    EXPECT_NE(refused({{}, {flat}, {}}).find("encloses nothing"), std::string::npos)
        << refused({{}, {flat}, {}});
}

TEST(FlatCuts, StopWhenTheyAreCancelled) {
    plume::Run run;
    run.cancel();
    EXPECT_EQ(flat_cuts(sheets({{}, {round_line(0, 0, 20)}, {}}), beam(0), run).error().code,
              ErrorCode::cancelled);
    EXPECT_EQ(flat_sheets({{}, {round_line(0, 0, 20)}, {}}, 10, run).error().code, ErrorCode::cancelled);
}

}  // namespace
}  // namespace plume

// Rehearsing what is cut flat: nothing to be said of our own files, and every fault of others.

#include "core/milling/flat_rehearsal.hpp"

#include <random>

#include "core/milling/flat_support.hpp"
#include "core/milling/gcode.hpp"

namespace plume {
namespace {

using test::beam, test::cuts, test::cutter, test::rectangle, test::rehearsed_flat, test::round_line,
    test::sheets;

ToolPath read(const std::string& text) {
    auto file = gcode_from(text, plume::Run());
    if (!file) throw std::runtime_error(sentence(file.error()));
    return std::move(file->path);
}
// As the file says it.
ToolPath through_file(const FlatCuts& made, const FlatTool& tool) {
    std::string text;
    write_gcode(made.path, {{}, {Cutter::flat(tool.kerf / 2)}, 0, tool.beam},
                [&](std::string_view bytes) { text += bytes; });
    return read(text);
}

// Panels with openings in rows, a mark on each, on sheets of 500 by 400.
FlatLines panels() {
    FlatLines lines;
    for (int sheet = 0; sheet < 3; ++sheet) {
        const double left = 600.0 * sheet;
        lines.rims.push_back(rectangle(left, 0, 500, 400));
        for (int row = 0; row < 3; ++row)
            for (int column = 0; column < 4; ++column) {
                const double x = left + 20 + 120 * column, y = 20 + 125.0 * row;
                lines.cuts.push_back(rectangle(x, y, 90, 90));
                lines.cuts.push_back(round_line(x + 45, y + 45, 20));
                lines.marks.push_back({{{x + 10, y + 10}, {x + 40, y + 10}, {x + 40, y + 15}}, false});
            }
    }
    return lines;
}

TEST(FlatRehearsals, OurFilesAreAsDrawn) {
    const auto on_sheets = sheets(panels());
    for (FlatTool tool : {beam(0.3), beam(0), cutter(6)}) {
        tool.lead_in = 5;
        const FlatRehearsal made = rehearsed_flat(through_file(cuts(on_sheets, tool), tool), on_sheets, tool);
        EXPECT_TRUE(made.as_wished()) << made.summary() << made.details().front();
        EXPECT_EQ(made.too_tight, 0);
        EXPECT_EQ(made.sheet_count, 3U);
        EXPECT_EQ(made.begun, 3 * 3 * 4 * 3U);
        const double marks = 3 * 12 * 35.0;
        EXPECT_NEAR(made.marked, marks, 1e-3);
        const double kerf = tool.kerf, turn = 2 * std::numbers::pi;
        const double once = 36 * (4 * 90 + turn * kerf / 2 + turn * (20 - kerf / 2) + 2 * 5);
        // A cutter leads in once, and goes around three times, down by 18.5 each time.
        const double expected = tool.beam ? once : 3 * once - 36 * 2 * 2 * 5 + 72 * 18.5 * 2 / 3;
        EXPECT_NEAR(made.cut, expected, 1) << kerf;
    }
}

TEST(FlatRehearsals, WaitingAndFeedsMakeTheTime) {
    const auto on_sheets = sheets({{}, {{{{0, 0}, {300, 0}}, false}}, {}}, 0);
    FlatTool tool = beam(0);
    const FlatRehearsal made = rehearsed_flat(through_file(cuts(on_sheets, tool), tool), on_sheets, tool);
    EXPECT_EQ(made.waited_s, 0.5);
    // From standing to standing at 500 mm a second, a second: 300 mm at 50 mm/s, and back at 100 mm/s.
    const double cut = 300.0 / 50 + 50.0 / 500, back = 300.0 / 100 + 100.0 / 500;
    EXPECT_NEAR(made.path.minutes * 60, 0.5 + cut + back, 1e-6);
}

TEST(FlatRehearsals, CutsInWhatIsLooseAreFound) {
    const auto on_sheets = sheets({{}, {rectangle(0, 0, 100, 100), rectangle(30, 30, 40, 40)}, {}}, 10);
    const FlatRehearsal made = rehearsed_flat(read("G21 G90\nS1000 M3\nF1000\n"
                                                   "G0 X10 Y10\nG1 X110\nY110\nX10\nY10\n"
                                                   "G0 X40 Y40\nG1 X80\nY80\nX40\nY40\n"),
                                              on_sheets, beam(0));
    EXPECT_EQ(made.loose_cuts, 4U);
    EXPECT_EQ(made.first_loose_cut, 10U);
    EXPECT_EQ(made.uncut, 0);
    EXPECT_EQ(made.bitten, 0);
    // The beam stays on between.
    EXPECT_EQ(made.rapid_cuts, 2U);
    EXPECT_EQ(made.first_rapid_cut, 4U);
    EXPECT_FALSE(made.as_wished());
}

TEST(FlatRehearsals, CutsIntoPartsAndWhatIsLeftAreMeasured) {
    // On the line instead of beside it, and only three sides.
    const auto on_sheets = sheets({{}, {rectangle(0, 0, 100, 100)}, {}}, 10);
    const FlatRehearsal made = rehearsed_flat(
        read("G21 G90\nF1000\nG0 X10 Y10\nS1000 M3\nG1 X110\nY110\nX10\nM5\n"), on_sheets, beam(4));
    EXPECT_NEAR(made.bitten, 300, 1e-6);
    EXPECT_NEAR(made.deepest_bite, 2, 1e-6);
    EXPECT_EQ(made.first_bite, 5U);
    EXPECT_NEAR(made.uncut, 100 - 2 * 2, 2.1);  // it is seen every two millimetres
    EXPECT_EQ(made.loose_cuts, 0U);
    EXPECT_NE(made.summary().find("cuts 2 mm into parts"), std::string::npos) << made.summary();
}

TEST(FlatRehearsals, CornersThatACutterDoesNotFitIntoAreNoFault) {
    // Within the corners of an opening a cutter of 20 leaves as much as a circle does, at each side 10 of the
    // line, as far as that is more than a tenth off.
    const auto on_sheets = sheets({{}, {rectangle(0, 0, 200, 200), rectangle(50, 50, 100, 100)}, {}}, 40);
    const FlatTool tool = cutter(20);
    const FlatRehearsal made = rehearsed_flat(through_file(cuts(on_sheets, tool), tool), on_sheets, tool);
    EXPECT_TRUE(made.as_wished()) << made.summary();
    // 10 - s from where the circle touches, its distance is hypot(10, s) - 10 > 0.1.
    const double from = std::sqrt(10.1 * 10.1 - 10 * 10);
    EXPECT_NEAR(made.too_tight, 8 * (10 - from), 8 * 2);
    EXPECT_GT(made.too_tight, 0);
}

TEST(FlatRehearsals, WhatLeavesItsSheetAndSheetsThatThereAreNotAreSaid) {
    const auto on_sheets = sheets({{rectangle(0, 0, 200, 100)}, {rectangle(20, 20, 50, 50)}, {}});
    const FlatRehearsal made =
        rehearsed_flat(read("G21 G90\nF1000\nG0 X20 Y20\nS1000 M3\nG1 X70\nY70\nX20\nY20\nM5\n"
                            "G0 X190 Y80\nM3\nG1 X230\nM5\nM0\nG0 X0 Y0\nM3\nG1 X5\nM5\n"),
                       on_sheets, beam(0));
    EXPECT_NEAR(made.off_sheet, 29.5, 0.6);
    EXPECT_EQ(made.first_off_sheet, 12U);
    EXPECT_EQ(made.missing_sheets, 1U);
    EXPECT_EQ(made.uncut, 0);
}

TEST(FlatRehearsals, MarksAreToldFromCutsByWhatTheyGiveALength) {
    const auto on_sheets = sheets({{}, {rectangle(0, 0, 100, 100)}, {{{{20, 20}, {80, 20}}, false}}}, 10);
    const std::string around = "G0 X10 Y10\nS1000 M3\nG1 X110 F1000\nY110\nX10\nY10\nM5\n";
    // Of the same strength but ten times as fast.
    FlatRehearsal made = rehearsed_flat(read("G21 G90\nG0 X30 Y30\nS1000 M3\nG1 X90 F10000\nM5\n" + around),
                                        on_sheets, beam(0));
    EXPECT_TRUE(made.as_wished()) << made.summary();
    EXPECT_NEAR(made.marked, 60, 1e-9);
    // As strong as a cut it goes through the part.
    made = rehearsed_flat(read("G21 G90\nG0 X30 Y30\nS1000 M3\nG1 X90 F1000\nM5\n" + around), on_sheets,
                          beam(0));
    EXPECT_NEAR(made.bitten, 60, 1e-9);
    EXPECT_NEAR(made.unmarked, 60, 1e-9);
}

TEST(FlatRehearsals, ALevelThatIsMissingLeavesAllOfItUncut) {
    const auto on_sheets = sheets({{}, {rectangle(0, 0, 100, 60)}, {}});
    FlatTool tool = cutter(6);
    tool.depth = 17;
    const FlatRehearsal made = rehearsed_flat(through_file(cuts(on_sheets, tool), tool), on_sheets, tool);
    EXPECT_NEAR(made.uncut, 320, 1e-6);
    EXPECT_GT(made.cut, 3 * 320);
}

// Wherever parts are and however they nest, nothing is to be said.
TEST(FlatRehearsals, WhateverIsCutItIsAsDrawn) {
    std::mt19937 chance(7);
    std::uniform_real_distribution<double> size(0.3, 1);
    FlatLines lines;
    for (int x = 0; x < 8; ++x)
        for (int y = 0; y < 8; ++y) {
            double radius = 48 * size(chance);
            for (int ring = 0; ring < 5 && radius > 8; ++ring, radius -= 6 + 20 * size(chance))
                lines.cuts.push_back(
                    round_line(100.0 * x, 100.0 * y, radius, 6 + static_cast<int>(chance() % 60)));
            lines.marks.push_back({{{100.0 * x - 2, 100.0 * y}, {100.0 * x + 2, 100.0 * y}}, false});
        }
    const auto on_sheets = sheets(lines);
    FlatTool tool = beam(0.3);
    tool.lead_in = 2;
    const FlatRehearsal made = rehearsed_flat(through_file(cuts(on_sheets, tool), tool), on_sheets, tool);
    EXPECT_TRUE(made.as_wished()) << made.summary();
    EXPECT_EQ(made.begun, lines.cuts.size() + lines.marks.size());
}

}  // namespace
}  // namespace plume

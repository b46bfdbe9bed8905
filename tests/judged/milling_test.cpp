// Milling files as a reader finds them that nobody here made.

#include <cmath>
#include <fstream>

#include "core/base/file.hpp"
#include "core/milling/flat_support.hpp"
#include "core/milling/gcode.hpp"
#include "core/milling/milled_forms.hpp"
#include "core/milling/milling_paths.hpp"
#include "judged/judges.hpp"

namespace plume {
namespace {

using Json = nlohmann::json;

MilledPaths dome(MillingWay way) {
    static const Mesh form = test::relief(60, 60, 60, 60, [](double x, double y) {
        return std::sqrt(2500 - (x - 30) * (x - 30) - (y - 30) * (y - 30)) - 50;
    });
    MillingJob job;
    job.form = &form;
    job.cutter = Cutter::ball(6);
    job.way = way;
    job.apart = 2;
    job.roughing = Roughing{Cutter::flat(8), 12, 5, 0.5};
    return *milling_paths(job, plume::Run());
}

TEST(JudgedMilling, LengthsAndBoundsAreThoseOfAnotherReader) {
    const test::Folder folder;
    for (const MillingWay way : {MillingWay::parallel, MillingWay::contours, MillingWay::spiral}) {
        const MilledPaths made = dome(way);
        const ToolPath path = with_arcs(made.path, 0.01);
        std::string text;
        write_gcode(path, {{"dome"}, made.cutters}, [&](std::string_view bytes) { text += bytes; });
        std::ofstream(folder / "dome.nc") << text;
        const Json read = test::judged("gcode.mjs", folder / "dome.nc");
        EXPECT_EQ(read["tools"], 2);
        EXPECT_GT(read["arcs"].get<int>(), 20);
        // Files do not say where the tip is before: there its first move begins at the origin.
        ToolPath from_zero = path;
        from_zero.start = {};
        const PathFigures figures = figures_of(from_zero, {});
        // Rounded to a ten-thousandth of a millimetre, each.
        const double rounding = 1e-4 * static_cast<double>(path.moves.size());
        EXPECT_NEAR(read["cutting"].get<double>(), figures.cutting, rounding);
        EXPECT_NEAR(read["rapid"].get<double>(), figures.rapid, rounding);
        Box box;
        for (const ToolMove& move : path.moves)
            box.include(move.to);
        for (int axis = 0; axis < 3; ++axis) {
            const auto of = [&](Vec3 place) { return axis == 0 ? place.x : axis == 1 ? place.y : place.z; };
            EXPECT_NEAR(read["low"][axis].get<double>(), of(box.low), 1e-4);
            EXPECT_NEAR(read["high"][axis].get<double>(), of(box.high), 1e-4);
        }
        // And our own reader.
        const auto ours = gcode_from(text, plume::Run());
        ASSERT_TRUE(ours) << sentence(ours.error());
        EXPECT_NEAR(figures_of(ours->path, {}).cutting, figures.cutting, rounding);
        // Moves shorter than a digit are not written.
        EXPECT_EQ(read["moves"], ours->path.moves.size());
        EXPECT_NEAR(read["moves"].get<double>(), static_cast<double>(path.moves.size()), 5);
    }
}

// Panels with round openings, by a beam and by a cutter.
TEST(JudgedCutting, LengthsAndBoundsAreThoseOfAnotherReader) {
    const test::Folder folder;
    FlatLines lines;
    for (int panel = 0; panel < 6; ++panel) {
        lines.cuts.push_back(test::rectangle(130.0 * panel, 0, 100, 160));
        lines.cuts.push_back(test::round_line(130.0 * panel + 50, 80, 20 + 3 * panel));
        lines.marks.push_back({{{130.0 * panel + 10, 10}, {130.0 * panel + 40, 20}}, false});
    }
    const auto on_sheets = test::sheets(lines);
    for (FlatTool tool : {test::beam(0.3), test::cutter(6)}) {
        tool.lead_in = 4;
        const FlatCuts made = test::cuts(on_sheets, tool);
        std::string text;
        write_gcode(made.path, {{"panels"}, {Cutter::flat(3)}, 0, tool.beam},
                    [&](std::string_view bytes) { text += bytes; });
        std::ofstream(folder / "panels.nc") << text;
        const Json read = test::judged("gcode.mjs", folder / "panels.nc");
        EXPECT_GT(read["arcs"].get<int>(), 24);
        const auto ours = gcode_from(text, plume::Run());
        ASSERT_TRUE(ours) << sentence(ours.error());
        const FlatRehearsal rehearsal = test::rehearsed_flat(ours->path, on_sheets, tool);
        EXPECT_TRUE(rehearsal.as_wished()) << rehearsal.summary();
        const double rounding = 1e-4 * static_cast<double>(ours->path.moves.size());
        // The other reader counts plunges as cuts.
        const double plunges = tool.beam ? 0 : 12 * (tool.safe + tool.depth) + 6 * (tool.safe + 0.5);
        const double levels_down = tool.beam ? 0 : 12 * tool.depth * 2 / 3;
        EXPECT_NEAR(read["cutting"].get<double>(), rehearsal.cut + rehearsal.marked + plunges - levels_down,
                    rounding);
        Box box;
        for (const ToolMove& move : made.path.moves)
            box.include(move.to);
        EXPECT_NEAR(read["low"][0].get<double>(), box.low.x, 1e-4);
        EXPECT_NEAR(read["high"][0].get<double>(), box.high.x, 1e-4);
        EXPECT_NEAR(read["high"][1].get<double>(), box.high.y, 1e-4);
    }
}

}  // namespace
}  // namespace plume

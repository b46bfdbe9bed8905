// Milling files as a reader finds them that nobody here made.

#include <cmath>
#include <fstream>

#include "core/base/file.hpp"
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

}  // namespace
}  // namespace plume

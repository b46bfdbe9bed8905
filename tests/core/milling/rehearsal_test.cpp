// What milling leaves of boards: ridges, what cannot be reached, what is cut too deep, and for how long;
// against closed forms.

#include "core/milling/rehearsal.hpp"

#include "core/milling/milled_forms.hpp"
#include "core/milling/milling_paths.hpp"
#include "core/milling/playback.hpp"

namespace plume {
namespace {

constexpr double degree = std::numbers::pi / 180;

MilledPaths paths(const MillingJob& job) {
    auto made = milling_paths(job, plume::Run());
    if (!made) throw std::runtime_error(sentence(made.error()));
    return *std::move(made);
}
Rehearsal rehearse(const MilledPaths& made, const Mesh& form, Board board, std::size_t cells = 400'000) {
    RehearsalJob job{&form, board, made.cutters};
    job.about_cells = cells;
    auto done = rehearsed(made.path, job, plume::Run());
    if (!done) throw std::runtime_error(sentence(done.error()));
    return *std::move(done);
}
MillingJob job_of(const Mesh& form, const Cutter& cutter, double apart, double angle = 0) {
    MillingJob job;
    job.form = &form;
    job.cutter = cutter;
    job.apart = apart;
    job.angle_rad = angle;
    return job;
}
double height_at(const Rehearsal& made, double x, double y) {
    const CellGrid& grid = made.stock.grid();
    return static_cast<double>(
        made.stock.heights()[grid.index(static_cast<std::size_t>((x - grid.low_x) / grid.cell),
                                        static_cast<std::size_t>((y - grid.low_y) / grid.cell))]);
}

TEST(Stock, OneMoveLeavesItsCutter) {
    for (const Cutter& cutter : {Cutter::flat(6), Cutter::ball(6), Cutter{6, 2}}) {
        Stock stock(cells_over(0, 0, 60, 40, 240'000), 0);
        const CellGrid grid = stock.grid();
        EXPECT_NEAR(stock.cut(cutter, {15, 20, -5}, {45, 20, -5}), 5, 1e-3) << "to the middle of a cell";
        for (std::size_t row = 0; row < grid.rows; ++row) {
            const double off = std::abs(grid.y(row) - 20);
            const double wanted = off > 6 ? 0 : std::min(0.0, -5 + cutter.rise_at(off));
            EXPECT_NEAR(static_cast<double>(stock.heights()[grid.index(grid.columns / 2, row)]), wanted,
                        1e-5);
        }
        // Round at its end.
        const double before = 15 - 3.05;
        const auto column = static_cast<std::size_t>(before / grid.cell);
        const double distance = std::hypot(grid.x(column) - 15, grid.y(grid.rows / 2) - 20);
        EXPECT_NEAR(static_cast<double>(stock.heights()[grid.index(column, grid.rows / 2)]),
                    std::min(0.0, -5 + cutter.rise_at(distance)), 1e-5);
    }
}

// A sloping move is what many short level ones between are, which is found by trying them all.
TEST(Stock, ASlopingMoveIsTheLowestOfAllItsPlaces) {
    for (const Cutter& cutter : {Cutter::flat(5), Cutter::ball(5), Cutter{5, 2}})
        for (const double to_z : {-14.0, 0.0, 3.0}) {
            const Vec3 from{12, 11, -4}, to{31, 24, to_z};
            Stock once(cells_over(0, 0, 40, 40, 10'000), 0);
            once.cut(cutter, from, to);
            const CellGrid grid = once.grid();
            for (std::size_t cell = 0; cell < grid.count(); cell += 7) {
                const double x = grid.x(cell % grid.columns), y = grid.y(cell / grid.columns);
                double lowest = 0;
                for (int step = 0; step <= 4000; ++step) {
                    const Vec3 tip = from + (to - from) * (step / 4000.0);
                    const double distance = std::hypot(x - tip.x, y - tip.y);
                    if (distance <= cutter.radius)
                        lowest = std::min(lowest, tip.z + cutter.rise_at(distance));
                }
                EXPECT_NEAR(static_cast<double>(once.heights()[cell]), lowest, 0.02) << x << ' ' << y;
            }
        }
}

TEST(Rehearsals, ALevelFaceHasTheRidgesOfItsBall) {
    const Mesh level = test::relief(60, 40, 1, 1, [](double, double) { return -5.0; });
    const Cutter ball = Cutter::ball(6);
    for (const double angle : {0.0, 90 * degree, 30 * degree}) {
        const Rehearsal made = rehearse(paths(job_of(level, ball, 2, angle)), level, {60, 40, 10});
        // Paths are spread evenly, no further apart than asked.
        // Near a rim that they meet aslant the middle between two is nearer to the way along the rim.
        EXPECT_LE(made.most_left, ridge_between(ball, 2) + 1e-4) << angle;
        EXPECT_GT(made.most_left, ridge_between(ball, 1.8) * 0.9);
        EXPECT_EQ(made.area_too_deep, 0);
        EXPECT_EQ(made.rapid_cuts, 0U);
        EXPECT_EQ(made.left_count, 0U);
    }
}

TEST(Rehearsals, AFlatCutterLeavesNothingOnALevelFace) {
    const Mesh level = test::relief(60, 40, 1, 1, [](double, double) { return -5.0; });
    const Rehearsal made = rehearse(paths(job_of(level, Cutter::flat(6), 8)), level, {60, 40, 10});
    EXPECT_NEAR(made.most_left, 0, 1e-5);
    EXPECT_NEAR(made.most_too_deep, 0, 1e-5);
    EXPECT_TRUE(made.summary().ends_with("within 0 mm of the form")) << made.summary();
}

TEST(Rehearsals, ARampIsMilledAlongItsSlope) {
    // Along the slope: ridges stand square to it.
    const Mesh ramp = test::ramp(60, 40, 0.5);
    const Rehearsal made = rehearse(paths(job_of(ramp, Cutter::ball(6), 1)), ramp, {60, 40, 40});
    const double ridge = ridge_between(Cutter::ball(6), 1);
    EXPECT_NEAR(made.mean_left, ridge / 3, ridge / 3 * 0.15) << "a parabola's mean is a third of its height";
    EXPECT_LT(made.most_too_deep, 0.02);
    EXPECT_EQ(made.rapid_cuts, 0U);
}

TEST(Rehearsals, AValleyKeepsWhatTheBallCannotReach) {
    const double slope = 1, radius = 6;
    const Mesh valley = test::valley(60, 40, slope);
    const MilledPaths made = paths(job_of(valley, Cutter::ball(radius), 0.5));
    const Rehearsal done = rehearse(made, valley, {60, 40, 40}, 1'000'000);
    // In the edge: a ball that touches both sides is R (1 / cos a - 1) above it.
    const double rest = radius * (std::sqrt(1 + slope * slope) - 1);
    EXPECT_NEAR(height_at(done, 30, 20), -30 + rest, 0.03);
    // Square to one of its sides less, by the slope.
    EXPECT_GT(done.most_left, rest / std::sqrt(2.0) - 0.02);
    EXPECT_LT(done.most_left, rest + 0.02);
    EXPECT_NEAR(done.left.front().upwards, rest, 0.4);
    ASSERT_EQ(done.left_count, 1U);
    EXPECT_TRUE(done.left.front().too_tight);
    EXPECT_NEAR(done.left.front().worst.x, 30, 0.1);
    EXPECT_NE(done.summary().find("1 place too tight for the cutter"), std::string::npos) << done.summary();
    EXPECT_LT(done.most_too_deep, 0.02);
}

TEST(Rehearsals, ADomeIsTrueWhicheverWayItIsMilled) {
    const double radius = 50;
    const Mesh dome = test::relief(60, 60, 60, 60, [&](double x, double y) {
        return std::sqrt(radius * radius - (x - 30) * (x - 30) - (y - 30) * (y - 30)) - radius;
    });
    const Cutter ball = Cutter::ball(6);
    for (const MillingWay way : {MillingWay::parallel, MillingWay::spiral}) {
        MillingJob job = job_of(dome, ball, 1);
        job.way = way;
        const MilledPaths made = paths(job);
        const Rehearsal done = rehearse(made, dome, {60, 60, 30});
        EXPECT_LT(done.most_too_deep, 0.02);
        // Slopes up to 58 degrees in its corners: ridges upwards are higher by both the distance along the
        // slope and the cosine.
        EXPECT_LT(done.mean_left, 0.04);
        EXPECT_LT(height_at(done, 30, 30), 0.03);
        // The same as arcs.
        const ToolPath arcs = with_arcs(made.path, job.within);
        const Rehearsal as_arcs = rehearse({made.cutters, arcs}, dome, {60, 60, 30});
        EXPECT_LT(as_arcs.most_too_deep, 0.03);
        EXPECT_NEAR(as_arcs.mean_left, done.mean_left, 0.01);
        EXPECT_NEAR(as_arcs.path.cutting, done.path.cutting, done.path.cutting * 0.002);
    }
}

TEST(Rehearsals, ContoursRunLevel) {
    const Mesh pyramid = test::relief(
        60, 60, 2, 2, [](double x, double y) { return -std::max(std::abs(x - 30), std::abs(y - 30)); });
    MillingJob job = job_of(pyramid, Cutter::ball(4), 2);
    job.way = MillingWay::contours;
    const MilledPaths made = paths(job);
    const Rehearsal done = rehearse(made, pyramid, {60, 60, 40});
    EXPECT_LT(done.most_too_deep, 0.03);
    double level = 0, other = 0;
    Vec3 at = made.path.start;
    for (const ToolMove& move : made.path.moves) {
        if (move.form == ToolMove::Form::line)
            (std::abs(move.to.z - at.z) < 0.02 ? level : other) += length(move.to - at);
        at = move.to;
    }
    EXPECT_GT(level, 5 * other);
}

TEST(Rehearsals, RoughingGoesLevelByLevelAndLeavesItsAllowance) {
    const Mesh level = test::relief(60, 40, 1, 1, [](double, double) { return -9.0; });
    MillingJob job = job_of(level, Cutter::ball(6), 2);
    job.roughing = Roughing{Cutter::flat(8), 12, 4, 0.5};
    const MilledPaths made = paths(job);
    ASSERT_EQ(made.cutters.size(), 2U);
    std::set<double> heights;
    for (const ToolMove& move : made.path.moves)
        if (move.tool == 0 && move.form == ToolMove::Form::line)
            heights.insert(std::round(move.to.z * 1e6) / 1e6);
    EXPECT_EQ(heights, (std::set<double>{-8.5, -8, -4}));
    // Without the finishing its allowance is left, no more.
    ToolPath roughed{made.path.start, {}};
    for (const ToolMove& move : made.path.moves)
        if (move.tool == 0) roughed.moves.push_back(move);
    const Rehearsal rough = rehearse({made.cutters, roughed}, level, {60, 40, 12});
    EXPECT_NEAR(rough.most_left, 0.5, 1e-4);
    EXPECT_EQ(rough.most_too_deep, 0);
    const Rehearsal done = rehearse(made, level, {60, 40, 12});
    EXPECT_LE(done.most_left, ridge_between(job.cutter, 2) + 1e-4);
    EXPECT_EQ(done.rapid_cuts, 0U);
}

TEST(Rehearsals, ClampsAreKeptClear) {
    const Mesh level = test::relief(60, 40, 1, 1, [](double, double) { return -5.0; });
    const Mesh clamp =
        test::mesh_of_faces({{-10, 10, 3}, {10, 10, 3}, {10, 30, 3}, {-10, 30, 3}}, {{0, 1, 2, 3}});
    MillingJob job = job_of(level, Cutter::ball(6), 2);
    job.clamps = &clamp;
    job.clearance = 2;
    const MilledPaths made = paths(job);
    Vec3 at = made.path.start;
    for (const ToolMove& move : made.path.moves) {
        for (int step = 0; step <= 20; ++step) {
            const Vec3 tip = at + (move.to - at) * (step / 20.0);
            const double x = std::max(0.0, tip.x - 10), y = std::max({0.0, 10 - tip.y, tip.y - 30});
            EXPECT_TRUE(tip.z > 3 || std::hypot(x, y) > 8 - 0.02) << tip.x << ' ' << tip.y;
        }
        at = move.to;
    }
    const Rehearsal done = rehearse(made, level, {60, 40, 10});
    EXPECT_NEAR(done.most_left, 5, 1e-6) << "under the clamp the board stays";
    job.safe = 3;
    const auto low = milling_paths(job, plume::Run());
    ASSERT_FALSE(low);
    EXPECT_EQ(low.error().slot, "safe");
}

TEST(Rehearsals, FaultsOfForeignPathsAreSeen) {
    const Mesh level = test::relief(60, 40, 1, 1, [](double, double) { return -5.0; });
    ToolPath path{{0, 0, 5}, {}};
    const auto add = [&](ToolMove::Form form, Vec3 to) {
        ToolMove move{form, to};
        move.feed = 600;
        move.line = static_cast<std::uint32_t>(path.moves.size() + 1);
        path.moves.push_back(move);
    };
    add(ToolMove::Form::rapid, {10, 10, 5});
    add(ToolMove::Form::line, {10, 10, -6});
    add(ToolMove::Form::line, {30, 10, -6});
    add(ToolMove::Form::rapid, {30, 10, -3});
    add(ToolMove::Form::rapid, {30, 30, -3});
    add(ToolMove::Form::line, {30, 30, -12});
    RehearsalJob job{&level, {60, 40, 10}, {Cutter::flat(3)}};
    job.about_cells = 100'000;
    const auto done = rehearsed(path, job, plume::Run());
    ASSERT_TRUE(done);
    EXPECT_NEAR(done->most_too_deep, 7, 1e-4);
    // A slot of 20 by 6 with round ends, and a hole, within a cell or two along their rims.
    const double slot = 20 * 6 + 9 * std::numbers::pi, hole = 9 * std::numbers::pi;
    EXPECT_NEAR(done->area_too_deep, slot + hole, 8);
    EXPECT_EQ(done->rapid_cuts, 1U);
    EXPECT_EQ(done->first_rapid_cut, 5U);
    EXPECT_NEAR(done->below_board, 2, 1e-12);
    EXPECT_NE(done->summary().find("cut too deep by 7 mm"), std::string::npos) << done->summary();
    EXPECT_NE(done->summary().find("1 rapid move cuts, the first in line 5"), std::string::npos);
}

TEST(MachineTimes, AreThoseOfSpeedingUpAndSlowingDown) {
    const MachineSpeeds speeds{6000, 500, 0.26};
    const auto minutes = [&](const std::vector<Vec3>& places, double feed) {
        ToolPath path{{}, {}};
        for (const Vec3 place : places) {
            ToolMove move{ToolMove::Form::line, place};
            move.feed = feed;
            path.moves.push_back(move);
        }
        return figures_of(path, speeds).minutes;
    };
    // 100 mm at 50 mm a second and 500 mm a second, a second: 2 s and a tenth.
    EXPECT_NEAR(minutes({{100, 0, 0}}, 3000) * 60, 2.1, 1e-9);
    EXPECT_NEAR(minutes({{40, 0, 0}, {70, 0, 0}, {100, 0, 0}}, 3000) * 60, 2.1, 1e-9) << "straight on";
    EXPECT_NEAR(minutes({{100, 0, 0}, {100, 100, 0}}, 3000) * 60, 4.2, 1e-9) << "round a corner";
    EXPECT_NEAR(minutes({{2, 0, 0}}, 3000) * 60, 2 * std::sqrt(2.0 / 500), 1e-9) << "too short for its speed";
    // A circle goes on smoothly.
    ToolMove arc{ToolMove::Form::arc, {10, 0, 0}};
    arc.centre = {0, 0, 0};
    arc.feed = 3000;
    arc.anticlockwise = true;
    const ToolPath circle{{10, 0, 0}, {arc}};
    EXPECT_NEAR(length_of(circle.start, arc), 20 * std::numbers::pi, 1e-9);
    EXPECT_NEAR(figures_of(circle, speeds).minutes * 60, 20 * std::numbers::pi / 50 + 0.1, 1e-9);
}

TEST(Rehearsals, PathsTooManyToBeKeptAreRefused) {
    const Mesh level = test::relief(600, 400, 1, 1, [](double, double) { return -5.0; });
    MillingJob job = job_of(level, Cutter::ball(6), 1e-4);
    for (const MillingWay way : {MillingWay::parallel, MillingWay::spiral}) {
        job.way = way;
        const auto refused = milling_paths(job, plume::Run());
        ASSERT_FALSE(refused);
        EXPECT_EQ(refused.error().code, ErrorCode::over_budget);
        EXPECT_EQ(refused.error().slot, "apart");
    }
    job.apart = 2;
    job.roughing = Roughing{Cutter::flat(8), 1e-4, 4, 0.5};
    EXPECT_EQ(milling_paths(job, plume::Run()).error().slot, "rough_apart");
    job.roughing = Roughing{Cutter::flat(8), 10, 1e-5, 0.5};
    EXPECT_EQ(milling_paths(job, plume::Run()).error().slot, "step_down");
}

// Wherever it is gone to, and from wherever, the board is that of the moves up to then.
TEST(Playbacks, ForwardsAndBackwardsAreTheSame) {
    const Mesh ramp = test::ramp(60, 40, 0.5);
    MillingJob milled = job_of(ramp, Cutter::ball(6), 4);
    milled.roughing = Roughing{Cutter::flat(8), 12, 6, 0.5};
    const MilledPaths made = paths(milled);
    RehearsalJob job{&ramp, {60, 40, 40}, made.cutters};
    job.about_cells = 2400;
    const ToolPath path = with_arcs(made.path, 0.01);
    const auto timed = std::make_shared<const TimedPath>(path, job.speeds);
    const auto at = [&](double minutes) {
        Playback playback(timed, job);
        playback.go_to(minutes);
        return playback.stock().heights();
    };
    Playback playback(timed, job);
    EXPECT_NEAR(playback.minutes(), figures_of(path, {}).minutes, 1e-9);
    for (const double share : {0.3, 0.9, 0.5, 0.501, 0.0, 1.0, 0.7, 0.2}) {
        const double minutes = share * playback.minutes();
        playback.go_to(minutes);
        EXPECT_NEAR(playback.now(), minutes, 1e-12);
        const std::vector<float> straight_there = at(minutes);
        double most = 0;
        for (std::size_t cell = 0; cell < straight_there.size(); ++cell)
            most = std::max(
                most, static_cast<double>(std::abs(straight_there[cell] - playback.stock().heights()[cell])));
        EXPECT_LT(most, 1e-5) << share;
    }
    playback.go_to(1e9);
    EXPECT_EQ(playback.move(), path.moves.size());
    EXPECT_EQ(playback.tip(), path.moves.back().to);
    const auto whole = rehearsed(path, job, plume::Run());
    ASSERT_TRUE(whole);
    for (std::size_t cell = 0; cell < playback.stock().heights().size(); ++cell)
        EXPECT_NEAR(playback.stock().heights()[cell], whole->stock.heights()[cell], 0.05F);
    playback.go_to(-1);
    EXPECT_EQ(playback.tip(), path.start);
    EXPECT_EQ(*std::ranges::min_element(playback.stock().heights()), 0);
}

TEST(Playbacks, HalfAMoveIsHalfOfItsWay) {
    ToolPath path{{0, 20, -5}, {}};
    ToolMove move{ToolMove::Form::line, {60, 20, -5}};
    move.feed = 1000;
    path.moves.push_back(move);
    RehearsalJob job{nullptr, {60, 40, 10}, {Cutter::flat(3)}};
    job.about_cells = 2400;
    Playback playback(std::make_shared<const TimedPath>(path, job.speeds), job);
    playback.go_to(playback.minutes() / 2);
    EXPECT_NEAR(playback.tip().x, 30, 1e-9);
    const CellGrid& grid = playback.stock().grid();
    const auto height = [&](double x) {
        return playback.stock().heights()[grid.index(static_cast<std::size_t>(x / grid.cell), grid.rows / 2)];
    };
    EXPECT_EQ(height(31), -5);
    EXPECT_EQ(height(35), 0);
}

TEST(Rehearsals, StopWhenTheyAreCancelled) {
    const Mesh level = test::relief(60, 40, 1, 1, [](double, double) { return -5.0; });
    plume::Run run;
    run.cancel();
    const MillingJob job = job_of(level, Cutter::ball(6), 2);
    EXPECT_EQ(milling_paths(job, run).error().code, ErrorCode::cancelled);
    const MilledPaths made = paths(job);
    EXPECT_EQ(rehearsed(made.path, {&level, {60, 40, 10}, made.cutters}, run).error().code,
              ErrorCode::cancelled);
}

}  // namespace
}  // namespace plume

// Milling files: what is written is what is read back; what others write; what is refused.

#include "core/milling/gcode.hpp"

#include <cmath>
#include <numbers>

#include "core/support.hpp"

namespace plume {
namespace {

std::string written(const ToolPath& path, const GcodeHead& head = {}) {
    std::string text;
    write_gcode(path, head, [&](std::string_view bytes) { text += bytes; });
    return text;
}
GcodeFile read(std::string_view text) {
    auto file = gcode_from(text, plume::Run());
    if (!file) throw std::runtime_error(sentence(file.error()));
    return *std::move(file);
}
std::string refused(std::string_view text) {
    const auto file = gcode_from(text, plume::Run());
    return file ? "read" : sentence(file.error());
}
ToolMove line_to(Vec3 to, double feed) {
    ToolMove move{ToolMove::Form::line, to};
    move.feed = feed;
    return move;
}

TEST(Gcode, WhatIsWrittenIsReadBack) {
    ToolPath path{{0, 0, 5}, {}};
    path.moves.push_back({ToolMove::Form::rapid, {10, 20.5, 5}});
    path.moves.push_back(line_to({10, 20.5, -1.25}, 300));
    path.moves.push_back(line_to({40, 20.5, -1.25}, 1200));
    for (const auto plane : {ToolMove::Plane::xy, ToolMove::Plane::zx, ToolMove::Plane::yz}) {
        ToolMove arc = line_to({}, 1200);
        arc.form = ToolMove::Form::arc;
        arc.plane = plane;
        arc.anticlockwise = plane != ToolMove::Plane::zx;
        const Vec3 at = path.moves.back().to;
        arc.centre = at;
        arc.to = at;
        auto& centre = plane == ToolMove::Plane::yz ? arc.centre.y : arc.centre.x;
        auto& to = plane == ToolMove::Plane::yz ? arc.to.y : arc.to.x;
        centre += 5;
        to += 10;
        path.moves.push_back(arc);
    }
    ToolMove second = line_to({0, 0, 5}, 800);
    second.tool = 1;
    path.moves.push_back(second);
    const std::string text =
        written(path, {{"reed screen (upper)"}, {Cutter::flat(8), Cutter::ball(6)}, 18000});
    EXPECT_NE(text.find("(reed screen /upper/)\n"), std::string::npos) << text;
    EXPECT_NE(text.find("(flat, 16 mm)\nT1 M6\nS18000 M3\n"), std::string::npos) << text;
    const GcodeFile file = read(text);
    EXPECT_EQ(file.tool_count, 2U);
    EXPECT_TRUE(file.remarks.empty());
    ASSERT_EQ(file.path.moves.size(), path.moves.size());
    Vec3 at = path.start;
    for (std::size_t move = 0; move < path.moves.size(); ++move) {
        const ToolMove &one = path.moves[move], &other = file.path.moves[move];
        EXPECT_EQ(one.form, other.form) << move;
        EXPECT_EQ(one.feed, other.feed) << move;
        EXPECT_EQ(one.tool, other.tool) << move;
        EXPECT_NEAR(length(one.to - other.to), 0, 1e-9) << move;
        // Where the first move begins is not written.
        const double along = length_of(at, one), read_along = move > 0 ? length_of(at, other) : along;
        EXPECT_NEAR(along, read_along, 1e-6) << move;
        at = one.to;
    }
}

TEST(Gcode, BeamsWaitsAndStopsAreReadBack) {
    ToolPath path;
    const auto add = [&](ToolMove::Form form, Vec3 to, double strength, double wait_s, std::uint32_t sheet) {
        ToolMove move{form, to};
        move.feed = form == ToolMove::Form::rapid ? 0 : 1000;
        move.on = strength > 0;
        move.strength = strength;
        move.wait_s = wait_s;
        move.sheet = sheet;
        path.moves.push_back(move);
    };
    add(ToolMove::Form::rapid, {10, 0, 0}, 0, 0, 0);
    add(ToolMove::Form::line, {40, 0, 0}, 800, 0.75, 0);
    add(ToolMove::Form::line, {40, 5, 0}, 200, 0, 0);
    add(ToolMove::Form::rapid, {0, 0, 0}, 0, 0, 0);
    add(ToolMove::Form::rapid, {10, 0, 0}, 0, 0, 1);
    add(ToolMove::Form::line, {20, 0, 0}, 800, 0, 1);
    const std::string text = written(path, {{}, {}, 0, true});
    EXPECT_EQ(text,
              "%\nG21 G90 G94 G17\nG0 X10 Y0\nS800 M3\nG4 P0.75\nG1 X40 F1000\nS200 M3\nY5\nM5\n"
              "G0 X0 Y0\nM5\nM0\n(sheet 2)\nG0 X10 Y0\nS800 M3\nG1 X20 F1000\nM5\nM30\n%\n");
    const GcodeFile file = read(text);
    ASSERT_EQ(file.path.moves.size(), path.moves.size());
    for (std::size_t move = 0; move < path.moves.size(); ++move) {
        const ToolMove &one = path.moves[move], &other = file.path.moves[move];
        EXPECT_EQ(one.on, other.on) << move;
        EXPECT_EQ(one.on ? one.strength : 0, other.on ? other.strength : 0) << move;
        EXPECT_EQ(one.wait_s, other.wait_s) << move;
        EXPECT_EQ(one.sheet, other.sheet) << move;
    }
    // Seconds are said with X by others, and moves then stay where they are; stops before the first move, or
    // two of them, begin no sheet.
    const GcodeFile others = read("G21 G90\nM0\nG0 X10\nG4 X1.5\nG1 Y4 F100\nM1\nM0\nG0 X0\n");
    EXPECT_EQ(others.path.moves[1].wait_s, 1.5);
    EXPECT_EQ(others.path.moves[1].to.x, 10);
    EXPECT_EQ(others.path.moves.back().sheet, 1U);
}

TEST(Gcode, OthersWriteItOtherwise) {
    // Lower case, no blanks, numbers of lines, inches, relative places, comments of both kinds, modal words.
    const GcodeFile file = read(
        "%\r\nO1234 (a plate)\r\nN10g20g91 ; inches\nN20 G0X1.Y+2.\nG1 Z-.5 F10\n X1 (and on) Y0\n\n"
        "/G1 X99\nG90G21\nG1X0Y0\nG4 P2 X9\nM8\nM30\nG1 X1\n");
    ASSERT_EQ(file.path.moves.size(), 4U) << "what is behind the end, or left out at will, does not count";
    EXPECT_EQ(file.path.moves[0].to, (Vec3{25.4, 50.8, 0}));
    EXPECT_NEAR(file.path.moves[1].to.z, -12.7, 1e-12);
    EXPECT_NEAR(file.path.moves[1].feed, 254, 1e-12);
    EXPECT_EQ(file.path.moves[2].to.x, 50.8);
    EXPECT_EQ(file.path.moves[2].line, 6U);
    EXPECT_EQ(file.path.moves[3].to.x, 0);
}

TEST(Gcode, ArcsByRadiusGoTheShorterWayOrTheLonger) {
    const GcodeFile file = read("G0 X0 Y0\nG3 X10 Y0 R5 F100\nG2 X0 Y10 R10\nG3 X10 Y0 R-10\n");
    Vec3 at;
    std::vector<double> lengths;
    for (const ToolMove& move : file.path.moves) {
        lengths.push_back(length_of(at, move));
        at = move.to;
    }
    EXPECT_NEAR(lengths[1], 5 * std::numbers::pi, 1e-9);
    EXPECT_NEAR(lengths[2], 10 * std::numbers::pi / 2, 1e-9);
    EXPECT_NEAR(lengths[3], 10 * std::numbers::pi * 1.5, 1e-9);
}

TEST(Gcode, WhatMovesOtherwiseIsRefusedByItsLine) {
    EXPECT_EQ(refused("G0 X1\nG68 R30\n"),
              "cannot be rehearsed: line 2 has G68, which is not rehearsed. Write it with straight moves and "
              "arcs, G0 to G3.");
    EXPECT_EQ(
        refused("G1 F100 X1\nG2 X5 Y5\n"),
        "cannot be rehearsed: line 2 has an arc without a centre. Say it with I, J and K, or its radius "
        "with R.");
    EXPECT_EQ(refused("G1 F100 X0\nG2 X10 Y0 I3\n"),
              "cannot be rehearsed: line 2 has an arc that ends 4 mm off its circle. Look at its centre.");
    EXPECT_EQ(refused("G1 F100 X0\n\nG2 X10 Y0 R2\n"),
              "cannot be rehearsed: line 3 has an arc of a radius that does not reach its end. Look at R, or "
              "say the centre with I, J and K.");
    EXPECT_EQ(refused("G1 F100 A90\n"),
              "cannot be rehearsed: line 1 moves along ‘A’. Three axes are rehearsed, X, Y and Z.");
    EXPECT_EQ(refused("G1 X\n"),
              "cannot be rehearsed: line 1 has ‘X’ without a number. Write words of a "
              "letter and a number.");
    EXPECT_EQ(refused("G1 X1e9 F1\n"),
              "cannot be rehearsed: line 1 has ‘E’, which is not rehearsed. Write it with straight moves and "
              "arcs, G0 to G3.");
    EXPECT_EQ(refused("M98 P7\n"),
              "cannot be rehearsed: line 1 calls another program with M98. Write its moves out.");
    EXPECT_EQ(refused("G1 X10\n"),
              "cannot be rehearsed: line 1 cuts without a feed. Say one with F, above 0.");
    EXPECT_EQ(refused("X10\n"),
              "cannot be rehearsed: line 1 moves before it is said how. Begin with G0 or G1.");
    EXPECT_EQ(refused("\x01\x02"),
              "cannot be rehearsed: line 1 has ‘\\x01’, which begins no word. Write words of a letter and a "
              "number.");
    EXPECT_EQ(refused(""), "moves nothing. Choose a file for a milling machine.");
    EXPECT_EQ(refused("(only a comment"), "moves nothing. Choose a file for a milling machine.");
}

TEST(Gcode, WordsThatMoveNothingAreTold) {
    const GcodeFile file = read("G0 X1\nM62 P7\nM62 P8\nM41\nG1 X2 F100\n");
    EXPECT_EQ(file.remarks, (std::vector<std::string>{"M62 in line 2 is not understood",
                                                      "M41 in line 4 is not understood"}));
}

TEST(Gcode, StopsWhenItIsCancelled) {
    std::string text;
    for (int line = 0; line < 70'000; ++line)
        text += "G0 X1\n";
    plume::Run run;
    run.cancel();
    EXPECT_EQ(gcode_from(text, run).error().code, ErrorCode::cancelled);
}

}  // namespace
}  // namespace plume

// Links between rows, frames of lattices and diagrids, against counts and lengths known in closed form.

#include <cmath>
#include <map>
#include <numbers>

#include "core/geometry/frames/frame_figures.hpp"
#include "core/geometry/points/lattice_links.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

using test::StudyMaker;
using test::value_of;

constexpr double pi = std::numbers::pi;

// A tube of points, 2 m in radius: closed round, rings 0.5 m apart.
StudyMaker tube(int points, int rings, const std::string& end = "closes") {
    StudyMaker maker;
    maker.add("lattice.formula", "tube");
    maker.word("tube", "system", "cylindrical").word("tube", "end_1", end);
    maker.word("tube", "name_1", "azimuth").word("tube", "name_2", "z");
    maker.number("tube", "from_1", "0°").number("tube", "to_1", "360°");
    maker.number("tube", "count_1", std::to_string(points)).number("tube", "from_2", "0 m");
    maker.number("tube", "to_2", std::to_string(rings - 1) + " m / 2");
    maker.number("tube", "count_2", std::to_string(rings)).formula("tube", "radius = 2 m");
    return maker;
}

BarFrame frame_of(const StudyMaker& maker, const std::string& name) {
    const Evaluation made = test::run(maker.study);
    const Outcome& outcome = *made.outcome(name);
    EXPECT_TRUE(outcome.value) << sentence(*outcome.error);
    return std::get<BarFrame>(*outcome.value);
}
std::string said(const StudyMaker& maker, const std::string& name) {
    const Evaluation made = test::run(maker.study);
    const Outcome& outcome = *made.outcome(name);
    if (outcome.error) return sentence(*outcome.error);
    return outcome.remarks.empty() ? "" : outcome.remarks.front().text;
}
std::vector<Member> members_of(const StudyMaker& maker) {
    return frame_of(maker, "links").members();
}
std::map<Way, std::size_t> ways_of(const BarFrame& frame) {
    std::map<Way, std::size_t> ways;
    for (const Member& member : frame.members())
        ++ways[member.way];
    return ways;
}

StudyMaker linked(int points, int rings, const std::string& shift) {
    StudyMaker maker = tube(points, rings);
    maker.add("frame.link", "links");
    maker.set("links", "points", ResultName{"tube"}).number("links", "shift", shift);
    return maker;
}

TEST(LinkedRows, ChordsOfARingWithAndWithoutWrap) {
    for (const int shift : {1, 3, 7}) {
        StudyMaker maker = linked(24, 1, std::to_string(shift));
        maker.number("links", "reach", "0");
        const BarFrame round = frame_of(maker, "links");
        EXPECT_EQ(round.member_count(), 24U);
        for (const Member& member : round.members())
            EXPECT_NEAR(round.length_of(member), 4 * std::sin(pi * shift / 24), 1e-12);
        maker.word("links", "wrapping", "open");
        EXPECT_EQ(frame_of(maker, "links").member_count(), 24U - static_cast<std::size_t>(shift));
    }
    // Half round meets itself: every chord comes twice, and stays once.
    StudyMaker half = linked(24, 1, "12");
    half.number("links", "reach", "0");
    EXPECT_EQ(frame_of(half, "links").member_count(), 12U);
    EXPECT_EQ(said(half, "links"), "12 members between nodes that are joined already were left out.");
}

TEST(LinkedRows, EachRingToTheNextWithATurn) {
    StudyMaker maker = linked(16, 5, "3");
    const BarFrame frame = frame_of(maker, "links");
    EXPECT_EQ(frame.member_count(), 16U * 4);
    EXPECT_EQ(frame.node_count(), 16U * 5) << "no seam comes twice";
    for (const Member& member : frame.members()) {
        EXPECT_NEAR(frame.length_of(member), std::hypot(4 * std::sin(pi * 3 / 16), 0.5), 1e-12);
        EXPECT_EQ(member.way, Way::diagonal);
        EXPECT_EQ(member.from / 16, member.row);
        EXPECT_EQ(member.to % 16, (member.from % 16 + 3) % 16);
    }
    EXPECT_EQ(member_mark(frame, frame.members()[15]), "15,0–2,1");
    maker.word("links", "wrapping", "open");
    EXPECT_EQ(frame_of(maker, "links").member_count(), 13U * 4);
    maker.number("links", "shift", "-3");
    for (const Member& member : members_of(maker))
        EXPECT_EQ(member.from % 16, member.to % 16 + 3);
    maker.word("links", "wrapping", "closed").word("links", "turns", "alternating");
    for (const Member& member : members_of(maker))
        EXPECT_EQ(member.to % 16, (member.from % 16 + (member.row % 2 == 0 ? 13 : 3)) % 16);
    maker.word("links", "turns", "both");
    EXPECT_EQ(frame_of(maker, "links").member_count(), 2U * 16 * 4);
    maker.number("links", "every", "4").word("links", "turns", "forwards");
    EXPECT_EQ(frame_of(maker, "links").member_count(), 4U * 4);
    maker.number("links", "reach", "2");
    for (const Member& member : members_of(maker))
        EXPECT_EQ(member.to / 16, member.from / 16 + 2);
}

TEST(LinkedRows, AShiftByFormula) {
    StudyMaker maker = linked(12, 4, "1");
    maker.word("links", "by", "formula").formula("links", "1 + j");
    const BarFrame frame = frame_of(maker, "links");
    EXPECT_EQ(frame.member_count(), 36U);
    for (const Member& member : frame.members())
        EXPECT_EQ(member.to % 12, (member.from % 12 + 1 + member.row) % 12);
    maker.formula("links", "i / 2");
    EXPECT_EQ(said(maker, "links"),
              "Formula gives 0.5 at the point 1,0, and a shift is whole. Write floor(…) around it.");
}

TEST(LinkedRows, MarksStayWhenACountGrows) {
    const auto marks = [](int points, int rings) {
        const BarFrame frame = frame_of(linked(points, rings, "2"), "links");
        std::set<std::string> all;
        for (const Member& member : frame.members())
            all.insert(member_mark(frame, member));
        return all;
    };
    const auto few = marks(12, 4), many = marks(16, 9);
    std::size_t kept = 0;
    for (const std::string& mark : few)
        kept += many.contains(mark) ? 1 : 0;
    EXPECT_EQ(kept, few.size() - 2 * 3) << "but those that closed the shorter rings";
}

StudyMaker two_rows(int first, int second) {
    StudyMaker maker;
    maker.add("numbers.list", "spare");
    for (const auto& [name, count, y] : {std::tuple("eaves", first, "0 m"), {"ridge", second, "3 m"}}) {
        maker.add("curve.formula", std::string(name) + "_line");
        maker.number(std::string(name) + "_line", "from", "0").number(std::string(name) + "_line", "to", "1");
        maker.formula(std::string(name) + "_line", std::string("x = 12 m * t\ny = ") + y + "\nz = 0 m");
        maker.add("lattice.along_curve", name);
        maker.set(name, "curve", ResultName{std::string(name) + "_line"});
        maker.number(name, "bays", std::to_string(count - 1));
    }
    maker.add("frame.link", "links");
    maker.word("links", "what", "two").number("links", "shift", "0");
    maker.set("links", "first", ResultName{"eaves"}).set("links", "second", ResultName{"ridge"});
    return maker;
}

TEST(LinkedRows, TwoResultsByNumberAndByShare) {
    StudyMaker maker = two_rows(13, 5);
    const BarFrame by_number = frame_of(maker, "links");
    EXPECT_EQ(by_number.member_count(), 5U) << "the others have nobody to go to";
    EXPECT_EQ(member_mark(by_number, by_number.members()[4]), "1:4–2:4");
    maker.word("links", "match", "share");
    const BarFrame by_share = frame_of(maker, "links");
    EXPECT_EQ(by_share.member_count(), 13U);
    for (const Member& member : by_share.members())
        EXPECT_LE(std::abs(by_share.start(member).x - by_share.end(member).x), 1.5 + 1e-9)
            << "half a bay of the row with fewer points";
    maker.word("links", "wrapping", "round").word("links", "match", "number");
    EXPECT_EQ(
        said(maker, "links"),
        "Second points are 5, and the first 13: wrapped round, numbers would not answer to each other. Match "
        "them by share, or divide both alike.");
}

TEST(LinkedRows, WhatCannotBeIsSaidWithItsMend) {
    EXPECT_EQ(said(linked(24, 3, "2.5"), "links"),
              "Shift has to be a whole number, and is 2.5. Round it, or wrap the expression in round( ).");
    EXPECT_EQ(said(linked(24, 3, "30"), "links"), "Round rows of 24 points a shift of 30 is one of 6.");
    StudyMaker open = linked(24, 3, "30");
    open.word("links", "wrapping", "open");
    EXPECT_EQ(said(open, "links"),
              "Shift reaches beyond rows of 24 points. Type at most 23, or let the rows wrap round.");
    EXPECT_EQ(
        said(linked(24, 1, "1"), "links"),
        "Rows further on reaches beyond the last of 1 row. Type 0 to link the row to itself, or take points "
        "in rows.");
    StudyMaker still = linked(24, 1, "0");
    still.number("links", "reach", "0");
    EXPECT_EQ(said(still, "links"),
              "Points: There is no member to be made of it. Take more points, or link more of them.");
    EXPECT_EQ(said(linked(1, 2, "0"), "links"), "") << "one point a ring, one above the other";
}

TEST(LinkedRows, GapsLinkToNothing) {
    StudyMaker maker = tube(12, 3);
    maker.add("points.keep_where", "kept");
    maker.set("kept", "points", ResultName{"tube"}).formula("kept", "i > 0 or j != 1");
    maker.add("frame.link", "links");
    maker.set("links", "points", ResultName{"kept"});
    const BarFrame frame = frame_of(maker, "links");
    EXPECT_EQ(frame.member_count(), 22U) << "two of 24 would end at the gap on the seam";
    EXPECT_FALSE(frame.nodes().present(12));
}

// Frames of lattices -------------------------------------------------------------------------------------

StudyMaker framed(StudyMaker maker, const std::string& points) {
    maker.add("frame.lattice", "frame");
    maker.set("frame", "points", ResultName{points});
    return maker;
}

TEST(FramedLattices, CountsOfGridsAndTubes) {
    StudyMaker grid = framed(test::canopy(), "lattice");
    grid.number("lattice", "columns", "7").number("lattice", "rows", "4");
    EXPECT_EQ(frame_of(grid, "frame").member_count(), 7U * 5 + 4U * 8);
    for (const auto& [word, diagonals] :
         {std::pair("one", 28U), {"other", 28U}, {"alternating", 28U}, {"both", 56U}}) {
        grid.word("frame", "diagonals", word);
        EXPECT_EQ(frame_of(grid, "frame").member_count(), 67U + diagonals) << word;
    }
    grid.word("frame", "diagonals", "none").word("frame", "ways", "i").number("frame", "every_row", "2");
    EXPECT_EQ(frame_of(grid, "frame").member_count(), 7U * 3);
    grid.word("frame", "ways", "j").number("frame", "every_column", "3");
    EXPECT_EQ(frame_of(grid, "frame").member_count(), 4U * 3);

    StudyMaker round = framed(tube(10, 6), "tube");
    const BarFrame frame = frame_of(round, "frame");
    EXPECT_EQ(frame.node_count(), 60U);
    EXPECT_EQ(ways_of(frame), (std::map<Way, std::size_t>{{Way::along_i, 60}, {Way::along_j, 50}}));
    round.word("frame", "ways", "none").word("frame", "diagonals", "alternating");
    const BarFrame laced = frame_of(round, "frame");
    EXPECT_EQ(ways_of(laced), (std::map<Way, std::size_t>{{Way::diagonal, 25}, {Way::counter, 25}}));
    // Diagonals by turns meet in every other point alone.
    EXPECT_EQ(laced.node_count(), 30U);
    StudyMaker odd = framed(tube(9, 3), "tube");
    odd.word("frame", "diagonals", "alternating");
    EXPECT_EQ(said(odd, "frame"),
              "An odd number of cells round: on both sides of the seam their diagonals run alike.");
}

TEST(FramedLattices, EulersCountOnClosedSkins) {
    // V - E + F is 0 of a torus, whatever it is framed with; a triangulated one has three members a node.
    const PointLattice torus = test::torus(12, 7, 5, 2);
    const auto cells = cells_of(torus).count();
    StudyMaker maker;
    maker.add("lattice.formula", "ring");
    maker.word("ring", "name_1", "a").word("ring", "name_2", "b");
    maker.word("ring", "end_1", "closes").word("ring", "end_2", "closes");
    maker.number("ring", "from_1", "0°").number("ring", "to_1", "360°").number("ring", "count_1", "12");
    maker.number("ring", "from_2", "0°").number("ring", "to_2", "360°").number("ring", "count_2", "7");
    maker.formula("ring", "r = 5 m + 2 m * cos(b)\nx = r * cos(a)\ny = r * sin(a)\nz = 2 m * sin(b)");
    StudyMaker square = framed(maker, "ring");
    const BarFrame frame = frame_of(square, "frame");
    EXPECT_EQ(frame.node_count() + cells, frame.member_count());
    square.word("frame", "diagonals", "one");
    const BarFrame triangles = frame_of(square, "frame");
    EXPECT_EQ(triangles.member_count(), 3 * triangles.node_count());
    EXPECT_EQ(figures_of(triangles).least_valence, 6U);
    EXPECT_EQ(figures_of(triangles).most_valence, 6U);
}

TEST(FramedLattices, APoleIsOneNode) {
    // A dome of 6 rings of 8 points, the innermost at one place.
    StudyMaker maker;
    maker.add("lattice.polar", "plan");
    maker.number("plan", "rings", "5").number("plan", "spokes", "8").number("plan", "inner", "0 m");
    StudyMaker dome = framed(maker, "plan");
    const BarFrame frame = frame_of(dome, "frame");
    const FrameFigures figures = figures_of(frame);
    EXPECT_EQ(figures.most_valence, 8U);
    EXPECT_EQ(frame.node_count(), 1U + 5 * 8);
    EXPECT_EQ(frame.member_count(), 5U * 8 + 5 * 8);
    // A disc: V - E + F = 1, with 8 triangles and 4 rings of 8 quadrangles.
    EXPECT_EQ(frame.node_count() + 8 + 4 * 8, frame.member_count() + 1);
}

TEST(FramedLattices, TrianglesHoneycombsAndBlocks) {
    StudyMaker maker;
    maker.add("lattice.triangular", "tri");
    maker.add("lattice.hexagonal", "hex");
    maker.add("lattice.block", "stack");
    maker.number("stack", "columns", "3").number("stack", "rows", "2").number("stack", "layers", "4");
    for (const std::string name : {"tri", "hex"}) {
        StudyMaker flat = framed(maker, name);
        const BarFrame frame = frame_of(flat, "frame");
        const PointLattice lattice = std::get<PointLattice>(value_of(test::run(flat.study), name));
        // A sheet without holes.
        EXPECT_EQ(frame.node_count() + cells_of(lattice).count(),
                  frame.member_count() + figures_of(frame).pieces)
            << name;
        flat.word("frame", "diagonals", "both");
        EXPECT_NE(said(flat, "frame").find("have no cells of four corners"), std::string::npos);
    }
    const BarFrame block = frame_of(framed(maker, "stack"), "frame");
    EXPECT_EQ(ways_of(block),
              (std::map<Way, std::size_t>{
                  {Way::along_i, 3 * 3 * 5}, {Way::along_j, 4 * 2 * 5}, {Way::along_k, 4 * 3 * 4}}));
    StudyMaker posts = framed(maker, "stack");
    posts.word("frame", "ways", "k");
    EXPECT_EQ(ways_of(frame_of(posts, "frame")), (std::map<Way, std::size_t>{{Way::along_k, 4 * 3 * 4}}));
}

// Diagrids -----------------------------------------------------------------------------------------------

StudyMaker diagrid(StudyMaker maker, const std::string& points, const std::string& around,
                   const std::string& up) {
    maker.add("frame.diagrid", "net");
    maker.set("net", "points", ResultName{points});
    maker.number("net", "around", around).number("net", "up", up);
    return maker;
}

TEST(Diagrids, CountsAndLengthsOnATube) {
    // 24 modules round and 8 up over 48 bays and 16: a corner every two bays, a level every row.
    StudyMaker maker = diagrid(tube(48, 17), "tube", "24", "8");
    maker.word("net", "rings", "none");
    const BarFrame frame = frame_of(maker, "net");
    EXPECT_EQ(ways_of(frame),
              (std::map<Way, std::size_t>{{Way::diagonal, 24 * 16}, {Way::counter, 24 * 16}}));
    EXPECT_EQ(frame.node_count(), 24U * 17);
    for (const Member& member : frame.members())
        EXPECT_NEAR(frame.length_of(member), std::hypot(4 * std::sin(pi / 48), 0.5), 1e-12);
    const FrameFigures figures = figures_of(frame);
    EXPECT_EQ(figures.least_valence, 2U);
    EXPECT_EQ(figures.most_valence, 4U);
    EXPECT_EQ(figures.pieces, 1U);
    for (const auto& [word, rings] : {std::pair("rims", 2U), {"modules", 9U}, {"levels", 17U}}) {
        maker.word("net", "rings", word);
        EXPECT_EQ(ways_of(frame_of(maker, "net"))[Way::along_i], 24U * rings) << word;
    }
}

TEST(Diagrids, HalfModulesAndCutOnes) {
    StudyMaker maker = diagrid(tube(24, 10), "tube", "6", "4.5");
    const BarFrame half = frame_of(maker, "net");
    EXPECT_EQ(ways_of(half)[Way::diagonal], 6U * 9);
    // The last corners stand half a module beside the first.
    EXPECT_TRUE(half.nodes().present(half.nodes().index({2, 9, 0})));
    EXPECT_FALSE(half.nodes().present(half.nodes().index({0, 9, 0})));
    // Of steps of 2 rows the last has one: 9 rows are 2.25 modules, and diagonals end one bay on instead of
    // two.
    maker.number("net", "up", "2.25");
    const BarFrame cut = frame_of(maker, "net");
    EXPECT_EQ(ways_of(cut)[Way::diagonal], 6U * 5);
    EXPECT_EQ(ways_of(cut)[Way::along_i], 6U + 12) << "the cut rim has twice as many corners";
    maker.number("net", "start", "0.25");
    EXPECT_TRUE(frame_of(maker, "net").nodes().present(1)) << "a quarter of four bays";
}

TEST(Diagrids, OpenSidesGetMembersBetweenTheirCorners) {
    StudyMaker grid = diagrid(test::canopy(), "lattice", "3", "2");
    grid.number("lattice", "columns", "12").number("lattice", "rows", "8");
    const BarFrame frame = frame_of(grid, "net");
    // Levels 0, 2 and 4 have four corners, 1 and 3 three: 6 diagonals each way but one between levels.
    EXPECT_EQ(frame.node_count(), 3U * 4 + 2 * 3);
    EXPECT_EQ(
        ways_of(frame),
        (std::map<Way, std::size_t>{
            {Way::diagonal, 3 * 4}, {Way::counter, 3 * 4}, {Way::along_i, 2 * 3}, {Way::along_j, 2 * 2}}));
    grid.number("net", "start", "0.5");
    EXPECT_EQ(frame_of(grid, "net").node_count(), 3U * 3 + 2 * 4);
    grid.number("net", "start", "0.25");
    EXPECT_EQ(said(grid, "net"), "Start lets the sides cut modules between their corners. Type 0 or 0.5.");
}

TEST(Diagrids, ModulesThatDoNotComeOutEvenNameTheNearestThatDo) {
    EXPECT_EQ(said(diagrid(tube(48, 17), "tube", "10", "8"), "net"),
              "Modules along i do not come out even on 48 bays: a module takes twice as many bays as its "
              "half. Type "
              "8 or 12.");
    EXPECT_EQ(said(diagrid(tube(48, 17), "tube", "24", "3"), "net"),
              "Modules along j do not come out even on 16 bays along j. Type 2 or 4.");
    EXPECT_EQ(said(diagrid(tube(25, 17), "tube", "5", "8"), "net"),
              "Modules along i do not come out even on 25 bays: a module takes twice as many bays as its "
              "half. Give "
              "the rows an even number of bays.");
    StudyMaker start = diagrid(tube(48, 17), "tube", "24", "8");
    start.number("net", "start", "0.3");
    EXPECT_EQ(said(start, "net"), "Start puts corners between points. Type 0 or 0.5.");
    EXPECT_EQ(said(diagrid(tube(48, 17), "tube", "2", "8"), "net"),
              "Modules along i are fewer than three round a closed row. Type 3 or more.");
    StudyMaker hex;
    hex.add("lattice.hexagonal", "hex");
    EXPECT_NE(said(diagrid(hex, "hex", "3", "2"), "net").find("a diagrid takes a grid"), std::string::npos);
    EXPECT_NE(said(diagrid(tube(48, 17), "tube", "24", "0"), "net").find("above 0"), std::string::npos);
}

}  // namespace
}  // namespace plume

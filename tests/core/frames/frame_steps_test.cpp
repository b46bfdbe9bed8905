// Frames of meshes, points in no arrangement, curves and two layers; their edits; towers.

#include <cmath>
#include <numbers>
#include <random>

#include "core/frames/icosahedron.hpp"
#include "core/geometry/frames/delaunay.hpp"
#include "core/geometry/frames/frame_figures.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

using test::StudyMaker;
using test::value_of;

constexpr double pi = std::numbers::pi;

BarFrame frame_of(const StudyMaker& maker, const std::string& name) {
    const Evaluation made = test::run(maker.study);
    const Outcome& outcome = *made.outcome(name);
    if (!outcome.value) {
        ADD_FAILURE() << sentence(*outcome.error);
        std::abort();
    }
    return std::get<BarFrame>(*outcome.value);
}
std::string said(const StudyMaker& maker, const std::string& name) {
    const Evaluation made = test::run(maker.study);
    const Outcome& outcome = *made.outcome(name);
    if (outcome.error) return sentence(*outcome.error);
    return outcome.remarks.empty() ? "" : outcome.remarks.front().text;
}

StudyMaker ground(const std::string& columns, const std::string& rows) {
    StudyMaker maker;
    maker.add("lattice.rectangular", "grid");
    maker.word("grid", "sizing", "spaced").number("grid", "pitch_u", "1 m").number("grid", "pitch_v", "1 m");
    maker.number("grid", "columns", columns).number("grid", "rows", rows);
    return maker;
}
StudyMaker framed(const std::string& columns, const std::string& rows,
                  const std::string& diagonals = "none") {
    StudyMaker maker = ground(columns, rows);
    maker.add("frame.lattice", "frame");
    maker.set("frame", "points", ResultName{"grid"}).word("frame", "diagonals", diagonals);
    return maker;
}

// Meshes -------------------------------------------------------------------------------------------------

TEST(FramedMeshes, EdgesDualAndRims) {
    StudyMaker maker = ground("4", "3");
    maker.add("skin", "sheet");
    maker.set("sheet", "points", ResultName{"grid"}).word("sheet", "surface", "flat");
    maker.add("frame.of_mesh", "frame");
    maker.set("frame", "mesh", ResultName{"sheet"});
    EXPECT_EQ(frame_of(maker, "frame").member_count(), 4U * 4 + 3 * 5);
    maker.word("frame", "what", "dual");
    EXPECT_EQ(frame_of(maker, "frame").member_count(), 3U * 3 + 2 * 4);
    EXPECT_EQ(frame_of(maker, "frame").node_count(), 12U);
    maker.word("frame", "what", "rims");
    EXPECT_EQ(frame_of(maker, "frame").member_count(), 2U * (4 + 3));
}

TEST(FramedMeshes, AGeodesicHasThreeMembersForTwoNodesButTwelveOfThem) {
    // An icosahedron cut once: 42 vertices, 120 edges, of two lengths on the ball.
    StudyMaker maker;
    test::add_icosahedron(maker, "corners");
    maker.add("frame.neighbours", "ico");
    maker.set("ico", "points", ResultName{"corners"}).word("ico", "rule", "within");
    maker.number("ico", "distance", "2.1 m");
    EXPECT_EQ(frame_of(maker, "ico").member_count(), 30U);
    maker.add("mesh.of_frame", "faces");
    maker.set("faces", "frame", ResultName{"ico"});
    const Mesh ico = std::get<Mesh>(value_of(test::run(maker.study), "faces"));
    EXPECT_EQ(ico.face_count(), 20U);
    EXPECT_EQ(test::open_edges(ico), 0U);
    EXPECT_NEAR(test::volume(ico), 5 * test::golden * test::golden * 8 / 6, 1e-4)
        << "5/6 g² a³ of edges a = 2, outwards";
    maker.add("frame.divide", "halves");
    maker.set("halves", "frame", ResultName{"ico"});
    const BarFrame halves = frame_of(maker, "halves");
    EXPECT_EQ(halves.member_count(), 60U);
    EXPECT_EQ(halves.node_count(), 42U);
}

// Points in no arrangement -------------------------------------------------------------------------------

std::vector<Vec3> strewn(std::size_t count, unsigned seed) {
    std::mt19937 random(seed);
    std::uniform_real_distribution<double> within(0, 10);
    std::vector<Vec3> points;
    for (std::size_t at = 0; at < count; ++at) {
        const double x = within(random), y = within(random);
        points.push_back({x, y, within(random)});
    }
    return points;
}

TEST(NeighbourLinks, NearestAndWithinAgreeWithLookingAtAll) {
    const std::vector<Vec3> points = strewn(300, 5);
    const auto apart = [&](std::size_t a, std::size_t b) { return length(points[a] - points[b]); };
    Pairs wanted, within;
    for (std::uint32_t a = 0; a < points.size(); ++a) {
        std::vector<std::pair<double, std::uint32_t>> others;
        for (std::uint32_t b = 0; b < points.size(); ++b) {
            if (b != a) others.emplace_back(apart(a, b), b);
            if (b > a && apart(a, b) <= 1.3) within.emplace_back(a, b);
        }
        std::ranges::sort(others);
        for (std::size_t n = 0; n < 4; ++n)
            wanted.emplace_back(std::min(a, others[n].second), std::max(a, others[n].second));
    }
    std::ranges::sort(wanted);
    wanted.erase(std::unique(wanted.begin(), wanted.end()), wanted.end());
    EXPECT_EQ(*nearest_pairs(points, 4, plume::Run()), wanted);
    EXPECT_EQ(*pairs_within(points, 1.3, plume::Run()), within);
    EXPECT_EQ(nearest_pairs(points, 1000, plume::Run())->size(), 300U * 299 / 2);
}

// Prim's rule over all pairs.
double tree_length(const std::vector<Vec3>& points) {
    std::vector<double> nearest(points.size(), 1e300);
    std::vector<bool> in(points.size(), false);
    double sum = 0;
    nearest[0] = 0;
    for (std::size_t step = 0; step < points.size(); ++step) {
        std::size_t best = points.size();
        for (std::size_t at = 0; at < points.size(); ++at)
            if (!in[at] && (best == points.size() || nearest[at] < nearest[best])) best = at;
        in[best] = true;
        sum += nearest[best];
        for (std::size_t at = 0; at < points.size(); ++at)
            nearest[at] = std::min(nearest[at], length(points[at] - points[best]));
    }
    return sum;
}

TEST(NeighbourLinks, TheShortestTreeIsPrims) {
    std::vector<Vec3> flat = strewn(200, 8), line = strewn(40, 9);
    for (Vec3& point : flat)
        point.z = 0;
    for (Vec3& point : line)
        point.y = point.z = 0;
    for (const std::vector<Vec3>& points : {strewn(300, 7), flat, line}) {
        const auto pairs = shortest_tree(points, plume::Run());
        EXPECT_EQ(pairs->size(), points.size() - 1);
        double sum = 0;
        for (const auto& [a, b] : *pairs)
            sum += length(points[a] - points[b]);
        EXPECT_NEAR(sum, tree_length(points), 1e-9);
    }
}

TEST(Cells, DelaunayCirclesAreEmptyAndTheRimIsTheHull) {
    std::vector<Vec3> points = strewn(120, 3);
    const Pairs pairs = delaunay_pairs(points);
    const std::set<std::pair<std::uint32_t, std::uint32_t>> sides(pairs.begin(), pairs.end());
    const auto has = [&](std::uint32_t a, std::uint32_t b) {
        return sides.contains({std::min(a, b), std::max(a, b)});
    };
    // Triangles with an empty circle, found by looking at all.
    std::size_t triangles = 0;
    for (std::uint32_t a = 0; a < points.size(); ++a)
        for (std::uint32_t b = a + 1; b < points.size(); ++b)
            for (std::uint32_t c = b + 1; c < points.size(); ++c) {
                if (!has(a, b) || !has(b, c) || !has(a, c)) continue;
                const Vec3 p = points[a], q = points[b], r = points[c];
                const double d = 2 * (p.x * (q.y - r.y) + q.x * (r.y - p.y) + r.x * (p.y - q.y));
                const auto s = [](Vec3 v) { return v.x * v.x + v.y * v.y; };
                const double ux = (s(p) * (q.y - r.y) + s(q) * (r.y - p.y) + s(r) * (p.y - q.y)) / d;
                const double uy = (s(p) * (r.x - q.x) + s(q) * (p.x - r.x) + s(r) * (q.x - p.x)) / d;
                const double radius = std::hypot(p.x - ux, p.y - uy);
                bool empty = true;
                for (const Vec3 other : points)
                    empty = empty && std::hypot(other.x - ux, other.y - uy) > radius - 1e-9;
                triangles += empty ? 1 : 0;
            }
    // V - E + F = 1 of a disc.
    EXPECT_EQ(points.size() + triangles, pairs.size() + 1);
}

TEST(Cells, VoronoiOfASquareOfPointsAreSquares) {
    StudyMaker maker = ground("3", "3");
    maker.add("frame.cells", "net");
    maker.set("net", "points", ResultName{"grid"}).word("net", "cells", "voronoi");
    const BarFrame net = frame_of(maker, "net");
    // 4 x 4 points 1 m apart: their cells cut a rectangle half of sqrt(9 m² / 16) beyond them into 16.
    EXPECT_EQ(net.node_count(), 25U);
    EXPECT_EQ(net.member_count(), 2U * 4 * 5);
    const FrameFigures figures = figures_of(net);
    EXPECT_NEAR(figures.longest, 1, 1e-9);
    EXPECT_NEAR(figures.total_length, 10 * (3 + 0.75), 1e-9);
    maker.word("net", "cells", "triangles");
    EXPECT_EQ(frame_of(maker, "net").member_count(), 2U * 3 * 4 + 9);
}

TEST(Cells, WithinAnOutlineCellsEndAtItsRim) {
    // Of two points in a square: the line between them, and the rim in two halves.
    StudyMaker maker;
    maker.add("points.typed", "two");
    maker.set("two", "rows", Lines{"-1 0 0\n1 0 0"});
    maker.add("outline.shape", "plot");
    maker.word("plot", "shape", "rectangle").number("plot", "width", "6 m").number("plot", "depth", "4 m");
    maker.add("frame.cells", "net");
    maker.set("net", "points", ResultName{"two"}).set("net", "outline", ResultName{"plot"});
    maker.word("net", "cells", "voronoi").word("net", "where", "outline");
    const BarFrame net = frame_of(maker, "net");
    EXPECT_EQ(net.member_count(), 7U);
    EXPECT_EQ(net.node_count(), 6U);
    EXPECT_NEAR(figures_of(net).total_length, 20 + 4, 1e-9);
}

TEST(Cells, OnASurfaceNodesLieOnIt) {
    StudyMaker maker;
    maker.add("lattice.formula", "dome");
    maker.formula("dome", "z = 3 m * gauss(x, 4 m) * gauss(y, 4 m)");
    maker.number("dome", "count_1", "21").number("dome", "count_2", "21");
    maker.add("skin", "roof");
    maker.set("roof", "points", ResultName{"dome"}).word("roof", "surface", "smooth");
    maker.add("outline.shape", "plot");
    maker.word("plot", "shape", "rectangle").number("plot", "width", "9 m").number("plot", "depth", "6 m");
    maker.add("lattice.scatter", "seeds");
    maker.set("seeds", "outline", ResultName{"plot"}).number("seeds", "spacing", "1 m");
    maker.add("frame.cells", "net");
    maker.set("net", "points", ResultName{"seeds"}).set("net", "surface", ResultName{"roof"});
    maker.word("net", "cells", "voronoi").word("net", "where", "surface");
    const BarFrame net = frame_of(maker, "net");
    EXPECT_EQ(figures_of(net).pieces, 1U);
    for (std::size_t node = 0; node < net.nodes().address_count(); ++node) {
        if (!net.nodes().present(node)) continue;
        const Vec3 at = net.nodes().point(node);
        const double wanted = 3 * std::exp(-at.x * at.x / 32) * std::exp(-at.y * at.y / 32);
        EXPECT_NEAR(at.z, wanted, 0.01) << at.x << ' ' << at.y;
    }
}

// Curves -------------------------------------------------------------------------------------------------

TEST(FramedCurves, LinesCrossInNodes) {
    StudyMaker maker = ground("3", "2");
    maker.add("curve.join", "rows");
    maker.set("rows", "points", ResultName{"grid"})
        .word("rows", "route", "rows")
        .word("rows", "shape", "straight");
    maker.add("curve.arc", "slash");
    maker.word("slash", "shape", "line");
    maker.set("slash", "ends",
              Places{{"a", "-1.5 m", "-1.25 m", "0 m", "1"}, {"b", "1.5 m", "1.25 m", "0 m", "1"}});
    maker.add("thing.join", "all");
    maker.set("all", "first", ResultName{"rows"}).set("all", "second", ResultName{"slash"});
    maker.add("frame.of_curves", "frame");
    maker.set("frame", "curve", ResultName{"all"});
    const BarFrame frame = frame_of(maker, "frame");
    // Three rows of three bays; the slash crosses each once: one more piece each, and four of its own.
    EXPECT_EQ(frame.member_count(), 3U * 3 + 3 + 4);
    EXPECT_EQ(frame.node_count(), 12U + 3 + 2);
}

// Layers -------------------------------------------------------------------------------------------------

TEST(Layers, OneAboveTheOther) {
    StudyMaker maker = ground("4", "3");
    maker.add("frame.layers", "space");
    maker.set("space", "points", ResultName{"grid"}).number("space", "depth", "1.5 m");
    const std::size_t chords = 4 * 4 + 3 * 5;
    EXPECT_EQ(frame_of(maker, "space").member_count(), 2 * chords + 20 + chords);
    maker.word("space", "webs", "posts");
    const BarFrame posts = frame_of(maker, "space");
    EXPECT_EQ(posts.member_count(), 2 * chords + 20);
    EXPECT_EQ(posts.node_count(), 40U);
    EXPECT_EQ(node_mark(posts, 21), "1,0,1");
    EXPECT_NEAR(posts.nodes().point(20).z - posts.nodes().point(0).z, -1.5, 1e-12);
    maker.word("space", "webs", "diagonals");
    EXPECT_EQ(frame_of(maker, "space").member_count(), 3 * chords);
}

TEST(Layers, BelowTheMiddlesOfCells) {
    StudyMaker maker = ground("4", "3");
    maker.add("frame.layers", "space");
    maker.set("space", "points", ResultName{"grid"}).word("space", "lower", "cells");
    maker.number("space", "depth", "1 m");
    const BarFrame grid = frame_of(maker, "space");
    EXPECT_EQ(grid.node_count(), 20U + 12);
    EXPECT_EQ(grid.member_count(), 31U + (3 * 3 + 2 * 4) + 4 * 12);
    for (const Member& member : grid.members())
        EXPECT_NEAR(grid.length_of(member), member.way == Way::web ? std::sqrt(1.5) : 1, 1e-12);
    EXPECT_EQ(node_mark(grid, 20), "0,0/1,1");
    StudyMaker honeycomb;
    honeycomb.add("lattice.hexagonal", "comb");
    honeycomb.add("frame.layers", "space");
    honeycomb.set("space", "points", ResultName{"comb"}).word("space", "lower", "cells");
    const BarFrame comb = frame_of(honeycomb, "space");
    std::size_t webs = 0, cells = 0;
    for (const Member& member : comb.members())
        webs += member.way == Way::web ? 1 : 0;
    for (std::size_t node = 0; node < comb.nodes().address_count(); ++node)
        cells += comb.nodes().present(node) && node_mark(comb, node).find('/') != std::string::npos ? 1 : 0;
    EXPECT_EQ(webs, 6 * cells);
}

// Edits --------------------------------------------------------------------------------------------------

TEST(FrameEdits, KeptAndDroppedByFormula) {
    StudyMaker maker = framed("4", "3", "one");
    maker.add("frame.keep", "kept");
    maker.set("kept", "frame", ResultName{"frame"}).formula("kept", "length > 1.2 m");
    EXPECT_EQ(frame_of(maker, "kept").member_count(), 12U);
    maker.word("kept", "what", "drop");
    EXPECT_EQ(frame_of(maker, "kept").member_count(), 31U);
    maker.formula("kept", "diagonal or along_j and row == 0");
    EXPECT_EQ(frame_of(maker, "kept").member_count(), 31U - 3);
    maker.formula("kept", "1");
    EXPECT_EQ(said(maker, "kept"), "Formula leaves no member. Keep some of them.");
}

TEST(FrameEdits, DroppedAndKeptByMark) {
    StudyMaker maker = framed("3", "2");
    maker.add("frame.keep_marks", "picked");
    maker.set("picked", "frame", ResultName{"frame"});
    const auto left = [&](const char* marks) {
        maker.set("picked", "marks", Lines{marks});
        return frame_of(maker, "picked").member_count();
    };
    EXPECT_EQ(left("0,0–1,0"), 16U);
    EXPECT_EQ(left("1,0–0,0"), 16U) << "either way round";
    EXPECT_EQ(left("0,0-1,0; 0,0–1,0"), 16U) << "with a hyphen, and only once";
    EXPECT_EQ(left("2,2"), 17U - 3) << "all that end there";
    EXPECT_EQ(left("1,1\n0,0"), 17U - 4 - 2);
    EXPECT_EQ(left("9,9–9,8 0,0–1,0 0,0–2,0"), 16U);
    EXPECT_EQ(said(maker, "picked"),
              "2 marks are of no member, the first ‘9,9–9,8’; they count again when they are.");
    maker.number("grid", "columns", "5");
    EXPECT_EQ(left("0,0–1,0"), 5U * 3 + 2 * 6 - 1) << "the same one when the counts change";
    maker.word("picked", "what", "keep");
    EXPECT_EQ(left("0,0–1,0 2,1"), 1U + 4);
    EXPECT_EQ(said(maker, "picked"), "5 members of 27.");
    maker.set("picked", "marks", Lines{" "});
    EXPECT_EQ(said(maker, "picked"), "Marks: No mark is given. Type some, or pick members in the model.");
    maker.set("picked", "marks", Lines{"7,7"});
    EXPECT_EQ(test::error_of(test::run(maker.study), "picked").slot, "marks");
}

// Nodes that came of crossings have marks of their own, which hold dashes.
TEST(FrameEdits, MarksOfNodesThatCameOfCrossings) {
    StudyMaker maker = framed("1", "1", "both");
    maker.add("frame.split", "split");
    maker.set("split", "frame", ResultName{"frame"});
    maker.add("frame.keep_marks", "picked");
    maker.set("picked", "frame", ResultName{"split"});
    const BarFrame split = frame_of(maker, "split");
    ASSERT_EQ(split.member_count(), 8U);
    for (const Member& member : split.members()) {
        maker.set("picked", "marks", Lines{member_mark(split, member)});
        EXPECT_EQ(frame_of(maker, "picked").member_count(), 7U) << member_mark(split, member);
    }
}

TEST(FrameEdits, NumbersOfMembersAreReadFurtherOn) {
    StudyMaker maker = framed("4", "3");
    maker.add("frame.formula", "stiff");
    maker.set("stiff", "frame", ResultName{"frame"}).formula("stiff", "length * (1 + row)");
    maker.add("frame.keep", "kept");
    maker.set("kept", "frame", ResultName{"stiff"}).formula("kept", "stiff > 3.5 m");
    // Row 3 along i has four members, rows 3 and 4 along j three each.
    EXPECT_EQ(frame_of(maker, "kept").member_count(), 4U + 3 + 3);
}

TEST(FrameEdits, CrossingDiagonalsGetANode) {
    StudyMaker maker = framed("4", "3", "both");
    maker.add("frame.split", "split");
    maker.set("split", "frame", ResultName{"frame"});
    const BarFrame split = frame_of(maker, "split");
    EXPECT_EQ(said(maker, "split"), "12 crossings.");
    EXPECT_EQ(split.node_count(), 20U + 12);
    EXPECT_EQ(split.member_count(), 31U + 4 * 12);
    maker.add("mesh.of_frame", "panels");
    maker.set("panels", "frame", ResultName{"split"});
    EXPECT_EQ(std::get<Mesh>(value_of(test::run(maker.study), "panels")).face_count(), 4U * 12);
    // Undivided, three or more through one place are one node.
    StudyMaker star;
    star.add("points.typed", "tips");
    star.set("tips", "rows", Lines{"-1 0 0\n1 0 0\n0 -1 0\n0 1 0\n-1 -1 0\n1 1 0"});
    star.add("frame.neighbours", "web");
    star.set("web", "points", ResultName{"tips"})
        .word("web", "rule", "within")
        .number("web", "distance", "3 m");
    star.add("frame.keep", "spokes");
    star.set("spokes", "frame", ResultName{"web"}).formula("spokes", "hypot(x, y) < 1 mm");
    star.add("frame.split", "split");
    star.set("split", "frame", ResultName{"spokes"});
    EXPECT_EQ(frame_of(star, "split").member_count(), 6U);
    EXPECT_EQ(figures_of(frame_of(star, "split")).most_valence, 6U);
}

TEST(FrameEdits, PiecesNoLongerThanStock) {
    StudyMaker maker = framed("4", "3", "one");
    maker.add("frame.divide", "cut");
    maker.set("cut", "frame", ResultName{"frame"})
        .word("cut", "rule", "length")
        .number("cut", "longest", "1 m");
    const BarFrame cut = frame_of(maker, "cut");
    EXPECT_EQ(cut.member_count(), 31U + 2 * 12);
    EXPECT_LE(figures_of(cut).longest, 1 + 1e-12);
    EXPECT_NEAR(figures_of(cut).total_length, 31 + 12 * std::sqrt(2), 1e-9);
}

TEST(FrameEdits, MirroredAndRepeatedWithWeldedSeams) {
    StudyMaker maker = framed("3", "2");
    maker.add("thing.repeat", "row");
    maker.set("row", "thing", ResultName{"frame"}).number("row", "count", "4").number("row", "x", "3 m");
    const BarFrame row = frame_of(maker, "row");
    EXPECT_EQ(row.node_count(), 3U * 13);
    EXPECT_EQ(row.member_count(), 3U * 12 + 2 * 13);
    EXPECT_EQ(figures_of(row).pieces, 1U);
}

TEST(FrameEdits, WhatMovesPointsMovesNodes) {
    StudyMaker maker = framed("4", "3");
    maker.add("points.move_formula", "raised");
    maker.set("raised", "points", ResultName{"frame"}).formula("raised", "to_z = x^2 / 1 m");
    const BarFrame raised = frame_of(maker, "raised");
    EXPECT_EQ(raised.members(), frame_of(maker, "frame").members());
    for (const Member& member : raised.members())
        EXPECT_NEAR(raised.start(member).z, std::pow(raised.start(member).x, 2), 1e-12);
    maker.add("points.deform", "twisted");
    maker.set("twisted", "points", ResultName{"raised"});
    EXPECT_EQ(frame_of(maker, "twisted").member_count(), 31U);
    maker.add("points.of_frame", "nodes");
    maker.set("nodes", "frame", ResultName{"frame"});
    maker.add("field.formula", "lift");
    maker.set("lift", "points", ResultName{"nodes"}).formula("lift", "2 m * (i == 2)");
    maker.add("points.push", "pushed");
    maker.set("pushed", "points", ResultName{"frame"}).set("pushed", "amount", ResultName{"lift"});
    EXPECT_NEAR(frame_of(maker, "pushed").nodes().point(7).z, 2, 1e-12);
    maker.add("skin", "hill");
    maker.set("hill", "points", ResultName{"pushed"});
    EXPECT_NE(sentence(test::error_of(test::run(maker.study), "hill")).find("frame"), std::string::npos);
    maker.formula("raised", "to_x = 0 m\nto_y = 0 m");
    EXPECT_EQ(said(maker, "raised"),
              "The member 0,0–1,0 has no length: both its ends are at one place. Move one of them, or merge "
              "coincident points before.");
    maker.add("placement.frame", "ground");
    maker.add("thing.pull", "flat");
    maker.set("flat", "thing", ResultName{"twisted"}).set("flat", "target", ResultName{"ground"});
    maker.formula("raised", "to_z = 1 m");
    const BarFrame flat = frame_of(maker, "flat");
    for (const double z : flat.nodes().z().span())
        EXPECT_NEAR(z, 0, 1e-9);
}

TEST(FrameEdits, FacesOfTubesAndSheets) {
    StudyMaker maker = framed("5", "4");
    maker.add("mesh.of_frame", "panels");
    maker.set("panels", "frame", ResultName{"frame"});
    const Evaluation made = test::run(maker.study);
    EXPECT_EQ(std::get<Mesh>(value_of(made, "panels")).face_count(), 20U);
    EXPECT_EQ(made.outcome("panels")->remarks.front().text,
              "1 ring of members is no face: a rim, or of more corners.");
    maker.number("panels", "corners", "3");
    EXPECT_EQ(said(maker, "panels"),
              "Frame enclose no face of so few corners. Allow more corners, or add members.");
}

TEST(FrameEdits, CurvesAndPointsOfAFrame) {
    StudyMaker maker = framed("4", "3");
    maker.add("curve.of_frame", "lines");
    maker.set("lines", "frame", ResultName{"frame"});
    EXPECT_EQ(std::get<CurveSet>(value_of(test::run(maker.study), "lines")).curves.size(), 31U);
    maker.word("lines", "what", "rows");
    EXPECT_EQ(std::get<CurveSet>(value_of(test::run(maker.study), "lines")).curves.size(), 4U + 5);
    maker.add("points.of_frame", "nodes");
    maker.set("nodes", "frame", ResultName{"frame"});
    const auto nodes = std::get<PointLattice>(value_of(test::run(maker.study), "nodes"));
    EXPECT_EQ(nodes.counts()[0], 5U);
    EXPECT_EQ(nodes.field("valence")->values[0], 2);
    EXPECT_EQ(nodes.field("valence")->values[6], 4);
}

// Towers -------------------------------------------------------------------------------------------------

TEST(Towers, PointsTurnWithTheHeight) {
    StudyMaker maker;
    maker.add("outline.shape", "plan");
    maker.word("plan", "shape", "circle").number("plan", "radius", "6 m");
    maker.add("lattice.tower", "tower");
    maker.set("tower", "outline", ResultName{"plan"}).formula("tower", "turn = 90° * t\nscale = 1 - t / 2");
    maker.number("tower", "height", "20 m").number("tower", "floors", "10").number("tower", "bays", "12");
    const auto tower = std::get<PointLattice>(value_of(test::run(maker.study), "tower"));
    EXPECT_EQ(tower.counts(), (std::array<std::size_t, 3>{12, 11, 1}));
    EXPECT_TRUE(tower.closed(0));
    for (std::size_t index = 0; index < tower.address_count(); ++index) {
        const Address at = tower.address(index);
        const double t = static_cast<double>(at.j) / 10, radius = 6 * (1 - t / 2);
        const double turn = 2 * pi * static_cast<double>(at.i) / 12 + pi / 2 * t;
        EXPECT_LT(length(tower.point(index) - Vec3{radius * std::cos(turn), radius * std::sin(turn), 20 * t}),
                  1e-8);
    }
}

TEST(Towers, ASquareIntoACircleAndItsFloors) {
    StudyMaker maker;
    maker.add("outline.shape", "foot");
    maker.word("foot", "shape", "rectangle").number("foot", "width", "12 m").number("foot", "depth", "12 m");
    maker.add("outline.shape", "head");
    maker.word("head", "shape", "circle").number("head", "radius", "5 m");
    maker.add("lattice.tower", "floors");
    maker.set("floors", "outline", ResultName{"foot"}).set("floors", "upper", ResultName{"head"});
    maker.word("floors", "change", "into").word("floors", "what", "outlines");
    maker.number("floors", "height", "30 m")
        .number("floors", "floors", "5")
        .formula("floors", "turn = 40° * t");
    const auto set = std::get<CurveSet>(value_of(test::run(maker.study), "floors"));
    ASSERT_EQ(set.curves.size(), 6U);
    maker.add("surface.fill", "plates");
    maker.set("plates", "curve", ResultName{"floors"});
    EXPECT_EQ(std::get<SurfaceSet>(value_of(test::run(maker.study), "plates")).patches.size(), 6U);
    // The whole of the first is the square, of the last the circle.
    maker.add("number.surface", "area");
    maker.set("area", "surface", ResultName{"plates"});
    const double all = std::get<Quantity>(value_of(test::run(maker.study), "area")).value;
    EXPECT_GT(all, 6 * pi * 25);
    EXPECT_LT(all, 6 * 144.0);
    maker.number("floors", "floors", "1");
    EXPECT_NEAR(std::get<Quantity>(value_of(test::run(maker.study), "area")).value, 144 + pi * 25, 1e-6);
}

}  // namespace
}  // namespace plume

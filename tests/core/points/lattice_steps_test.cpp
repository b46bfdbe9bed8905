// Lattices, outlines and parts of lattices against closed forms.

#include <cmath>
#include <numbers>
#include <set>

#include "core/geometry/points/lattice_links.hpp"
#include "core/geometry/points/sub_lattice.hpp"
#include "core/geometry/surfaces/facets.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

using test::StudyMaker;

PointLattice points_of(const StudyMaker& maker, const std::string& name) {
    const Evaluation evaluation = test::run(maker.study);
    const Outcome* outcome = evaluation.outcome(name);
    EXPECT_TRUE(outcome->value) << (outcome->error ? sentence(*outcome->error) : "");
    return *lattice_of(*outcome->value);
}

std::size_t link_count(const PointLattice& lattice) {
    std::size_t count = 0;
    for_each_link(lattice, [&](std::size_t, std::size_t) { ++count; });
    return count;
}

TEST(Lattices, TriangularHasEquilateralTriangles) {
    StudyMaker maker;
    maker.add("lattice.triangular", "tri");
    maker.number("tri", "columns", "7").number("tri", "rows", "5").number("tri", "side", "2 m");
    const PointLattice tri = points_of(maker, "tri");
    EXPECT_EQ(tri.point_count(), 8U * 6U);
    EXPECT_EQ(tri.bays(0), 7U);
    EXPECT_EQ(tri.bays(1), 5U);
    for_each_link(tri, [&](std::size_t from, std::size_t to) {
        EXPECT_NEAR(length(tri.point(from) - tri.point(to)), 2, 1e-12);
    });
    // Along rows 6 * 7; between rows every point but one at an end has two up: 5 * (2 * 8 - 1).
    EXPECT_EQ(link_count(tri), 6U * 7U + 5U * 15U);
    const Mesh mesh = *facets(tri, FacetShape::quads, plume::Run());
    EXPECT_EQ(mesh.face_count(), 5U * 2U * 7U);
    EXPECT_NEAR(area(mesh), 70 * std::sqrt(3.0), 1e-9);
    // Inside six neighbours.
    std::vector<int> links(tri.address_count(), 0);
    for_each_link(tri, [&](std::size_t from, std::size_t to) { ++links[from], ++links[to]; });
    EXPECT_EQ(links[tri.index({3, 2, 0})], 6);
    EXPECT_EQ(links[tri.index({3, 3, 0})], 6);
}

TEST(Lattices, HexagonalHasHexagons) {
    StudyMaker maker;
    maker.add("lattice.hexagonal", "comb");
    maker.number("comb", "columns", "4").number("comb", "rows", "3").number("comb", "side", "1 m");
    const PointLattice comb = points_of(maker, "comb");
    const Mesh mesh = *facets(comb, FacetShape::quads, plume::Run());
    EXPECT_EQ(mesh.face_count(), 12U);
    EXPECT_NEAR(area(mesh), 12 * 1.5 * std::sqrt(3.0), 1e-9);
    for_each_link(comb, [&](std::size_t from, std::size_t to) {
        EXPECT_NEAR(length(comb.point(from) - comb.point(to)), 1, 1e-12);
    });
    // Of a honeycomb's V - E + F = 1: every edge is a link.
    EXPECT_EQ(comb.point_count() - link_count(comb) + mesh.face_count(), 1U);
    for (std::size_t face = 0; face < mesh.face_count(); ++face) {
        EXPECT_EQ(mesh.face(face).size(), 6U);
        EXPECT_GT(area_vector(mesh, face).z, 0);
    }
}

TEST(Lattices, PolarClosesWithoutASeam) {
    StudyMaker maker;
    maker.add("lattice.polar", "wheel");
    maker.number("wheel", "spokes", "12").number("wheel", "rings", "3").number("wheel", "inner", "1 m");
    maker.number("wheel", "outer", "4 m");
    const PointLattice wheel = points_of(maker, "wheel");
    EXPECT_EQ(wheel.point_count(), 12U * 4U);
    EXPECT_TRUE(wheel.closed(0));
    EXPECT_EQ(wheel.bays(0), 12U);
    EXPECT_EQ(link_count(wheel), 12U * 4U + 12U * 3U);
    const double whole = area(*facets(wheel, FacetShape::quads, plume::Run()));
    EXPECT_NEAR(whole, 12 * 0.5 * std::sin(2 * std::numbers::pi / 12) * (16 - 1), 1e-9);
    maker.word("wheel", "extent", "part").number("wheel", "angle", "90°");
    const PointLattice part = points_of(maker, "wheel");
    EXPECT_EQ(part.point_count(), 13U * 4U) << "an open one of n bays has n + 1 spokes";
    EXPECT_NEAR(part.point(12).x, 0, 1e-12);
    EXPECT_NEAR(part.point(12).y, 1, 1e-12);
}

TEST(Lattices, BlockCountsPointsAndBays) {
    StudyMaker maker;
    maker.add("lattice.block", "block");
    maker.number("block", "columns", "2").number("block", "rows", "3").number("block", "layers", "4");
    const PointLattice block = points_of(maker, "block");
    EXPECT_EQ(block.point_count(), 3U * 4U * 5U);
    EXPECT_EQ(arrangement_text(block), "3 × 4 × 5 points, 2 × 3 × 4 bays");
    EXPECT_EQ(link_count(block), 2U * 4 * 5 + 3U * 3 * 5 + 3U * 4 * 4);
    EXPECT_EQ(cells_of(block).count(), 2U * 3 * 5 + 2U * 4 * 4 + 3U * 3 * 4);
}

TEST(Lattices, StandOnAnyPlacement) {
    StudyMaker maker;
    maker.add("placement.frame", "placement");
    maker.set("placement", "place", Places{{"placement", "1 m", "2 m", "3 m", "1"}})
        .word("placement", "up", "x");
    maker.add("lattice.polar", "wheel");
    maker.word("wheel", "plane", "placed").set("wheel", "placement", ResultName{"placement"});
    const PointLattice wheel = points_of(maker, "wheel");
    for (std::size_t index = 0; index < wheel.address_count(); ++index)
        EXPECT_NEAR(wheel.point(index).x, 1, 1e-12);
    EXPECT_NEAR(length(wheel.point(0) - Vec3{1, 2, 3}), 2, 1e-12);
}

TEST(Lattices, TooFewOrTooManyAreRefused) {
    StudyMaker maker;
    maker.add("lattice.polar", "wheel");
    maker.number("wheel", "spokes", "2");
    EXPECT_EQ(test::error_of(test::run(maker.study), "wheel").where, "Spokes");
    maker.number("wheel", "spokes", "12").number("wheel", "outer", "1 m");
    EXPECT_EQ(test::error_of(test::run(maker.study), "wheel").where, "Outer radius");
    StudyMaker huge;
    huge.add("lattice.block", "block");
    huge.number("block", "columns", "100000")
        .number("block", "rows", "100000")
        .number("block", "layers", "100");
    EXPECT_EQ(test::error_of(test::run(huge.study), "block").code, ErrorCode::out_of_memory);
}

// Parts ---------------------------------------------------------------------------------------------------

TEST(Checkerboard, NeighboursAreTheDiagonalOnes) {
    for (const BoardHalf half : {BoardHalf::even, BoardHalf::odd})
        for (const auto& [columns, rows] :
             {std::pair<std::size_t, std::size_t>{7, 5}, {6, 6}, {2, 2}, {4, 9}}) {
            const PointLattice whole = test::grid(columns, rows);
            const PointLattice board = *checkerboard(whole, half);
            const std::size_t odd = half == BoardHalf::odd ? 1 : 0;
            EXPECT_EQ(board.point_count(), (columns * rows + 1 - odd) / 2);
            std::size_t links = 0;
            for_each_link(board, [&](std::size_t from, std::size_t to) {
                ++links;
                const Vec3 step = board.point(to) - board.point(from);
                EXPECT_NEAR(std::abs(step.x), 1, 1e-12);
                EXPECT_NEAR(std::abs(step.y), 1, 1e-12);
            });
            // Every diagonal pair of that half is linked, counted the plain way.
            std::size_t expected = 0;
            for (std::size_t j = 0; j + 1 < rows; ++j)
                for (std::size_t i = 0; i < columns; ++i) {
                    if ((i + j) % 2 != odd) continue;
                    expected += (i + 1 < columns ? 1 : 0) + (i > 0 ? 1 : 0);
                }
            EXPECT_EQ(links, expected) << columns << " by " << rows;
            // The turned arrangement is no larger than it has to be: every row and column has a point.
            std::vector<bool> along(board.counts()[0], false), across(board.counts()[1], false);
            for (std::size_t index = 0; index < board.address_count(); ++index)
                if (board.present(index))
                    along[board.address(index).i] = across[board.address(index).j] = true;
            EXPECT_EQ(std::ranges::count(along, false), 0);
            EXPECT_EQ(std::ranges::count(across, false), 0);
        }
}

TEST(SubLattice, EveryNthKeepsClosednessWhereItGoesIn) {
    const PointLattice ring = test::torus(12, 9, 3, 1);
    const PointLattice even = *every_nth(ring, 3, 3), odd = *every_nth(ring, 5, 1);
    EXPECT_EQ(even.counts()[0], 4U);
    EXPECT_TRUE(even.closed(0) && even.closed(1));
    EXPECT_EQ(odd.counts()[0], 3U);
    EXPECT_FALSE(odd.closed(0));
    EXPECT_TRUE(odd.closed(1));
    EXPECT_EQ(even.point(1), ring.point(3));
}

TEST(SubLattice, BorderAndInteriorPartTheLattice) {
    for (const auto& [name, lattice] : test::pathological()) {
        const auto mask = border_mask(lattice);
        EXPECT_EQ(mask.size(), lattice.address_count()) << name;
    }
    const auto mask = border_mask(test::grid(6, 5));
    EXPECT_EQ(std::ranges::count(mask, 1), 2 * 6 + 2 * 3);
    EXPECT_EQ(std::ranges::count(border_mask(test::torus(8, 6, 3, 1)), 1), 0) << "a torus has none";
}

TEST(SubLattice, CentresOfCells) {
    const PointLattice centres = *cell_centres(test::grid(5, 4));
    EXPECT_EQ(centres.counts()[0], 4U);
    EXPECT_EQ(centres.counts()[1], 3U);
    EXPECT_EQ(centres.point(0), (Vec3{0.5, 0.5, 0}));
    EXPECT_EQ(cell_centres(test::torus(8, 6, 3, 1))->point_count(), 48U);
    StudyMaker maker;
    maker.add("lattice.triangular", "tri");
    maker.number("tri", "columns", "6").number("tri", "rows", "4").number("tri", "side", "1 m");
    const PointLattice comb = *cell_centres(points_of(maker, "tri"));
    EXPECT_EQ(comb.arrangement(), Arrangement::hexagonal);
    EXPECT_EQ(comb.point_count(), 4U * 2U * 6U);
    // Centres of triangles that share a side are 1/sqrt(3) apart: so is every link.
    std::size_t links = 0;
    for_each_link(comb, [&](std::size_t from, std::size_t to) {
        ++links;
        EXPECT_NEAR(length(comb.point(from) - comb.point(to)), 1 / std::sqrt(3.0), 1e-12);
    });
    // Inner edges of the triangulation: all links less the border's.
    const PointLattice tri = points_of(maker, "tri");
    EXPECT_EQ(links, link_count(tri) - (2U * 6U + 2U * 4U));
}

TEST(SubLattice, RefinedKeepsTheOldPoints) {
    const PointLattice old = test::grid(4, 3, [](double i, double j) { return i * j; });
    const PointLattice fine = *refined(old, 3);
    EXPECT_EQ(fine.counts()[0], 10U);
    EXPECT_EQ(fine.counts()[1], 7U);
    for (std::size_t j = 0; j < 3; ++j)
        for (std::size_t i = 0; i < 4; ++i)
            EXPECT_EQ(fine.point(fine.index({3 * i, 3 * j, 0})), old.point(old.index({i, j, 0})));
    EXPECT_NEAR(fine.point(1).x, 1.0 / 3, 1e-15);
    const PointLattice ring = *refined(test::torus(8, 6, 3, 1), 2);
    EXPECT_TRUE(ring.closed(0));
    EXPECT_EQ(ring.counts()[0], 16U);
}

TEST(SubLattice, TheStepTakesEachPart) {
    StudyMaker maker;
    maker.add("lattice.rectangular", "grid");  // 25 by 17 points
    maker.add("lattice.part", "part");
    const std::pair<const char*, std::size_t> counts[]{{"checkerboard", 213}, {"nth", 13 * 9},
                                                       {"border", 80},        {"interior", 23 * 15},
                                                       {"centres", 24 * 16},  {"refined", 49 * 33}};
    for (const auto& [word, count] : counts) {
        maker.word("part", "part", word);
        EXPECT_EQ(points_of(maker, "part").point_count(), count) << word;
    }
    maker.number("grid", "columns", "1").word("part", "part", "interior");
    EXPECT_EQ(test::error_of(test::run(maker.study), "part").code, ErrorCode::empty_input);
}

TEST(SubLattice, RefusesWhatHasNoSquareCells) {
    StudyMaker maker;
    maker.add("lattice.triangular", "tri");
    for (const char* part : {"checkerboard", "nth", "refined"}) {
        maker.add("lattice.part", std::string("part_") + part);
        maker.word(std::string("part_") + part, "part", part)
            .set(std::string("part_") + part, "points", ResultName{"tri"});
        const Error error = test::error_of(test::run(maker.study), std::string("part_") + part);
        EXPECT_EQ(error.code, ErrorCode::wrong_kind) << part;
        EXPECT_FALSE(error.mend.empty());
    }
}

TEST(SubLattice, RunsOverEveryPathologicalLattice) {
    for (const auto& [name, lattice] : test::pathological()) {
        for (const auto& result : {checkerboard(lattice, BoardHalf::even), every_nth(lattice, 2, 2),
                                   cell_centres(lattice), refined(lattice, 2)})
            EXPECT_TRUE(result || !result.error().mend.empty()) << name;
    }
}

TEST(TakeLines, OneRowIsARowAndAClosedColumnStaysClosed) {
    StudyMaker maker;
    maker.add("lattice.polar", "wheel");
    maker.number("wheel", "spokes", "8").number("wheel", "rings", "3");
    maker.add("points.lines", "line");
    maker.set("line", "numbers", Lines{"1"});
    const PointLattice ring = points_of(maker, "line");
    EXPECT_EQ(ring.arrangement(), Arrangement::row);
    EXPECT_TRUE(ring.closed(0));
    EXPECT_EQ(ring.point_count(), 8U);
    maker.word("line", "lines", "columns").set("line", "numbers", Lines{"0 -1"});
    const PointLattice two = points_of(maker, "line");
    EXPECT_EQ(two.counts()[0], 2U);
    EXPECT_FALSE(two.closed(0));
    maker.set("line", "numbers", Lines{"99"});
    EXPECT_EQ(test::error_of(test::run(maker.study), "line").where, "Numbers");
    maker.set("line", "numbers", Lines{"first"});
    EXPECT_EQ(test::error_of(test::run(maker.study), "line").code, ErrorCode::bad_number);
}

}  // namespace
}  // namespace plume

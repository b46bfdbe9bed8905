// What only one word of a choice, one arrangement, one kind of result or a gap reaches, against numbers
// worked out by hand or found the plain way.

#include <cmath>
#include <numbers>
#include <set>

#include "core/catalogue/every_kind.hpp"
#include "core/geometry/curves/curve_division.hpp"
#include "core/geometry/measures/best_fit.hpp"
#include "core/geometry/meshes/posts.hpp"
#include "core/geometry/moves/copies.hpp"
#include "core/geometry/moves/push.hpp"
#include "core/geometry/moves/transformed.hpp"
#include "core/geometry/numbers/direction_field.hpp"
#include "core/geometry/parts/point_order.hpp"
#include "core/geometry/parts/subset.hpp"
#include "core/geometry/points/lattice_links.hpp"
#include "core/geometry/points/sub_lattice.hpp"
#include "core/geometry/surfaces/facets.hpp"
#include "core/picture/drawable.hpp"

namespace plume {
namespace {

using test::grid;
using test::StudyMaker;
using test::value_of;

PointLattice points_in(const StudyMaker& maker, const std::string& name) {
    return *lattice_of(value_of(test::run(maker.study), name));
}

// Pairs of points that stand one side apart, found by trying all.
std::set<std::pair<std::size_t, std::size_t>> pairs_apart(const PointLattice& lattice, double side) {
    std::set<std::pair<std::size_t, std::size_t>> pairs;
    for (std::size_t a = 0; a < lattice.address_count(); ++a)
        for (std::size_t b = a + 1; b < lattice.address_count(); ++b)
            if (lattice.present(a) && lattice.present(b) &&
                std::abs(length(lattice.point(a) - lattice.point(b)) - side) < 1e-9)
                pairs.insert({a, b});
    return pairs;
}
std::set<std::pair<std::size_t, std::size_t>> linked(const PointLattice& lattice) {
    std::set<std::pair<std::size_t, std::size_t>> pairs;
    for_each_link(lattice, [&](std::size_t from, std::size_t to) {
        EXPECT_TRUE(pairs.insert({std::min(from, to), std::max(from, to)}).second) << "no link comes twice";
    });
    return pairs;
}
PointLattice laid(const char* kind, std::initializer_list<std::pair<const char*, const char*>> numbers) {
    StudyMaker maker;
    maker.add(kind, "points");
    for (const auto& [slot, text] : numbers)
        maker.number("points", slot, text);
    return points_in(maker, "points");
}
PointLattice without(const PointLattice& lattice, std::initializer_list<std::size_t> gone) {
    std::vector<std::uint8_t> mask(lattice.address_count(), 1);
    for (const std::size_t index : gone)
        mask[index] = 0;
    return with_gaps(lattice, mask);
}

// Arrangements
// -----------------------------------------------------------------------------------------------

TEST(Branches, LinksAreThePairsOneSideApart) {
    const PointLattice all[] = {
        laid("lattice.triangular", {{"columns", "6"}, {"rows", "5"}, {"side", "2 m"}}),
        laid("lattice.hexagonal", {{"columns", "5"}, {"rows", "4"}, {"side", "2 m"}}),
        laid("lattice.block", {{"columns", "3"},
                               {"rows", "2"},
                               {"layers", "4"},
                               {"width", "6 m"},
                               {"depth", "4 m"},
                               {"height", "8 m"}})};
    for (const PointLattice& lattice : all) {
        EXPECT_EQ(linked(lattice), pairs_apart(lattice, 2)) << arrangement_text(lattice);
        const PointLattice holed = without(lattice, {0, 7, 11, lattice.address_count() - 1});
        EXPECT_EQ(linked(holed), pairs_apart(holed, 2)) << arrangement_text(holed);
    }
}

// Edges as they are drawn, counted by hand.
TEST(Branches, EdgesOfEveryArrangement) {
    const struct {
        PointLattice lattice;
        std::size_t edges;
    } cases[] = {
        {laid("lattice.triangular", {{"columns", "7"}, {"rows", "5"}}), 6 * 7 + 5 * 15},
        {laid("lattice.block", {{"columns", "3"}, {"rows", "2"}, {"layers", "2"}}), 27 + 24 + 24},
        {laid("lattice.polar", {{"spokes", "12"}, {"rings", "3"}}), 4 * 12 + 12 * 3},
        {grid(5, 4, {}, true), 5 * 4 + 5 * 3},
        {grid(5, 4, {}, true, true), 5 * 4 + 5 * 4},
        {without(grid(5, 4, {}, true), {4}), 5 * 4 + 5 * 3 - 3},
    };
    for (const auto& c : cases)
        EXPECT_EQ(make_drawable(Value(c.lattice), {}, plume::Run())->edges.size(), 2 * c.edges)
            << arrangement_text(c.lattice);
}

// A triangular lattice round a cylinder: its rows lean to either side, and at the seam too.
TEST(Branches, TriangularRowsCloseRoundASeam) {
    PointLattice::Parts parts;
    constexpr std::size_t around = 8, rows = 4;
    Doubles x(around * rows), y(around * rows), z(around * rows);
    const double turn = 2 * std::numbers::pi / around;
    for (std::size_t j = 0; j < rows; ++j)
        for (std::size_t i = 0; i < around; ++i) {
            const double angle = turn * (static_cast<double>(i) + (j % 2 == 0 ? 0 : 0.5));
            x[i + around * j] = std::cos(angle);
            y[i + around * j] = std::sin(angle);
            z[i + around * j] = 0.6 * static_cast<double>(j);
        }
    parts.arrangement = Arrangement::triangular;
    parts.counts = {around, rows, 1};
    parts.closed = {true, false, false};
    parts.x = std::move(x);
    parts.y = std::move(y);
    parts.z = std::move(z);
    const PointLattice tube = *PointLattice::make(std::move(parts));
    const double along = 2 * std::sin(turn / 2), across = std::hypot(2 * std::sin(turn / 4), 0.6);
    std::set<std::pair<std::size_t, std::size_t>> expected = pairs_apart(tube, along);
    expected.merge(pairs_apart(tube, across));
    EXPECT_EQ(linked(tube), expected);
    const Mesh skin = *facets(tube, FacetShape::quads, plume::Run());
    EXPECT_EQ(skin.face_count(), 2 * around * (rows - 1));
    for (std::size_t face = 0; face < skin.face_count(); ++face) {
        const Vec3 middle = (skin.vertex(skin.face(face)[0]) + skin.vertex(skin.face(face)[1]) +
                             skin.vertex(skin.face(face)[2])) *
                            (1.0 / 3);
        EXPECT_GT(dot(area_vector(skin, face), {middle.x, middle.y, 0}), 0) << "every facet looks outwards";
    }
}

TEST(Branches, CellsOfBlocksHaveTheirFourCorners) {
    const LatticeCells cells = cells_of(laid("lattice.block", {{"columns", "2"},
                                                               {"rows", "2"},
                                                               {"layers", "2"},
                                                               {"width", "2 m"},
                                                               {"depth", "2 m"},
                                                               {"height", "2 m"}}));
    EXPECT_EQ(cells.count(), 3U * 12U) << "of each of three directions three sheets of four";
    const PointLattice block = laid("lattice.block", {{"columns", "2"},
                                                      {"rows", "2"},
                                                      {"layers", "2"},
                                                      {"width", "2 m"},
                                                      {"depth", "2 m"},
                                                      {"height", "2 m"}});
    for (std::size_t cell = 0; cell < cells.count(); ++cell) {
        Vec3 corner[4];
        ASSERT_EQ(cells.first[cell + 1] - cells.first[cell], 4U);
        for (std::size_t at = 0; at < 4; ++at)
            corner[at] = block.point(cells.corners[cells.first[cell] + at]);
        EXPECT_NEAR(length(cross(corner[1] - corner[0], corner[2] - corner[0])), 1, 1e-12);
        EXPECT_NEAR(length(corner[0] + corner[2] - corner[1] - corner[3]), 0, 1e-12) << "a square";
    }
    // A cell with a corner missing is none.
    const PointLattice comb = laid("lattice.hexagonal", {{"columns", "4"}, {"rows", "3"}});
    const LatticeCells whole = cells_of(comb);
    ASSERT_EQ(whole.count(), 12U);
    for (const std::size_t gone : {std::size_t{5}, std::size_t{14}, comb.address_count() / 2}) {
        std::size_t touched = 0;
        for (std::size_t cell = 0; cell < 12; ++cell)
            touched += std::count(whole.corners.begin() + static_cast<std::ptrdiff_t>(whole.first[cell]),
                                  whole.corners.begin() + static_cast<std::ptrdiff_t>(whole.first[cell + 1]),
                                  gone) > 0;
        EXPECT_GT(touched, 0U);
        EXPECT_EQ(cells_of(without(comb, {gone})).count(), 12U - touched);
    }
}

// Parts
// ------------------------------------------------------------------------------------------------------

TEST(Branches, BordersAreThePointsThatLackANeighbour) {
    const PointLattice comb = laid("lattice.hexagonal", {{"columns", "5"}, {"rows", "4"}, {"side", "1 m"}});
    std::vector<std::size_t> near(comb.address_count(), 0);
    for (const auto& [a, b] : pairs_apart(comb, 1))
        ++near[a], ++near[b];
    const auto border = border_mask(comb);
    for (std::size_t index = 0; index < comb.address_count(); ++index)
        if (comb.present(index)) {
            EXPECT_EQ(border[index] != 0, near[index] < 3) << index;
        }
    const auto of_row = border_mask(laid("lattice.rectangular", {{"columns", "4"}, {"rows", "1"}}));
    EXPECT_EQ(std::ranges::count(of_row, 1), 10) << "two rows of five have no inside";
    PointLattice::Parts row;
    row.arrangement = Arrangement::row;
    row.counts = {5, 1, 1};
    row.x = Doubles{0, 1, 2, 3, 4};
    row.y = row.z = Doubles(5, 0.0);
    EXPECT_EQ(border_mask(*PointLattice::make(row)), (std::vector<std::uint8_t>{1, 0, 0, 0, 1}));
    const auto block = border_mask(laid("lattice.block", {{"columns", "3"}, {"rows", "4"}, {"layers", "5"}}));
    EXPECT_EQ(std::ranges::count(block, 0), 2 * 3 * 4) << "what has a layer around it";
}

TEST(Branches, CentresOfBlocksCombsAndRings) {
    const PointLattice block = laid("lattice.block", {{"columns", "2"},
                                                      {"rows", "3"},
                                                      {"layers", "4"},
                                                      {"width", "2 m"},
                                                      {"depth", "3 m"},
                                                      {"height", "4 m"}});
    const PointLattice centres = *cell_centres(block);
    EXPECT_EQ(centres.counts(), (std::array<std::size_t, 3>{2, 3, 4}));
    for (std::size_t index = 0; index < centres.address_count(); ++index) {
        const Address at = centres.address(index);
        const Vec3 corner = block.point(block.index(at));
        EXPECT_NEAR(length(centres.point(index) - (corner + Vec3{0.5, 0.5, 0.5})), 0, 1e-12);
    }
    const PointLattice ring = test::torus(8, 6, 3, 1);
    const PointLattice of_ring = *cell_centres(ring);
    for (std::size_t j = 0; j < 6; ++j)
        for (std::size_t i = 0; i < 8; ++i) {
            const std::size_t right = (i + 1) % 8, above = (j + 1) % 6;
            const Vec3 mean =
                (ring.point(ring.index({i, j, 0})) + ring.point(ring.index({right, j, 0})) +
                 ring.point(ring.index({right, above, 0})) + ring.point(ring.index({i, above, 0}))) *
                0.25;
            EXPECT_NEAR(length(of_ring.point(of_ring.index({i, j, 0})) - mean), 0, 1e-12) << i << ' ' << j;
        }
    const PointLattice comb = laid("lattice.hexagonal", {{"columns", "4"}, {"rows", "3"}, {"side", "1 m"}});
    const PointLattice of_comb = *cell_centres(comb);
    EXPECT_EQ(of_comb.point_count(), 12U);
    for (std::size_t index = 0; index < of_comb.address_count(); ++index) {
        std::size_t corners = 0;
        for (std::size_t corner = 0; corner < comb.address_count(); ++corner)
            corners += comb.present(corner) &&
                       std::abs(length(comb.point(corner) - of_comb.point(index)) - 1) < 1e-9;
        EXPECT_EQ(corners, 6U) << "six corners one side away";
    }
    EXPECT_EQ(linked(of_comb), pairs_apart(of_comb, std::sqrt(3.0)));
    // Of triangles, the middles of three points that stand one side apart.
    const PointLattice triangles =
        laid("lattice.triangular", {{"columns", "4"}, {"rows", "3"}, {"side", "1 m"}});
    const PointLattice of_triangles = *cell_centres(triangles);
    for (std::size_t index = 0; index < of_triangles.address_count(); ++index) {
        if (!of_triangles.present(index)) continue;
        std::size_t corners = 0;
        for (std::size_t corner = 0; corner < triangles.address_count(); ++corner)
            corners += std::abs(length(triangles.point(corner) - of_triangles.point(index)) -
                                1 / std::sqrt(3.0)) < 1e-9;
        EXPECT_EQ(corners, 3U) << index;
    }
}

TEST(Branches, PartsOfClosedLattices) {
    const PointLattice ring = test::torus(8, 6, 3, 1);
    const PointLattice fourths = *every_nth(ring, 1, 4);
    EXPECT_FALSE(fourths.closed(1)) << "4 does not go into 6";
    EXPECT_TRUE(fourths.closed(0));
    const PointLattice fine = *refined(ring, 2);
    for (std::size_t j = 0; j < 6; ++j) {
        const Vec3 half = (ring.point(ring.index({7, j, 0})) + ring.point(ring.index({0, j, 0}))) * 0.5;
        EXPECT_NEAR(length(fine.point(fine.index({15, 2 * j, 0})) - half), 0, 1e-12)
            << "between the last and the first";
    }
    // Whole columns gone: what was closed is open.
    StudyMaker maker;
    maker.add("lattice.polar", "wheel");
    maker.number("wheel", "spokes", "8").number("wheel", "rings", "2");
    maker.add("points.keep_where", "part");
    maker.formula("part", "i != 3");
    maker.word("part", "gaps", "close");
    const PointLattice part = points_in(maker, "part");
    EXPECT_EQ(part.counts()[0], 7U);
    EXPECT_FALSE(part.closed(0));
    maker.add("points.lines", "few");
    maker.set("few", "points", ResultName{"wheel"})
        .word("few", "lines", "columns")
        .set("few", "numbers", Lines{"0..4"});
    EXPECT_FALSE(points_in(maker, "few").closed(0));
    maker.set("few", "numbers", Lines{"*"});
    EXPECT_TRUE(points_in(maker, "few").closed(0));
}

// Directions
// -------------------------------------------------------------------------------------------------

TEST(Branches, TheNearestAloneIsTheOneOfLeastDistanceOverWeight) {
    PointLattice::Parts parts;
    parts.arrangement = Arrangement::scatter;
    parts.counts = {3, 1, 1};
    parts.x = Doubles{1, 3, 6};
    parts.y = parts.z = Doubles{0, 0, 0};
    const PointLattice points = *PointLattice::make(std::move(parts));
    // At 0 with weight 1 and at 10 with weight 4: they balance where d = (10 - d) / 4, at d = 2.
    const Attractors two = *Attractors::make({{"a", {0, 0, 0}, 1}, {"b", {10, 0, 0}, 4}});
    DirectionRule rule;
    rule.sense = DirectionSense::towards;
    rule.nearest_only = true;
    rule.fading = Response::distance;
    const auto field = direction_field(points, two, rule, plume::Run());
    ASSERT_TRUE(field);
    EXPECT_DOUBLE_EQ(field->x[0], -1) << "1 from the first, 9 / 4 from the second";
    EXPECT_DOUBLE_EQ(field->x[1], 4)
        << "3 from the first, 7 / 4 from the second, which is as strong as its weight";
    EXPECT_DOUBLE_EQ(field->x[2], 4);
    rule.nearest_only = false;
    EXPECT_DOUBLE_EQ(direction_field(points, two, rule, plume::Run())->x[0], 3) << "the sum of both";
    rule.sense = DirectionSense::away;
    EXPECT_DOUBLE_EQ(direction_field(points, two, rule, plume::Run())->x[0], -3);
}

TEST(Branches, AroundACurveGoesByItsOwnDirection) {
    PointLattice::Parts parts;
    parts.arrangement = Arrangement::scatter;
    parts.counts = {1, 1, 1};
    parts.x = Doubles{0};
    parts.y = Doubles{2};
    parts.z = Doubles{0};
    const PointLattice point = *PointLattice::make(std::move(parts));
    const auto path = std::make_shared<const std::vector<Vec3>>(std::vector<Vec3>{{-5, 0, 0}, {5, 0, 0}});
    DirectionRule rule;
    rule.sense = DirectionSense::around;
    rule.axis = {0, 0, 1};
    rule.fading = Response::distance;
    const auto around_line =
        direction_field(point, *Attractors::make({{"l", {-5, 0, 0}, 1, path}}), rule, plume::Run());
    // Along X, seen against it anticlockwise: from Y towards Z.
    EXPECT_NEAR(around_line->z[0], 1, 1e-12);
    EXPECT_NEAR(around_line->x[0], 0, 1e-12);
    const auto around_point =
        direction_field(point, *Attractors::make({{"p", {0, 0, 0}, 1}}), rule, plume::Run());
    EXPECT_NEAR(around_point->x[0], -1, 1e-12) << "about Z: from Y towards -X";
}

// Things moved
// -----------------------------------------------------------------------------------------------

TEST(Branches, AxesDirectionsPathsAndFacesOfMovedThings) {
    const Affine map =
        composed(moved_by({10, 20, 30}), turned_about({1, 2, 3}, {0, 0, 1}, std::numbers::pi / 2));
    const PointLattice one = points_at({Arrangement::row, {1, 1, 1}, {}}, std::vector<Vec3>{{4, 2, 3}});
    const auto placed = Placements::make(one, {placement_of({4, 2, 3}, {0, 1, 0}, {1, 0, 0})});
    const auto moved_placement = std::get<Placements>(*transformed(Value(*placed), map)).placement(0);
    EXPECT_NEAR(length(moved_placement.origin - Vec3{11, 25, 33}), 0, 1e-12);
    EXPECT_NEAR(length(moved_placement.along - Vec3{0, 1, 0}), 0, 1e-12) << "X turned to Y";
    EXPECT_NEAR(length(moved_placement.up - Vec3{-1, 0, 0}), 0, 1e-12) << "Y turned to -X";
    const DirectionsOnPoints wind =
        with_directions(one, "wind", Doubles{2}, Doubles{0}, Doubles{1}, plain_number);
    const auto blown = std::get<DirectionsOnPoints>(*transformed(Value(wind), map));
    EXPECT_NEAR(length(blown.direction(0) - Vec3{0, 2, 1}), 0, 1e-12) << "turned, and not shifted";
    const auto path = std::make_shared<const std::vector<Vec3>>(std::vector<Vec3>{{1, 2, 3}, {4, 2, 3}});
    const auto line =
        std::get<Attractors>(*transformed(Value(*Attractors::make({{"l", {1, 2, 3}, 1, path}})), map));
    EXPECT_NEAR(length(line.items()[0].path->back() - Vec3{11, 25, 33}), 0, 1e-12);
    EXPECT_NEAR(length(line.items()[0].position - Vec3{11, 22, 33}), 0, 1e-12);
    StudyMaker maker;
    maker.add("points.typed", "foot");
    maker.set("foot", "rows", Lines{"3, 4, 0"});
    maker.add("mesh.posts", "post");
    const Value post = value_of(test::run(maker.study), "post");
    const double whole = test::volume(std::get<Mesh>(post));
    for (const Vec3 factors : {Vec3{-0.5, 0.5, 0.5}, {-2, 1, 1}, {1, -1, -1}, {0.5, 0.5, 0.5}}) {
        const auto scaled = std::get<Mesh>(*transformed(post, scaled_about({1, 1, 1}, factors)));
        EXPECT_NEAR(test::volume(scaled), whole * std::abs(factors.x * factors.y * factors.z), 1e-9)
            << "outwards whatever is mirrored";
    }
    const Placement plane = placement_of({0, 0, 5}, {1, 1, 1}, {1, 0, 0});
    const Vec3 flat = laid_onto(plane).at({7, -2, 1});
    EXPECT_NEAR(dot(flat - plane.origin, plane.up), 0, 1e-12);
    EXPECT_NEAR(length(cross(flat - Vec3{7, -2, 1}, plane.up)), 0, 1e-12) << "straight onto it";
    const Placement from = placement_of({1, 2, 3}, {0, 0, 1}, {0, 1, 0}),
                    to = placement_of({9, 9, 9}, {1, 0, 0}, {0, 0, 1});
    EXPECT_NEAR(length(between_placements(from, to).at(from.to_world({1, 2, 3})) - to.to_world({1, 2, 3})), 0,
                1e-12);
}

// Copies and joins
// -------------------------------------------------------------------------------------------

TEST(Branches, CopiesKeepWhatWasClosedAndCloseWhatGoesAround) {
    const std::vector<Affine> three{moved_by({0, 0, 0}), moved_by({0, 0, 1}), moved_by({0, 0, 2})};
    PointLattice::Parts parts;
    parts.arrangement = Arrangement::row;
    parts.counts = {4, 1, 1};
    parts.closed = {true, false, false};
    parts.x = Doubles{0, 1, 1, 0};
    parts.y = Doubles{0, 0, 1, 1};
    parts.z = Doubles(4, 0.0);
    const PointLattice hoop = *PointLattice::make(std::move(parts));
    const auto lattice = [&](const PointLattice& thing, bool closed) {
        return std::get<PointLattice>(*copied(Value(thing), three, closed, plume::Run()));
    };
    const PointLattice tube = lattice(hoop, false), ring = lattice(hoop, true);
    EXPECT_TRUE(tube.closed(0) && !tube.closed(1));
    EXPECT_TRUE(ring.closed(0) && ring.closed(1));
    EXPECT_EQ(tube.counts(), (std::array<std::size_t, 3>{4, 3, 1}));
    const PointLattice thick = lattice(grid(4, 2, {}, true), true);
    EXPECT_EQ(thick.arrangement(), Arrangement::block);
    EXPECT_TRUE(thick.closed(0) && !thick.closed(1) && thick.closed(2));
    // One row of a grid is a row: its copies are a grid, two rows' a block.
    EXPECT_EQ(lattice(grid(4, 1), false).arrangement(), Arrangement::grid);
    EXPECT_EQ(lattice(grid(4, 2), false).arrangement(), Arrangement::block);
}

TEST(Branches, RowsThatCloseDoNotGoOnIntoEachOther) {
    const auto row = [](bool closed, double z, Dimension dimension) {
        PointLattice::Parts parts;
        parts.arrangement = Arrangement::row;
        parts.counts = {3, 1, 1};
        parts.closed = {closed, false, false};
        parts.x = Doubles{0, 1, 2};
        parts.y = Doubles(3, 0.0);
        parts.z = Doubles(3, z);
        parts.fields = {{"load", Doubles{1, 2, 3}, dimension}, {"both", Doubles{4, 5, 6}, plain_number}};
        return Value(*PointLattice::make(std::move(parts)));
    };
    const Value open = row(false, 0, a_length), other = row(false, 1, a_length),
                closed = row(true, 2, a_length), unlike = row(false, 3, an_angle);
    const auto joined = [](const Value& a, const Value& b) {
        return std::get<PointLattice>(*joined_values({&a, &b}, plume::Run()));
    };
    EXPECT_EQ(joined(open, other).arrangement(), Arrangement::row);
    EXPECT_EQ(joined(open, closed).arrangement(), Arrangement::scatter);
    EXPECT_EQ(joined(open, other).fields().size(), 2U);
    const PointLattice mixed = joined(open, unlike);
    ASSERT_EQ(mixed.fields().size(), 1U) << "a length and an angle are no one field";
    EXPECT_EQ(mixed.fields()[0].name, "both");
}

TEST(Branches, RisingTurnsDoNotClose) {
    StudyMaker maker;
    maker.add("points.typed", "row");
    maker.add("thing.repeat", "around");
    maker.word("around", "how", "turn").number("around", "count", "6");
    EXPECT_TRUE(points_in(maker, "around").closed(1));
    maker.number("around", "rise", "1 m");
    EXPECT_FALSE(points_in(maker, "around").closed(1)) << "the last copy stands above the first";
}

// Facets, gaps, normals
// --------------------------------------------------------------------------------------

TEST(Branches, CellsAreHalvedAlongTheShorterDiagonalAndHaveAllCorners) {
    // The corner at 1, 1 is pulled out: the diagonal from 1, 0 to 0, 1 is the shorter one.
    PointLattice::Parts parts;
    parts.counts = {2, 2, 1};
    parts.x = Doubles{0, 1, 0, 3};
    parts.y = Doubles{0, 0, 1, 3};
    parts.z = Doubles(4, 0.0);
    const Mesh halves = *facets(*PointLattice::make(std::move(parts)), FacetShape::triangles, plume::Run());
    ASSERT_EQ(halves.face_count(), 2U);
    for (std::size_t face = 0; face < 2; ++face) {
        const auto corners = halves.face(face);
        EXPECT_TRUE(std::ranges::find(corners, 1U) != corners.end() &&
                    std::ranges::find(corners, 2U) != corners.end());
    }
    // One gap takes the cells around it, whichever of their corners it is.
    for (const std::size_t gone : {0, 2, 6, 8}) {
        EXPECT_EQ(facets(without(grid(3, 3), {gone}), FacetShape::quads, plume::Run())->face_count(), 3U)
            << gone;
    }
}

TEST(Branches, NormalsBesideGapsAndAcrossSeams) {
    const PointLattice slope = grid(5, 5, [](double i, double) { return i; });
    // What stands in the columns at a gap means nothing.
    const auto spoilt = [](const Column& column, double by) {
        Doubles values(column.span().begin(), column.span().end());
        values[12] = by;
        return Column(std::move(values));
    };
    const PointLattice holed =
        without(slope.moved(spoilt(slope.x(), 1e6), spoilt(slope.y(), 2e6), spoilt(slope.z(), -3e6)), {12});
    const auto normals = lattice_normals(holed, plume::Run());
    ASSERT_TRUE(normals);
    for (std::size_t index = 0; index < slope.address_count(); ++index) {
        if (index == 12) continue;
        EXPECT_NEAR(normals->x[index], -std::sqrt(0.5), 1e-12) << index;
        EXPECT_NEAR(normals->z[index], std::sqrt(0.5), 1e-12) << index;
    }
    const PointLattice ring = test::torus(24, 16, 3, 1);
    const auto round = lattice_normals(ring, plume::Run());
    for (const std::size_t j : {std::size_t{0}, std::size_t{15}})
        for (const std::size_t i : {std::size_t{0}, std::size_t{23}}) {
            const std::size_t index = ring.index({i, j, 0});
            const Vec3 p = ring.point(index), flat{p.x, p.y, 0};
            const Vec3 out = unit_or_zero(p - unit_or_zero(flat) * 3.0);
            EXPECT_NEAR(std::abs(dot(out, {round->x[index], round->y[index], round->z[index]})), 1, 1e-9)
                << "at the seam as anywhere";
        }
}

// A border point whose only neighbour along i is a gap has no normal: it stays, and the step says so. Its
// placement points up; along the row placements look back where the next point is missing.
TEST(Branches, PointsWithoutANormalAreTold) {
    StudyMaker maker;
    maker.add("lattice.rectangular", "sheet");
    maker.number("sheet", "columns", "2").number("sheet", "rows", "2");
    maker.word("sheet", "plane", "xz");
    maker.add("points.keep_where", "holed");
    maker.formula("holed", "not (i == 1 and j == 2)");
    maker.add("field.formula", "depth");
    maker.formula("depth", "value = 1 m");
    maker.add("points.push", "pushed");
    maker.word("pushed", "direction", "normal");
    maker.add("placement.on_lattice", "placements");
    maker.set("placements", "points", ResultName{"holed"});
    const Evaluation evaluation = test::run(maker.study);
    for (const auto& [step, fate] : {std::pair{"pushed", "stay where they are: 2, the first at 0,2."},
                                     {"placements", "get placements with Z upwards: 2, the first at 0,2."}}) {
        const auto& remarks = evaluation.outcome(step)->remarks;
        ASSERT_EQ(remarks.size(), 1U) << step;
        EXPECT_TRUE(remarks[0].loss);
        EXPECT_NE(remarks[0].text.find(fate), std::string::npos) << remarks[0].text;
    }
    EXPECT_EQ(evaluation.outcome("holed")->remarks.size(), 0U);
}

TEST(Branches, PushesStopAtThePlaceAndGoAlongTheirAxis) {
    const PointLattice points = grid(3, 1);
    const Column far(Doubles{100, 100, 0.25});
    const auto towards = pushed_towards(points, far, 1, {1, 0, 4}, plume::Run());
    EXPECT_NEAR(length(towards->point(0) - Vec3{1, 0, 4}), 0, 1e-12);
    EXPECT_NEAR(length(towards->point(2) - points.point(2)), 0.25, 1e-12);
    StudyMaker maker = test::canopy();
    for (const auto& [word, axis] : {std::pair{"x", Vec3{1, 0, 0}}, {"y", {0, 1, 0}}, {"z", {0, 0, 1}}}) {
        maker.word("pushed", "direction", word);
        const Evaluation evaluation = test::run(maker.study);
        const PointLattice before = *lattice_of(value_of(evaluation, "lattice")),
                           after = *lattice_of(value_of(evaluation, "pushed"));
        const Vec3 by = after.point(0) - before.point(0);
        EXPECT_GT(dot(by, axis), 1) << word;
        EXPECT_NEAR(length(cross(by, axis)), 0, 1e-12) << word;
    }
}

// Two triangles, which look another way than their mirror images, against points that lie in both.
TEST(Branches, PostsOfThreeSidesOverlapWhereTheyDo) {
    PostPlan plan;
    plan.footprint = Footprint::polygon;
    plan.sides = 3;
    const auto inside = [](double x, double y, double shrunk) {
        // Corners at 0°, 120° and 240°: the sides stand half the radius off, to the left and at ±60°.
        const double off = 0.5 - shrunk;
        return x > -off && x * 0.5 + y * std::sqrt(0.75) < off && x * 0.5 - y * std::sqrt(0.75) < off;
    };
    for (double dx = -2; dx <= 2; dx += 0.23)
        for (double dy = -2; dy <= 2; dy += 0.23) {
            const auto both = [&](double shrunk) {
                for (double x = -1; x < 1; x += 0.02)
                    for (double y = -1; y < 1; y += 0.02)
                        if (inside(x, y, shrunk) && inside(x - dx, y - dy, shrunk)) return true;
                return false;
            };
            const bool surely = both(0.05), perhaps = both(-0.05);
            if (surely != perhaps) continue;  // they all but touch
            std::vector<Post> posts(2);
            for (Post& post : posts) {
                post.radius = 1;
                post.height = 2;
            }
            posts[1].placement.origin = {dx, dy, 0};
            const auto overlaps = post_overlaps(posts, plan, plume::Run());
            ASSERT_TRUE(overlaps);
            EXPECT_EQ(overlaps->pairs > 0, surely) << dx << ' ' << dy;
        }
}

// Planes, orders, lengths
// ------------------------------------------------------------------------------------

TEST(Branches, UprightPlanesLookAlongYThenX) {
    const std::vector<Vec3> wall{
        {0, 0, 0}, {4, 3, 0}, {4, 3, 5}, {0, 0, 5}};  // its normal is (-3, 4) / 5 or against it
    EXPECT_NEAR(length(best_fit(wall).placement.up - Vec3{-0.6, 0.8, 0}), 0, 1e-9);
    const std::vector<Vec3> side{{0, 0, 0}, {0, 3, 0}, {0, 3, 5}, {0, 0, 5}};
    EXPECT_NEAR(length(best_fit(side).placement.up - Vec3{1, 0, 0}), 0, 1e-9);
}

TEST(Branches, NumbersThatAreNotFiniteComeLastAndOrdersTurnRound) {
    PointLattice::Parts parts;
    parts.arrangement = Arrangement::row;
    parts.counts = {4, 1, 1};
    parts.x = Doubles{0, 1, 2, 3};
    parts.y = parts.z = Doubles(4, 0.0);
    const PointLattice row = *PointLattice::make(std::move(parts));
    EXPECT_EQ(by_number(row, Column(Doubles{2, NAN, 1, 3})), (std::vector<std::size_t>{2, 0, 3, 1}));
    StudyMaker maker;
    maker.add("points.typed", "row");
    maker.set("row", "rows", Lines{"0, 0, 0\n5, 0, 0\n2, 0, 0"});
    maker.add("points.sort", "sorted");
    maker.word("sorted", "by", "x");
    EXPECT_EQ(points_in(maker, "sorted").x()[0], 0);
    maker.word("sorted", "sense", "falling");
    EXPECT_EQ(points_in(maker, "sorted").x()[0], 5);
}

TEST(Branches, PointsAreSortedEveryWay) {
    StudyMaker maker;
    maker.add("points.typed", "strewn");
    maker.set("strewn", "rows", Lines{"x, y, z, load\n3, 1, 2, 9\n1, 3, 4, 7\n2, 4, 1, 8\n4, 2, 3, 6"});
    maker.add("field.formula", "weight");
    maker.set("weight", "points", ResultName{"strewn"}).formula("weight", "load");
    maker.add("points.sort", "sorted");
    maker.set("sorted", "points", ResultName{"strewn"}).set("sorted", "numbers", ResultName{"weight"});
    const std::pair<const char*, std::vector<double>> cases[] = {{"x", {1, 2, 3, 4}},
                                                                 {"y", {3, 4, 1, 2}},
                                                                 {"z", {2, 3, 4, 1}},
                                                                 {"numbers", {4, 1, 2, 3}},
                                                                 {"order", {3, 1, 2, 4}}};
    for (const auto& [by, order] : cases) {
        maker.word("sorted", "by", by);
        const PointLattice sorted = points_in(maker, "sorted");
        for (std::size_t at = 0; at < 4; ++at)
            EXPECT_EQ(sorted.x()[at], order[at]) << by;
    }
}

TEST(Branches, SpacingOnAClosedCurveLeavesNoShortBay) {
    StudyMaker maker;
    maker.add("outline.shape", "hoop");
    maker.word("hoop", "shape", "circle").number("hoop", "radius", "1 m");
    maker.add("lattice.along_curve", "marks");
    maker.word("marks", "rule", "spacing").number("marks", "spacing", "0.9 m");
    const PointLattice marks = points_in(maker, "marks");
    ASSERT_EQ(marks.point_count(), 6U) << "0.9 m goes into 6.28 m six times";
    for (std::size_t at = 0; at < 6; ++at)
        EXPECT_NEAR(length(marks.point(at) - marks.point((at + 1) % 6)), 1, 2e-3)
            << "a hexagon, all sides alike";
}

}  // namespace
}  // namespace plume

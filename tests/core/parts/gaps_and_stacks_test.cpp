// Lattices without gaps, rows stacked, placements by points and axes, upright lattices seen from either side.

#include <cmath>
#include <numbers>
#include <optional>
#include <thread>

#include "core/geometry/moves/push.hpp"
#include "core/geometry/parts/fill_gaps.hpp"
#include "core/geometry/parts/subset.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

using test::error_of;
using test::grid;
using test::StudyMaker;
using test::value_of;

PointLattice points_in(const Evaluation& evaluation, const std::string& name) {
    return *lattice_of(value_of(evaluation, name));
}

// Gaps -----------------------------------------------------------------------------------------------------

// 9 x 7 points on a slope, with a field, and a hole in the middle.
StudyMaker sloping(const char* kept) {
    StudyMaker maker;
    maker.add("lattice.rectangular", "ground");
    maker.number("ground", "columns", "8").number("ground", "rows", "6");
    maker.add("points.move_formula", "slope");
    maker.formula("slope", "to_z = 0.3 * x - 0.2 * y + 1 m\nfield warm = 3 * i - j");
    maker.add("points.keep_where", "holes");
    maker.formula("holes", kept);
    maker.add("points.close_gaps", "whole");
    return maker;
}

TEST(CloseGaps, WhatWasStraightIsStraightAgain) {
    StudyMaker maker = sloping("not (i > 1 and i < 6 and j > 1 and j < 4) and not (i == 7 and j == 3)");
    maker.word("whole", "way", "fill");
    const Evaluation evaluation = test::run(maker.study);
    ASSERT_TRUE(points_in(evaluation, "holes").has_gaps());
    const PointLattice slope = points_in(evaluation, "slope"), whole = points_in(evaluation, "whole");
    ASSERT_FALSE(whole.has_gaps());
    EXPECT_TRUE(whole.same_arrangement(slope));
    for (std::size_t index = 0; index < whole.address_count(); ++index) {
        EXPECT_NEAR(whole.z()[index], slope.z()[index], 1e-9) << index;
        EXPECT_NEAR(whole.x()[index], slope.x()[index], 1e-9) << index;
        EXPECT_NEAR(whole.field("warm")->values[index], slope.field("warm")->values[index], 1e-9);
    }
}

// Each filled point is the mean of its neighbours, counted here by hand: at the border, on a closed ring, on
// a triangular lattice.
TEST(CloseGaps, EveryNewPointIsTheMeanOfItsNeighbours) {
    const auto with_holes = [](const PointLattice& lattice, const std::vector<std::size_t>& gone) {
        std::vector<std::uint8_t> mask(lattice.address_count(), 1);
        for (const std::size_t index : gone)
            mask[index] = 0;
        return with_gaps(lattice, mask);
    };
    const auto bumpy = [](double i, double j) { return std::sin(i * 1.3) + i * j * 0.1; };
    {
        const auto whole = filled(with_holes(grid(5, 4, bumpy), {0, 7, 8, 19}), plume::Run());
        ASSERT_TRUE(whole);
        const auto z = [&](std::size_t i, std::size_t j) { return whole->z()[i + 5 * j]; };
        EXPECT_NEAR(z(0, 0), (z(1, 0) + z(0, 1)) / 2, 1e-10);
        EXPECT_NEAR(z(2, 1), (z(1, 1) + z(3, 1) + z(2, 0) + z(2, 2)) / 4, 1e-10);
        EXPECT_NEAR(z(3, 1), (z(2, 1) + z(4, 1) + z(3, 0) + z(3, 2)) / 4, 1e-10);
        EXPECT_NEAR(z(4, 3), (z(3, 3) + z(4, 2)) / 2, 1e-10);
    }
    {
        const auto ring = filled(with_holes(grid(5, 3, bumpy, true), {4}), plume::Run());
        ASSERT_TRUE(ring);
        const auto z = [&](std::size_t i, std::size_t j) { return ring->z()[i + 5 * j]; };
        EXPECT_NEAR(z(4, 0), (z(3, 0) + z(0, 0) + z(4, 1)) / 3, 1e-10) << "the seam joins 4 to 0";
    }
    {
        PointLattice::Parts parts;
        parts.arrangement = Arrangement::row;
        parts.counts = {6, 1, 1};
        parts.x = Doubles{0, 1, 9, 9, 4, 6};
        parts.y = Doubles(6, 0.0);
        parts.z = Doubles{5, 1, 9, 9, 7, 0};
        parts.present = {1, 1, 0, 0, 1, 1};
        const auto row = filled(*PointLattice::make(std::move(parts)), plume::Run());
        ASSERT_TRUE(row);
        EXPECT_NEAR(row->x()[2], 2, 1e-10);
        EXPECT_NEAR(row->x()[3], 3, 1e-10);
        EXPECT_NEAR(row->z()[2], 3, 1e-10) << "a third of the way from 1 to 7";
    }
}

// A row of which only few are there: every gap is a straight line between its ends, however long it is.
TEST(CloseGaps, LongGapsAreStraight) {
    constexpr std::size_t count = 200'000;
    for (const bool closed : {false, true}) {
        PointLattice::Parts parts;
        parts.arrangement = Arrangement::row;
        parts.counts = {count, 1, 1};
        parts.closed[0] = closed;
        parts.x = parts.y = Column(Doubles(count, 0.0));
        Doubles z(count, -7.0);
        parts.present.assign(count, 0);
        for (const auto& [at, height] : {std::pair{0U, 10.0}, {150'000U, 40.0}, {160'000U, -40.0}}) {
            parts.present[at] = 1;
            z[at] = height;
        }
        parts.z = std::move(z);
        const auto row = filled(*PointLattice::make(std::move(parts)), plume::Run());
        ASSERT_TRUE(row) << sentence(row.error());
        EXPECT_NEAR(row->z()[75'000], 25, 1e-6);
        EXPECT_NEAR(row->z()[155'000], 0, 1e-6);
        // Beyond the last one an open row goes on level; a closed one comes back to its first.
        EXPECT_NEAR(row->z()[180'000], closed ? -15 : -40, 1e-6);
        EXPECT_NEAR(row->z()[count - 1], closed ? 10 - 50.0 / 40'000 : -40, 1e-6);
    }
}

// Too many gaps for a whole factor: by rounds, which tell how far they are and stop when they are told to.
TEST(CloseGaps, VeryManyGapsAreReportedAndCancelled) {
    constexpr std::size_t side = 512;
    PointLattice::Parts parts;
    parts.counts = {side, side, 1};
    parts.present.assign(side * side, 0);
    Doubles ramp(side * side);
    for (std::size_t index = 0; index < ramp.size(); ++index) {
        const std::size_t i = index % side, j = index / side;
        ramp[index] = static_cast<double>(i);
        if (i == 0 || j == 0 || i + 1 == side || j + 1 == side) parts.present[index] = 1;
    }
    parts.x = parts.y = parts.z = Column(std::move(ramp));
    const PointLattice lattice = *PointLattice::make(std::move(parts));
    ASSERT_FALSE(has_whole_factor(lattice));
    const plume::Run run;
    std::optional<ErrorCode> ended;
    std::thread work([&] {
        const auto result = filled(lattice, run);
        if (!result) ended = result.error().code;
    });
    while (run.fraction() == 0)
        std::this_thread::yield();
    run.cancel();
    work.join();
    EXPECT_LT(run.fraction(), 1);
    EXPECT_EQ(ended, ErrorCode::cancelled);
}

TEST(CloseGaps, ClosingUpTakesThemOut) {
    const struct {
        const char* kept;
        const char* becomes;
        bool loss;
    } cases[] = {
        {"i != 3", "8 × 7 points, 7 × 6 bays", false},
        {"i != 3 and j > 1", "8 × 5 points, 7 × 4 bays", false},
        {"i + j > 0", "62 points", true},
        {"i >= 0", "9 × 7 points, 8 × 6 bays", false},
    };
    for (const auto& c : cases) {
        const Evaluation evaluation = test::run(sloping(c.kept).study);
        const PointLattice whole = points_in(evaluation, "whole");
        EXPECT_FALSE(whole.has_gaps());
        EXPECT_TRUE(arrangement_text(whole).starts_with(c.becomes)) << arrangement_text(whole);
        const auto& remarks = evaluation.outcome("whole")->remarks;
        ASSERT_EQ(remarks.size(), 1U);
        EXPECT_EQ(remarks[0].loss, c.loss) << remarks[0].text;
    }
}

TEST(CloseGaps, BadInputNamesTheMend) {
    StudyMaker maker = sloping("i + j > 0");
    maker.word("holes", "gaps", "close").word("whole", "way", "fill");
    const Evaluation nothing = test::run(maker.study);
    EXPECT_TRUE(nothing.outcome("whole")->value) << "a scatter without gaps needs nothing";
    PointLattice::Parts parts;
    parts.arrangement = Arrangement::scatter;
    parts.counts = {3, 1, 1};
    parts.x = parts.y = parts.z = Doubles{1, 2, 3};
    parts.present = {1, 0, 1};
    EXPECT_EQ(filled(*PointLattice::make(std::move(parts)), plume::Run()).error().code,
              ErrorCode::wrong_kind);
    const auto odd =
        filled(with_gaps(grid(3, 1, [](double i, double) { return 1 / i; }), {1, 0, 1}), plume::Run());
    EXPECT_EQ(odd.error().code, ErrorCode::not_finite);
    EXPECT_FALSE(odd.error().mend.empty());
    // Squares of such numbers are beyond what a number can hold: nothing is made up for them.
    const auto huge = filled(with_gaps(grid(4, 4, [](double i, double j) { return (1 + i * j) * 1e200; }),
                                       {1, 1, 1, 1, 1, 0, 0, 1, 1, 0, 0, 1, 1, 1, 1, 1}),
                             plume::Run());
    ASSERT_FALSE(huge);
    EXPECT_EQ(huge.error().code, ErrorCode::not_converged);
    EXPECT_FALSE(huge.error().mend.empty());
}

// Stacks ---------------------------------------------------------------------------------------------------

TEST(Stack, TwoRowsAreAGridAndAThirdGoesOn) {
    StudyMaker maker;
    maker.add("points.typed", "front");
    maker.set("front", "rows", Lines{"x, y, z, load\n0, 0, 0, 1\n1, 0, 2, 2\n2, 0, 0, 3"});
    maker.add("points.typed", "back");
    maker.set("back", "rows", Lines{"x, y, z, load\n0, 5, 1, 4\n1, 5, 3, 5\n2, 5, 1, 6"});
    maker.add("points.stack", "both");
    maker.set("both", "first", ResultName{"front"}).set("both", "second", ResultName{"back"});
    maker.add("points.stack", "three");
    maker.set("three", "first", ResultName{"both"}).set("three", "second", ResultName{"front"});
    maker.add("skin", "roof");
    maker.set("roof", "points", ResultName{"both"}).word("roof", "surface", "flat");
    const Evaluation evaluation = test::run(maker.study);
    const PointLattice both = points_in(evaluation, "both"), three = points_in(evaluation, "three");
    EXPECT_EQ(both.arrangement(), Arrangement::grid);
    EXPECT_EQ(both.counts(), (std::array<std::size_t, 3>{3, 2, 1}));
    EXPECT_EQ(both.y()[3], 5);
    EXPECT_EQ(both.z()[4], 3);
    EXPECT_EQ(both.field("load")->values[5], 6);
    EXPECT_EQ(three.counts(), (std::array<std::size_t, 3>{3, 3, 1}));
    EXPECT_EQ(three.z()[7], 2);
    EXPECT_EQ(std::get<Mesh>(value_of(evaluation, "roof")).face_count(), 2U);
}

TEST(Stack, CurvesAreRowsOfEvenLengths) {
    StudyMaker maker;
    maker.add("outline.shape", "low");
    maker.word("low", "shape", "circle").number("low", "radius", "3 m");
    maker.add("thing.repeat", "hoops");
    maker.set("hoops", "thing", ResultName{"low"}).number("hoops", "count", "4");
    maker.add("points.stack", "tower");
    maker.word("tower", "what", "curves")
        .set("tower", "curves", ResultName{"hoops"})
        .number("tower", "bays", "12");
    const PointLattice tower = points_in(test::run(maker.study), "tower");
    EXPECT_EQ(tower.counts(), (std::array<std::size_t, 3>{12, 4, 1}));
    EXPECT_TRUE(tower.closed(0));
    EXPECT_FALSE(tower.closed(1));
    // Twelve even chords of a circle: the seam is not there twice.
    const double chord = 2 * 3 * std::sin(std::numbers::pi / 12);
    for (std::size_t at = 0; at < 12; ++at)
        EXPECT_NEAR(length(tower.point(at) - tower.point((at + 1) % 12)), chord, 2e-3);
}

TEST(Stack, WhatDoesNotGoTogetherIsNamed) {
    const auto stacked = [](const char* first, const char* second, const char* kind_of_second) {
        StudyMaker maker;
        maker.add("points.typed", "a");
        maker.set("a", "rows", Lines{first});
        maker.add("points.typed", "b");
        maker.set("b", "rows", Lines{second}).word("b", "arrangement", kind_of_second);
        maker.add("points.stack", "both");
        maker.set("both", "first", ResultName{"a"}).set("both", "second", ResultName{"b"});
        return error_of(test::run(maker.study), "both");
    };
    const Error counts = stacked("0,0,0\n1,0,0", "0,1,0\n1,1,0\n2,1,0", "row");
    EXPECT_EQ(counts.code, ErrorCode::unlike_arrangement);
    EXPECT_NE(counts.message.find("3 points"), std::string::npos) << counts.message;
    EXPECT_EQ(stacked("0,0,0\n1,0,0", "0,1,0\n1,1,0", "scatter").code, ErrorCode::wrong_kind);
    StudyMaker maker;
    maker.add("outline.shape", "hoop");
    maker.add("points.typed", "a");
    maker.add("curve.join", "bow");
    maker.set("bow", "points", ResultName{"a"});
    maker.add("thing.join", "mixed");
    maker.set("mixed", "first", ResultName{"hoop"}).set("mixed", "second", ResultName{"bow"});
    maker.add("points.stack", "grid");
    maker.word("grid", "what", "curves").set("grid", "curves", ResultName{"mixed"});
    EXPECT_EQ(error_of(test::run(maker.study), "grid").code, ErrorCode::unlike_arrangement);
}

// Placements
// ---------------------------------------------------------------------------------------------------

void expect_placement(const Placement& placement, Vec3 origin, Vec3 along, Vec3 across) {
    EXPECT_NEAR(length(placement.origin - origin), 0, 1e-12);
    EXPECT_NEAR(length(placement.along - unit_or_zero(along)), 0, 1e-12);
    EXPECT_NEAR(length(placement.across - unit_or_zero(across)), 0, 1e-12);
    EXPECT_NEAR(length(placement.up - cross(placement.along, placement.across)), 0, 1e-12);
}

TEST(SetPlacement, ThroughThreePlacesThreePointsOrAlongTwoAxes) {
    StudyMaker maker;
    maker.add("placement.frame", "placement");
    const auto placement = [&] {
        return std::get<Placements>(value_of(test::run(maker.study), "placement")).placement(0);
    };
    maker.word("placement", "how", "places");
    maker.set("placement", "corners",
              Places{{"o", "1 m", "2 m", "3 m", "1"},
                     {"a", "1 m", "6 m", "3 m", "1"},
                     {"b", "0 m", "9 m", "5 m", "1"}});
    // Along Y; the third lies at -X and up of it.
    expect_placement(placement(), {1, 2, 3}, {0, 1, 0}, {-1, 0, 2});
    maker.word("placement", "how", "axes");
    for (const auto& [slot, text] : {std::pair{"along_x", "0"},
                                     {"along_z", "-2"},
                                     {"beside_x", "3"},
                                     {"beside_y", "0"},
                                     {"beside_z", "5"}})
        maker.number("placement", slot, text);
    maker.set("placement", "place", Places{{"p", "4 m", "0 m", "0 m", "1"}});
    expect_placement(placement(), {4, 0, 0}, {0, 0, -1}, {1, 0, 0});
    StudyMaker read;
    read.add("points.typed", "corners");
    read.set("corners", "rows", Lines{"1, 1, 0\n1, 1, 4\n3, 1, 9\n7, 7, 7"});
    read.add("placement.frame", "placement");
    read.word("placement", "how", "points");
    expect_placement(std::get<Placements>(value_of(test::run(read.study), "placement")).placement(0),
                     {1, 1, 0}, {0, 0, 1}, {1, 0, 0});
}

TEST(SetPlacement, LinesAndTooFewPointsLeaveThePlaneOpen) {
    StudyMaker maker;
    maker.add("points.typed", "corners");
    maker.add("placement.frame", "placement");
    maker.word("placement", "how", "points");
    maker.set("corners", "rows", Lines{"0, 0, 0\n1, 1, 1\n3, 3, 3"});
    EXPECT_EQ(error_of(test::run(maker.study), "placement").code, ErrorCode::out_of_range);
    maker.set("corners", "rows", Lines{"0, 0, 0\n1, 1, 1"});
    EXPECT_EQ(error_of(test::run(maker.study), "placement").code, ErrorCode::too_few_points);
    maker.word("placement", "how", "axes")
        .number("placement", "beside_x", "2")
        .number("placement", "beside_y", "0");
    const Error along = error_of(test::run(maker.study), "placement");
    EXPECT_EQ(along.where, "Second axis");
    EXPECT_FALSE(along.mend.empty());
}

// Planes ---------------------------------------------------------------------------------------------------

TEST(LatticePlane, NormalsFaceTheViewerOrAreTurned) {
    const struct {
        const char *plane, *side;
        Vec3 normal;
    } cases[] = {{"xy", "front", {0, 0, 1}},
                 {"xz", "front", {0, -1, 0}},
                 {"yz", "front", {1, 0, 0}},
                 {"xz", "back", {0, 1, 0}},
                 {"yz", "back", {-1, 0, 0}}};
    for (const char* kind : {"lattice.rectangular", "lattice.triangular", "lattice.polar"})
        for (const auto& c : cases) {
            StudyMaker maker;
            maker.add(kind, "wall");
            maker.word("wall", "plane", c.plane).word("wall", "facing", c.side);
            const PointLattice wall = points_in(test::run(maker.study), "wall");
            const auto normals = lattice_normals(wall, plume::Run());
            ASSERT_TRUE(normals) << kind;
            const std::size_t middle = wall.address_count() / 2;
            const Vec3 normal{normals->x[middle], normals->y[middle], normals->z[middle]};
            // i anticlockwise and j outwards turn the other way.
            const double round = std::string_view(kind) == "lattice.polar" ? -1 : 1;
            EXPECT_NEAR(length(normal - c.normal * round), 0, 1e-9)
                << kind << ' ' << c.plane << ' ' << c.side;
            EXPECT_NEAR(dot(wall.bounds().size(), c.normal), 0, 1e-9);
        }
}

}  // namespace
}  // namespace plume

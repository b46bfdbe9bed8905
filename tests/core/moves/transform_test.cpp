// Moving, turning, mirroring and repeating whole values; placements.

#include <cmath>
#include <numbers>

#include "core/geometry/measures/best_fit.hpp"
#include "core/geometry/measures/bounds.hpp"
#include "core/geometry/moves/copies.hpp"
#include "core/geometry/moves/transformed.hpp"
#include "core/geometry/surfaces/facets.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

using test::StudyMaker;

// One value of every kind that can be moved.
std::vector<Value> one_of_each() {
    StudyMaker maker = test::canopy();
    maker.add("curve.formula", "curve");
    maker.add("mesh.tube", "tube");
    maker.add("directions.attractors", "flow");
    maker.add("placement.on_lattice", "placements");
    const Evaluation evaluation = test::run(maker.study);
    std::vector<Value> values;
    for (const char* name : {"lattice", "rise", "perches", "roof", "curve", "tube", "flow", "placements"})
        values.push_back(test::value_of(evaluation, name));
    return values;
}

std::vector<Vec3> places_of(const Value& value) {
    std::vector<Vec3> places;
    const auto add = [&](const Column& x, const Column& y, const Column& z) {
        for (std::size_t at = 0; at < x.size(); ++at)
            places.push_back({x[at], y[at], z[at]});
    };
    if (const PointLattice* lattice = lattice_of(value)) add(lattice->x(), lattice->y(), lattice->z());
    if (const auto* mesh = std::get_if<Mesh>(&value)) add(mesh->x(), mesh->y(), mesh->z());
    if (const auto* set = std::get_if<SurfaceSet>(&value))
        for (const SplinePatch& patch : set->patches)
            add(patch.x(), patch.y(), patch.z());
    if (const auto* set = std::get_if<CurveSet>(&value))
        for (const SplineCurve& curve : set->curves)
            add(curve.x(), curve.y(), curve.z());
    if (const auto* attractors = std::get_if<Attractors>(&value))
        for (const Attractor& item : attractors->items()) {
            places.push_back(item.position);
            if (item.path) places.insert(places.end(), item.path->begin(), item.path->end());
        }
    // Axes and directions as places beside their points.
    if (const auto* placements = std::get_if<Placements>(&value))
        for (const Placement& placement : placements->placements())
            for (const Vec3 axis : {placement.along, placement.across, placement.up})
                places.push_back(placement.origin + axis);
    if (const auto* item = std::get_if<DirectionsOnPoints>(&value))
        for (std::size_t at = 0; at < item->points.address_count(); ++at)
            places.push_back(item->points.point(at) + item->direction(at));
    return places;
}

void expect_same_places(const Value& a, const Value& b) {
    const auto left = places_of(a), right = places_of(b);
    ASSERT_EQ(left.size(), right.size());
    for (std::size_t at = 0; at < left.size(); ++at)
        EXPECT_LT(length(left[at] - right[at]), 1e-10) << plain_name(kind_of(a)) << " " << at;
}

const Placement slanted = placement_of({1, -2, 3}, {1, 2, 3}, {0, 1, 0});

TEST(Affine, MirrorTwiceIsIdentity) {
    for (const Value& value : one_of_each()) {
        const Affine mirror = mirrored_across(slanted);
        expect_same_places(*transformed(*transformed(value, mirror), mirror), value);
        EXPECT_NEAR(mirror.determinant(), -1, 1e-12);
    }
}

TEST(Affine, FromPlacementToPlacementAndBack) {
    const Placement other = placement_of({-4, 0.5, 2}, {0, -1, 0.2}, {1, 0, 0});
    for (const Value& value : one_of_each()) {
        const Value there = *transformed(value, between_placements(slanted, other));
        expect_same_places(*transformed(there, between_placements(other, slanted)), value);
    }
    const Affine map = between_placements(slanted, other);
    EXPECT_LT(length(map.at(slanted.to_world({1, 2, 3})) - other.to_world({1, 2, 3})), 1e-12);
    EXPECT_NEAR(map.determinant(), 1, 1e-12);
}

TEST(Affine, TurnsKeepDistancesAndTheAxis) {
    const Affine turn = turned_about({1, 1, 0}, {0, 0, 2}, std::numbers::pi / 2);
    EXPECT_LT(length(turn.at({2, 1, 5}) - Vec3{1, 2, 5}), 1e-12);
    EXPECT_LT(length(turn.at({1, 1, -3}) - Vec3{1, 1, -3}), 1e-12);
    Affine whole;
    for (int step = 0; step < 4; ++step)
        whole = composed(turn, whole);
    EXPECT_LT(length(whole.at({7, 8, 9}) - Vec3{7, 8, 9}), 1e-12);
}

TEST(Affine, MirroredSolidsStayTurnedOutwards) {
    const Value tube = one_of_each()[5];
    const double before = test::volume(std::get<Mesh>(tube));
    const Mesh after = std::get<Mesh>(*transformed(tube, mirrored_across(slanted)));
    // Quads of a tube are not quite flat: which diagonal the volume is taken over tells a little.
    EXPECT_NEAR(test::volume(after), before, 1e-5 * before);
    EXPECT_EQ(test::open_edges(after), 0U);
}

TEST(Copies, OfRowsAreGridsAndOfGridsBlocks) {
    StudyMaker maker;
    maker.add("numbers.list", "row");
    maker.add("thing.repeat", "grid");
    maker.number("grid", "count", "5").number("grid", "x", "0 m").number("grid", "y", "2 m");
    maker.add("thing.repeat", "block");
    maker.number("block", "count", "3").number("block", "x", "0 m").number("block", "z", "4 m");
    const Evaluation evaluation = test::run(maker.study);
    const PointLattice grid = *lattice_of(test::value_of(evaluation, "grid"));
    EXPECT_EQ(grid.counts(), (std::array<std::size_t, 3>{11, 5, 1}));
    EXPECT_EQ(grid.point(grid.index({0, 4, 0})).y, 8);
    EXPECT_TRUE(facets(grid, FacetShape::quads, plume::Run()));
    const PointLattice block = *lattice_of(test::value_of(evaluation, "block"));
    EXPECT_EQ(block.arrangement(), Arrangement::block);
    EXPECT_EQ(block.counts(), (std::array<std::size_t, 3>{11, 5, 3}));
}

TEST(Copies, AllAroundCloses) {
    StudyMaker maker;
    maker.add("numbers.list", "row");
    maker.number("row", "from", "2").number("row", "to", "4").number("row", "count", "3");
    maker.add("thing.repeat", "wheel");
    maker.word("wheel", "how", "turn").number("wheel", "count", "8");
    const PointLattice wheel = *lattice_of(test::value_of(test::run(maker.study), "wheel"));
    EXPECT_TRUE(wheel.closed(1));
    EXPECT_EQ(wheel.bays(1), 8U);
    const Mesh ring = *facets(wheel, FacetShape::quads, plume::Run());
    EXPECT_EQ(ring.face_count(), 2U * 8U);
    EXPECT_NEAR(area(ring), 8 * 0.5 * std::sin(std::numbers::pi / 4) * (16 - 4), 1e-9);
}

TEST(Repeat, BySteppedTurnsThatRise) {
    StudyMaker maker;
    maker.add("points.typed", "post");
    maker.set("post", "rows", Lines{"2 0 0"});
    maker.add("thing.repeat", "stair");
    maker.word("stair", "how", "steps").number("stair", "count", "5").number("stair", "angle", "90°");
    maker.number("stair", "rise", "0.25 m");
    const PointLattice stair = *lattice_of(test::value_of(test::run(maker.study), "stair"));
    EXPECT_EQ(stair.arrangement(), Arrangement::row);
    EXPECT_FALSE(stair.closed(0)) << "it rises: the last does not meet the first";
    EXPECT_LT(length(stair.point(1) - Vec3{0, 2, 0.25}), 1e-12);
    EXPECT_LT(length(stair.point(4) - Vec3{2, 0, 1}), 1e-12);
}

TEST(Repeat, AlongACurveKeepsTheDistanceFromIt) {
    StudyMaker maker;
    maker.add("outline.shape", "ring");
    maker.word("ring", "shape", "circle").number("ring", "radius", "5 m");
    maker.add("points.typed", "lamp");
    maker.set("lamp", "rows", Lines{"5 0 2"});  // two above the start of the circle
    maker.add("thing.repeat", "lamps");
    maker.set("lamps", "thing", ResultName{"lamp"})
        .word("lamps", "how", "along")
        .number("lamps", "count", "8");
    const PointLattice lamps = *lattice_of(test::value_of(test::run(maker.study), "lamps"));
    ASSERT_EQ(lamps.point_count(), 8U);
    EXPECT_TRUE(lamps.closed(0));
    for (std::size_t at = 0; at < 8; ++at) {
        const double angle = std::numbers::pi / 4 * static_cast<double>(at);
        EXPECT_LT(length(lamps.point(at) - Vec3{5 * std::cos(angle), 5 * std::sin(angle), 2}), 1e-4) << at;
    }
    // Of several curves none is the one.
    maker.add("thing.join", "two");
    maker.set("two", "first", ResultName{"ring"}).set("two", "second", ResultName{"ring"});
    maker.add("thing.repeat", "lost");
    maker.set("lost", "thing", ResultName{"lamp"})
        .word("lost", "how", "along")
        .set("lost", "curve", ResultName{"two"});
    EXPECT_EQ(test::error_of(test::run(maker.study), "lost").code, ErrorCode::wrong_kind);
}

TEST(Turn, AboutTheAxisOfAPlacement) {
    StudyMaker maker;
    maker.add("points.typed", "post");
    maker.set("post", "rows", Lines{"3 0 0"});
    maker.add("placement.frame", "pivot");
    maker.set("pivot", "place", Places{{"pivot", "1 m", "0 m", "0 m", "1"}});
    maker.add("thing.turn", "turned");
    maker.set("turned", "thing", ResultName{"post"})
        .word("turned", "axis", "placed")
        .number("turned", "angle", "90°");
    EXPECT_LT(length(lattice_of(test::value_of(test::run(maker.study), "turned"))->point(0) - Vec3{1, 2, 0}),
              1e-12);
}

TEST(Mirror, WeldsTheSeamOfAGrid) {
    StudyMaker maker;
    maker.add("lattice.rectangular", "half");
    maker.word("half", "origin", "corner").number("half", "columns", "4").number("half", "rows", "3");
    maker.add("thing.mirror", "whole");
    const PointLattice whole = *lattice_of(test::value_of(test::run(maker.study), "whole"));
    EXPECT_EQ(whole.counts(), (std::array<std::size_t, 3>{9, 4, 1})) << "the seam is there once";
    for (std::size_t i = 0; i < 9; ++i)
        EXPECT_NEAR(whole.point(i).x, -36 + 9.0 * static_cast<double>(i), 1e-12);
    maker.word("whole", "keep", "image");
    EXPECT_EQ(lattice_of(test::value_of(test::run(maker.study), "whole"))->point_count(), 20U);
    // Away from the plane there is no seam: two lattices side by side.
    maker.word("whole", "keep", "both").number("whole", "offset", "-1 m");
    EXPECT_EQ(lattice_of(test::value_of(test::run(maker.study), "whole"))->point_count(), 40U);
}

TEST(Mirror, WeldsTheVerticesOfAMesh) {
    StudyMaker maker;
    maker.add("lattice.rectangular", "half");
    maker.word("half", "origin", "corner").number("half", "columns", "4").number("half", "rows", "3");
    maker.add("skin", "roof");
    maker.word("roof", "surface", "flat");
    maker.add("thing.mirror", "whole");
    const Mesh whole = std::get<Mesh>(test::value_of(test::run(maker.study), "whole"));
    EXPECT_EQ(whole.face_count(), 24U);
    EXPECT_EQ(whole.vertex_count(), 9U * 4U);
    EXPECT_EQ(test::open_edges(whole), 2U * (8 + 3)) << "no edge is open along the seam";
}

TEST(Scale, RefusesNothingAndKeepsTheMiddle) {
    StudyMaker maker = test::canopy();
    maker.add("thing.scale", "scaled");
    maker.set("scaled", "thing", ResultName{"lattice"}).number("scaled", "factor", "0");
    EXPECT_EQ(test::error_of(test::run(maker.study), "scaled").where, "Factor");
    maker.number("scaled", "factor", "3").word("scaled", "about", "middle");
    const Box box = bounds_of(test::value_of(test::run(maker.study), "scaled"));
    EXPECT_NEAR(box.high.x, 54, 1e-9);
    EXPECT_NEAR(box.centre().y, 0, 1e-9);
}

TEST(Placements, AlongACurveAreUprightAndCarried) {
    StudyMaker maker;
    maker.add("outline.shape", "ring");
    maker.word("ring", "shape", "circle").number("ring", "radius", "4 m");
    maker.add("placement.on_curve", "stations");
    maker.number("stations", "bays", "12").word("stations", "turning", "upright");
    const auto stations = std::get<Placements>(test::value_of(test::run(maker.study), "stations"));
    ASSERT_EQ(stations.placements().size(), 12U);
    for (const Placement& placement : stations.placements()) {
        EXPECT_NEAR(placement.along.z, 0, 1e-9) << "level";
        EXPECT_NEAR(dot(placement.up, placement.origin), 0, 1e-6) << "along a circle, square to its radius";
        EXPECT_NEAR(std::abs(placement.across.z), 1, 1e-9);
    }
}

TEST(Placements, CopyToPlacementsPutsThingsThere) {
    StudyMaker maker = test::canopy();
    maker.add("placement.on_lattice", "placements");
    maker.set("placements", "points", ResultName{"pushed"});
    maker.add("placement.frame", "one");
    maker.add("thing.place", "copies");
    maker.set("copies", "thing", ResultName{"perches"}).set("copies", "to", ResultName{"placements"});
    const Evaluation evaluation = test::run(maker.study);
    const auto copies = std::get<Attractors>(test::value_of(evaluation, "copies"));
    const auto placements = std::get<Placements>(test::value_of(evaluation, "placements"));
    EXPECT_EQ(copies.items().size(), 2U * 425U);
    EXPECT_LT(length(copies.items()[0].position - placements.placement(0).to_world({-6, -3, 0})), 1e-9);
}

TEST(Deform, TwistTaperAndBendOfAColumn) {
    StudyMaker maker;
    maker.add("lattice.block", "block");
    maker.add("points.deform", "twisted");
    maker.formula("twisted", "90° * share");
    const auto twist = std::get<PointLattice>(test::value_of(test::run(maker.study), "twisted"));
    const auto block = std::get<PointLattice>(test::value_of(test::run(maker.study), "block"));
    const std::size_t top = block.index({8, 8, 4});
    EXPECT_LT(length(twist.point(0) - block.point(0)), 1e-12) << "the foot stays";
    EXPECT_LT(length(twist.point(top) - Vec3{-6, 6, 6}), 1e-12) << "the top turns by a right angle";
    maker.word("twisted", "how", "taper").formula("twisted", "1 - share / 2");
    EXPECT_LT(length(std::get<PointLattice>(test::value_of(test::run(maker.study), "twisted")).point(top) -
                     Vec3{3, 3, 6}),
              1e-12);
    maker.word("twisted", "how", "bend").formula("twisted", "90°");
    const auto bent = std::get<PointLattice>(test::value_of(test::run(maker.study), "twisted"));
    // The axis becomes a quarter of a circle of length 6: its end stands at (r, 0, r).
    const double radius = 6 / (std::numbers::pi / 2);
    const std::size_t axis_top = block.index({4, 4, 4});
    EXPECT_LT(length(bent.point(axis_top) - Vec3{radius, 0, radius}), 1e-9);
    maker.word("twisted", "how", "twist").formula("twisted", "height");
    EXPECT_EQ(test::error_of(test::run(maker.study), "twisted").code, ErrorCode::unit_mismatch);
}

// Whatever its slope, a line lies in the plane through it that is nearest to the ground: the one whose normal
// leans least, in the upright plane through the line.
TEST(BestFit, OfALineIsNearestToTheGround) {
    for (const Vec3 along : {Vec3{1, 0.3, 0.7}, Vec3{-0.2, 1, 0.05}, Vec3{3, 1, -2}, Vec3{1e6, 3e5, 7e5},
                             Vec3{1e-9, 3e-10, 7e-10}}) {
        std::vector<Vec3> points;
        for (int at = 0; at < 40; ++at)
            points.push_back(Vec3{5, -3, 2} * length(along) + along * (at * 0.37));
        const BestFit fit = best_fit(points);
        const Vec3 unit = unit_or_zero(along), up = unit_or_zero(Vec3{0, 0, 1} - unit * unit.z);
        EXPECT_NEAR(length(fit.placement.up - up), 0, 1e-9);
        EXPECT_NEAR(std::abs(dot(fit.placement.along, unit)), 1, 1e-12);
        EXPECT_NEAR(fit.worst / length(along), 0, 1e-12);
    }
    // Beyond what squares of numbers can hold.
    const std::vector<Vec3> huge{{-1e200, 0, 0}, {1e200, 0, 0}, {0, 1e199, 0}, {0, -1e199, 0}};
    EXPECT_EQ(best_fit(huge).placement.up, (Vec3{0, 0, 1}));
}

TEST(BestFit, PlaneCentroidAndExtents) {
    std::vector<Vec3> points;
    for (int at = 0; at < 60; ++at)
        points.push_back(slanted.to_world({std::cos(at) * 5, std::sin(at) * 2, at % 2 == 0 ? 0.01 : -0.01}));
    const BestFit fit = best_fit(points);
    EXPECT_NEAR(std::abs(dot(fit.placement.up, slanted.up)), 1, 1e-5);
    EXPECT_NEAR(fit.worst, 0.01, 1e-3);
    EXPECT_GT(std::abs(dot(fit.placement.along, slanted.along)), 0.99);
    StudyMaker maker;
    maker.add("lattice.rectangular", "grid");
    maker.word("grid", "origin", "corner");
    maker.add("points.sum_up", "middle");
    EXPECT_LT(
        length(lattice_of(test::value_of(test::run(maker.study), "middle"))->point(0) - Vec3{18, 12, 0}),
        1e-9);
    maker.word("middle", "what", "extents");
    EXPECT_EQ(lattice_of(test::value_of(test::run(maker.study), "middle"))->point(7), (Vec3{36, 24, 0}));
    maker.word("middle", "what", "plane");
    EXPECT_TRUE(std::holds_alternative<Placements>(test::value_of(test::run(maker.study), "middle")));
}

TEST(Join, KindsHaveToAgree) {
    StudyMaker maker = test::canopy();
    maker.add("thing.join", "joined");
    maker.set("joined", "first", ResultName{"lattice"}).set("joined", "second", ResultName{"rise"});
    EXPECT_EQ(lattice_of(test::value_of(test::run(maker.study), "joined"))->point_count(), 850U);
    maker.set("joined", "second", ResultName{"roof"});
    EXPECT_EQ(test::error_of(test::run(maker.study), "joined").code, ErrorCode::wrong_kind);
}

TEST(Placements, TurnWithADirectionField) {
    StudyMaker maker;
    maker.add("lattice.rectangular", "ground");
    maker.add("attractors.points", "perches");
    maker.add("directions.attractors", "wind");
    maker.set("wind", "points", ResultName{"ground"});
    maker.add("placement.on_lattice", "axes");
    maker.set("axes", "points", ResultName{"ground"}).word("axes", "along", "way");
    const Evaluation made = test::run(maker.study);
    const auto wind = std::get<DirectionsOnPoints>(test::value_of(made, "wind"));
    const auto axes = std::get<Placements>(test::value_of(made, "axes"));
    for (std::size_t index = 0; index < axes.placements().size(); ++index) {
        const Vec3 flat = unit_or_zero({wind.direction(index).x, wind.direction(index).y, 0});
        EXPECT_NEAR(axes.placement(index).up.z, 1, 1e-9);
        if (flat == Vec3{}) continue;
        EXPECT_LT(length(axes.placement(index).along - flat), 1e-9);
    }
    maker.add("lattice.polar", "others");
    maker.add("placement.on_lattice", "wrong");
    maker.set("wrong", "points", ResultName{"others"}).word("wrong", "along", "way");
    EXPECT_EQ(test::error_of(test::run(maker.study), "wrong").slot, "way");
}

}  // namespace
}  // namespace plume

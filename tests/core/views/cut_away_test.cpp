// What sections are made of, against closed forms.

#include "core/geometry/views/cut_away.hpp"

#include <cmath>
#include <numbers>

#include "core/geometry/meshes/joined_meshes.hpp"
#include "core/views/seen_forms.hpp"

namespace plume {
namespace {

FlatRing square_ring(double x, double y, double side, bool clockwise = false) {
    FlatRing ring{{x, y}, {x + side, y}, {x + side, y + side}, {x, y + side}};
    if (clockwise) std::ranges::reverse(ring);
    return ring;
}

double area_of(const FlatRegion& region) {
    double twice = 0;
    for (const auto& [a, b, c] : region.triangles) {
        const FlatPoint p = region.places[a], q = region.places[b], r = region.places[c];
        const double turned = (q.x - p.x) * (r.y - p.y) - (q.y - p.y) * (r.x - p.x);
        EXPECT_GT(turned, 0);
        twice += turned;
    }
    return twice / 2;
}
// Holes turn the other way.
double ring_area_of(const FlatRegion& region) {
    double twice = 0;
    for (const FlatRing& ring : region.rings)
        for (std::size_t at = 0; at < ring.size(); ++at) {
            const FlatPoint p = ring[at], q = ring[(at + 1) % ring.size()];
            twice += p.x * q.y - p.y * q.x;
        }
    return twice / 2;
}
void expect_area(const std::vector<FlatRing>& lines, double area, std::size_t rings) {
    const FlatRegion region = region_within(lines);
    EXPECT_NEAR(area_of(region), area, 1e-9);
    EXPECT_NEAR(ring_area_of(region), area, 1e-9);
    EXPECT_EQ(region.rings.size(), rings);
}

TEST(FlatRegions, AreWhatLinesWindAround) {
    expect_area({square_ring(0, 0, 4)}, 16, 1);
    expect_area({square_ring(0, 0, 4, true)}, 16, 1);
    expect_area({square_ring(0, 0, 4), square_ring(1, 1, 2, true)}, 12, 2);
    expect_area({square_ring(0, 0, 4), square_ring(1, 1, 2)}, 16, 1);
    expect_area({square_ring(0, 0, 4), square_ring(2, 2, 4)}, 28, 1);
    expect_area({square_ring(0, 0, 4), square_ring(4, 0, 4)}, 32, 1);
    expect_area({square_ring(0, 0, 2), square_ring(5, 5, 1)}, 5, 2);
    // An island in a hole, far from the origin.
    expect_area({square_ring(1000, 0, 8), square_ring(1001, 1, 6, true), square_ring(1003, 3, 2)},
                64 - 36 + 4, 3);
}

TEST(FlatRegions, OfNothingAreEmpty) {
    for (const std::vector<FlatRing>& lines : {std::vector<FlatRing>{},
                                               {{}},
                                               {{{1, 1}}},
                                               {{{0, 0}, {0, 0}, {0, 0}}},
                                               {{{0, 0}, {1, 1}, {2, 2}}}}) {
        const FlatRegion region = region_within(lines);
        EXPECT_TRUE(region.rings.empty());
        EXPECT_TRUE(region.triangles.empty());
    }
}

CutThing cut(const SeenThing& thing, const ViewFrame& frame, double depth) {
    auto left = cut_away(thing, frame, depth, plume::Run());
    if (!left) throw std::runtime_error(sentence(left.error()));
    return *std::move(left);
}

double length_of(const std::vector<std::array<Vec3, 2>>& lines) {
    double sum = 0;
    for (const auto& [from, to] : lines)
        sum += length(to - from);
    return sum;
}

TEST(CutAway, LeavesWhatIsBehindThePlane) {
    const Mesh cube = test::cube({0, 0, 0}, 2);
    const ViewFrame north = view_towards(0, 0);
    const CutThing left = cut({&cube}, north, 0.5);
    ASSERT_TRUE(left.behind);
    // One whole face behind, four of 1.5 by 2, nothing of the one before.
    EXPECT_NEAR(area(*left.behind), 4 + 4 * 3, 1e-12);
    EXPECT_NEAR(left.behind->bounds().low.y, 0.5, 1e-12);
    EXPECT_NEAR(length_of(left.cuts), 8, 1e-12);
    EXPECT_NEAR(area_of(left.face), 4, 1e-9);
    const Mesh cap = mesh_of_cut(left.face, north, 0.5);
    EXPECT_NEAR(area(cap), 4, 1e-9);
    EXPECT_NEAR(cap.bounds().low.y, 0.5, 1e-12);
    EXPECT_NEAR(cap.bounds().high.y, 0.5, 1e-12);
}

TEST(CutAway, BesideAThingItLeavesAllOrNothing) {
    const Mesh cube = test::cube({0, 0, 0}, 2);
    const ViewFrame north = view_towards(0, 0);
    for (const double depth : {-1.0, 0.0}) {
        const CutThing all = cut({&cube}, north, depth);
        EXPECT_NEAR(area(*all.behind), 24, 1e-12);
        EXPECT_TRUE(all.cuts.empty());
    }
    const CutThing none = cut({&cube}, north, 3);
    EXPECT_FALSE(none.behind);
    EXPECT_TRUE(none.cuts.empty() && none.face.rings.empty());
}

TEST(CutAway, HollowsStayOpen) {
    const Mesh hollow = *joined({test::cube({0, 0, 0}, 2), turned_over(test::cube({0.5, 0.5, 0.5}, 1))});
    const CutThing left = cut({&hollow}, view_towards(0, 0), 1);
    EXPECT_NEAR(area_of(left.face), 4 - 1, 1e-9);
    EXPECT_EQ(left.face.rings.size(), 2U);
}

TEST(CutAway, ARingIsCutTwice) {
    constexpr double major = 3, minor = 1;
    constexpr std::uint32_t across = 24;
    const Mesh ring = test::torus({10, 20, 30}, major, minor, 40, across);
    // A regular polygon of 24 corners, twice.
    const double polygon = across / 2.0 * minor * minor * std::sin(2 * std::numbers::pi / across);
    const CutThing left = cut({&ring}, view_towards(0, 0), 20);
    EXPECT_NEAR(area_of(left.face), 2 * polygon, 1e-9);
    EXPECT_EQ(left.face.rings.size(), 2U);
    // In plan: between two circles of 40 corners.
    const CutThing plan = cut({&ring}, plan_view(), -30);
    const auto circle = [](double radius) {
        return 40 / 2.0 * radius * radius * std::sin(2 * std::numbers::pi / 40);
    };
    EXPECT_NEAR(area_of(plan.face), circle(major + minor) - circle(major - minor), 1e-9);
}

TEST(CutAway, OpenSheetsAreCutToLines) {
    const Mesh square = test::square({0, 0, 1}, 2);
    const CutThing left = cut({&square}, view_towards(0, 0), 0.25);
    EXPECT_NEAR(length_of(left.cuts), 2, 1e-12);
    EXPECT_TRUE(left.face.rings.empty());
    EXPECT_NEAR(area(*left.behind), 2 * 0.75, 1e-12);
}

TEST(CutAway, LinesEndAtThePlane) {
    SeenThing thing;
    thing.lines = {
        {Vec3{0, -1, 0}, Vec3{0, 3, 4}}, {Vec3{1, -3, 0}, Vec3{1, -2, 0}}, {Vec3{2, 1, 0}, Vec3{2, 2, 0}}};
    const CutThing left = cut(thing, view_towards(0, 0), 0);
    ASSERT_EQ(left.lines.size(), 2U);
    EXPECT_EQ(left.lines[0][0], (Vec3{0, 0, 1}));
    EXPECT_EQ(left.lines[0][1], (Vec3{0, 3, 4}));
    EXPECT_FALSE(left.behind);
}

TEST(CutAway, GivesUpWhenItIsCancelled) {
    const Mesh cube = test::cube({0, 0, 0}, 2);
    plume::Run run;
    run.cancel();
    EXPECT_EQ(cut_away({&cube}, plan_view(), -1, run).error().code, ErrorCode::cancelled);
}

}  // namespace
}  // namespace plume

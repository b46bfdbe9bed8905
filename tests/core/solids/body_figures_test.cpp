#include <numbers>

#include "core/geometry/curves/exact_curves.hpp"
#include "core/geometry/solids/bodies.hpp"
#include "core/geometry/solids/body_mesh.hpp"
#include "core/geometry/solids/combined.hpp"
#include "core/geometry/solids/hollowed.hpp"
#include "core/geometry/surfaces/loft.hpp"
#include "core/support.hpp"
#include "core/surfaces/round_surfaces.hpp"

namespace plume {
namespace {

constexpr double pi = std::numbers::pi;
using test::StudyMaker;

Body ball(double radius) {
    return *exact_body({test::sphere(radius)}, plume::Run());
}

Body ring(double large, double small) {
    return *exact_body({test::torus(large, small)}, plume::Run());
}

Body box(Vec3 low, Vec3 size) {
    Doubles x, y, z;
    for (const double k : {0.0, 1.0})
        for (const auto& [i, j] : {std::pair{0, 0}, std::pair{1, 0}, std::pair{1, 1}, std::pair{0, 1}}) {
            x.push_back(low.x + i * size.x);
            y.push_back(low.y + j * size.y);
            z.push_back(low.z + k * size.z);
        }
    return *meshed_body(*Mesh::make({x,
                                     y,
                                     z,
                                     {0, 4, 8, 12, 16, 20, 24},
                                     {3, 2, 1, 0, 4, 5, 6, 7, 0, 1, 5, 4, 1, 2, 6, 5, 2, 3, 7, 6, 3, 0, 4, 7},
                                     {},
                                     {}}));
}

TEST(BodyMoments, OfBoxesBallsAndRings) {
    // Away from the origin, so that the theorem of parallel axes is part of it.
    const Body block = box({5, -3, 2}, {4, 3, 2});
    const Vec3 m = moments_of(block.figures());
    EXPECT_NEAR(m.x, 24.0 * (9 + 4) / 12, 1e-9);
    EXPECT_NEAR(m.y, 24.0 * (16 + 4) / 12, 1e-9);
    EXPECT_NEAR(m.z, 24.0 * (16 + 9) / 12, 1e-9);
    const double volume = 36 * pi;
    for (const double moment : {moments_of(ball(3).figures()).x, moments_of(ball(3).figures()).z})
        EXPECT_NEAR(moment, 0.4 * 9 * volume, 1e-7);
    const Body torus = ring(5, 2);
    const double tube = 2 * pi * pi * 5 * 4;
    EXPECT_NEAR(moments_of(torus.figures()).z, tube * (25 + 3), 1e-6);
    EXPECT_NEAR(moments_of(torus.figures()).x, tube * (25.0 / 2 + 5.0 / 2), 1e-6);
    // Two boxes beside each other are one of twice the length.
    const SolidSet two{{box({0, 0, 0}, {1, 1, 1}), box({1, 0, 0}, {1, 1, 1})}};
    EXPECT_NEAR(moments_of(figures_of(two)).z, 2.0 * (4 + 1) / 12, 1e-12);
}

TEST(Hollowed, FlatWallsKeepTheThicknessAndBallsStayExact) {
    const auto crate = hollowed(box({0, 0, 0}, {4, 3, 2}), 0.2, 1000, plume::Run());
    ASSERT_TRUE(crate) << crate.error().message;
    EXPECT_NEAR(crate->figures().volume, 24 - 3.6 * 2.6 * 1.6, 1e-12);
    EXPECT_NEAR(crate->figures().area, 52 + 2 * (3.6 * 2.6 + 3.6 * 1.6 + 2.6 * 1.6), 1e-12);
    const auto shell = hollowed(ball(3), 0.5, 1000, plume::Run());
    ASSERT_TRUE(shell) << shell.error().message;
    EXPECT_TRUE(shell->exact());
    EXPECT_NEAR(shell->figures().volume, 4.0 / 3 * pi * (27 - 15.625), 1e-7);
    // One body, not two, when its pieces are told apart.
    const auto pieces = bodies_of(*closed_mesh(*shell, 4000, plume::Run()), plume::Run());
    EXPECT_EQ(pieces->bodies.size(), 1U);
}

TEST(Hollowed, WallsThatLeaveNoRoomAreRefused) {
    for (const double wall : {1.0, 1.3, 5.0}) {
        const auto crate = hollowed(box({0, 0, 0}, {4, 3, 2}), wall, 1000, plume::Run());
        ASSERT_FALSE(crate) << wall;
        EXPECT_EQ(crate.error().code, ErrorCode::out_of_range) << crate.error().message;
    }
    EXPECT_FALSE(hollowed(ball(3), 3, 1000, plume::Run()));
    EXPECT_FALSE(hollowed(ring(5, 2), 2.5, 1000, plume::Run()));
}

TEST(Overlaps, OfBodiesThatShareAVolumeAndThoseThatOnlyTouch) {
    const SolidSet set{{box({0, 0, 0}, {2, 2, 2}), box({1, 1, 1}, {2, 2, 2}), box({-2, 0, 0}, {2, 2, 2}),
                        box({0.5, 0.5, 0.5}, {0.25, 0.25, 0.25}), box({9, 0, 0}, {1, 1, 1})}};
    const auto found = overlaps_of(set, 1000, plume::Run());
    ASSERT_TRUE(found) << found.error().message;
    ASSERT_EQ(found->size(), 2U);
    EXPECT_EQ(found->at(0).second, 1U);
    EXPECT_NEAR(found->at(0).volume, 1, 1e-12);
    EXPECT_LT(length(found->at(0).place - Vec3{1.5, 1.5, 1.5}), 1e-12);
    EXPECT_EQ(found->at(1).second, 3U);
    EXPECT_NEAR(found->at(1).volume, 1.0 / 64, 1e-12);
    plume::Run cancelled;
    cancelled.cancel();
    EXPECT_EQ(overlaps_of(set, 1000, cancelled).error().code, ErrorCode::cancelled);
}

TEST(BodyFigureSteps, CentroidsMomentsAndOverlaps) {
    StudyMaker maker;
    maker.add("outline.shape", "rim");
    maker.word("rim", "shape", "circle").number("rim", "radius", "2 m");
    maker.add("body.extrude", "drum");
    maker.set("drum", "curve", ResultName{"rim"}).number("drum", "by", "3 m");
    maker.add("thing.repeat", "drums");
    maker.set("drums", "thing", ResultName{"drum"}).number("drums", "count", "3").number("drums", "x", "3 m");
    maker.add("points.body_centroids", "centres");
    maker.set("centres", "bodies", ResultName{"drums"});
    maker.add("number.body", "moment");
    maker.set("moment", "bodies", ResultName{"drum"}).word("moment", "figure", "moment");
    maker.add("number.body", "overlaps");
    maker.set("overlaps", "bodies", ResultName{"drums"}).word("overlaps", "figure", "overlaps");
    const Evaluation made = test::run(maker.study);
    const auto number = [&](const char* name) {
        const Outcome& outcome = *made.outcome(name);
        EXPECT_TRUE(outcome.value) << sentence(*outcome.error);
        return std::get<Quantity>(*outcome.value).value;
    };
    EXPECT_NEAR(number("moment"), 12 * pi * 4 / 2, 1e-6);
    EXPECT_EQ(number("overlaps"), 2);
    ASSERT_EQ(made.outcome("overlaps")->remarks.size(), 1U);
    EXPECT_NE(made.outcome("overlaps")->remarks.front().text.find("Numbers 0 and 1 share"),
              std::string::npos);
    ASSERT_TRUE(made.outcome("centres")->value);
    const auto& centres = std::get<PointLattice>(*made.outcome("centres")->value);
    ASSERT_EQ(centres.address_count(), 3U);
    for (std::size_t at = 0; at < 3; ++at) {
        EXPECT_LT(length(centres.point(at) - Vec3{3.0 * static_cast<double>(at), 0, 1.5}), 1e-9);
        EXPECT_NEAR(centres.field("volume")->values[at], 12 * pi, 1e-6);
    }
}

}  // namespace
}  // namespace plume

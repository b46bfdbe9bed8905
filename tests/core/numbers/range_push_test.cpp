#include <cmath>

#include "core/geometry/moves/push.hpp"
#include "core/geometry/numbers/range.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

using test::grid;

TEST(Range, OwnRangeLeavesOutGapsAndOddNumbers) {
    PointLattice::Parts parts;
    parts.counts = {5, 1, 1};
    parts.x = parts.y = parts.z = Column(Doubles(5, 0.0));
    parts.present = {1, 1, 1, 1, 0};
    const PointLattice lattice = *PointLattice::make(std::move(parts));
    const Column values(Doubles{2, NAN, -INFINITY, 5, 99});
    const auto range = own_range(lattice, values, plume::Run());
    ASSERT_TRUE(range);
    EXPECT_EQ(range->low, 2);
    EXPECT_EQ(range->high, 5);
    EXPECT_EQ(own_range(grid(2, 1), Doubles{NAN, INFINITY}, plume::Run()).error().code,
              ErrorCode::empty_input);
}

TEST(Range, OwnRangeOverManyBlocks) {
    Doubles values(100'000);
    for (std::size_t index = 0; index < values.size(); ++index)
        values[index] = std::sin(static_cast<double>(index));
    values[54'321] = -7;
    values[99'999] = 8;
    const auto range = own_range(grid(1000, 100), std::move(values), plume::Run());
    EXPECT_EQ(range->low, -7);
    EXPECT_EQ(range->high, 8);
}

TEST(Range, BroughtClampedExtendedAndTurnedRound) {
    const Column values(Doubles{0, 5, 10, 20, NAN});
    const Column clamped = *brought_to_range(values, {0, 10}, {0, 3.2}, true, plume::Run());
    EXPECT_EQ(clamped[0], 0);
    EXPECT_DOUBLE_EQ(clamped[1], 1.6);
    EXPECT_DOUBLE_EQ(clamped[2], 3.2);
    EXPECT_DOUBLE_EQ(clamped[3], 3.2);
    EXPECT_TRUE(std::isnan(clamped[4])) << "not a number stays what it is";
    EXPECT_DOUBLE_EQ((*brought_to_range(values, {0, 10}, {0, 3.2}, false, plume::Run()))[3], 6.4);
    EXPECT_DOUBLE_EQ((*brought_to_range(values, {0, 10}, {1, 0}, true, plume::Run()))[1], 0.5);
    EXPECT_DOUBLE_EQ((*brought_to_range(values, {0, 10}, {1, 0}, true, plume::Run()))[3], 0);
}

TEST(Range, NoWidthIsRefused) {
    const auto refused = brought_to_range(Doubles{2, 2}, {2, 2}, {0, 1}, true, plume::Run());
    ASSERT_FALSE(refused);
    EXPECT_EQ(refused.error().code, ErrorCode::out_of_range);
    EXPECT_FALSE(refused.error().mend.empty());
}

TEST(Push, AlongAnAxisSharesTheOthers) {
    const PointLattice flat = grid(3, 2);
    const Column amounts(Doubles{0, 1, 2, 3, 4, 5});
    const PointLattice up = *pushed(flat, amounts, 2, PushDirection::along_z, plume::Run());
    for (std::size_t index = 0; index < 6; ++index)
        EXPECT_EQ(up.point(index), (flat.point(index) + Vec3{0, 0, 2 * amounts[index]}));
    EXPECT_TRUE(up.x().same_as(flat.x()));
    EXPECT_TRUE(up.same_arrangement(flat));
    EXPECT_EQ((*pushed(flat, amounts, 1, PushDirection::along_x, plume::Run())).point(5).x,
              flat.point(5).x + 5);
}

TEST(Push, NormalsOfAPlaneAndATorus) {
    const Normals flat = *lattice_normals(grid(4, 4), plume::Run());
    for (std::size_t index = 0; index < 16; ++index)
        EXPECT_DOUBLE_EQ(flat.z[index], 1);
    // Central differences on a closed, evenly divided torus give its exact normals.
    const PointLattice ring = test::torus(24, 16, 3, 1);
    const Normals normals = *lattice_normals(ring, plume::Run());
    for (std::size_t index = 0; index < ring.address_count(); ++index) {
        const Vec3 p = ring.point(index);
        const double r = std::hypot(p.x, p.y);
        const Vec3 exact{p.x / r * (r - 3), p.y / r * (r - 3), p.z};
        EXPECT_NEAR(dot(exact, {normals.x[index], normals.y[index], normals.z[index]}), 1, 1e-12);
    }
}

TEST(Push, AlongNormalsGrowsATorus) {
    const PointLattice ring = test::torus(24, 16, 3, 1);
    const PointLattice grown =
        *pushed(ring, Doubles(ring.address_count(), 0.5), 1, PushDirection::along_normal, plume::Run());
    const PointLattice expected = test::torus(24, 16, 3, 1.5);
    for (std::size_t index = 0; index < ring.address_count(); ++index)
        EXPECT_LT(length(grown.point(index) - expected.point(index)), 1e-12);
}

TEST(Push, NoNormalsWithoutTwoDirections) {
    for (const auto& [name, lattice] : test::pathological()) {
        const auto result = pushed(lattice, Doubles(lattice.address_count(), 1.0), 1,
                                   PushDirection::along_normal, plume::Run());
        const bool one_way = lattice.counts()[0] < 2 || lattice.counts()[1] < 2;
        EXPECT_EQ(result.ok(), !one_way) << name;
        if (!result) {
            EXPECT_EQ(result.error().code, ErrorCode::too_few_points);
            continue;
        }
        for (std::size_t index = 0; index < lattice.address_count(); ++index)
            EXPECT_TRUE(!lattice.present(index) || is_finite(result->point(index))) << name;
    }
}

}  // namespace
}  // namespace plume

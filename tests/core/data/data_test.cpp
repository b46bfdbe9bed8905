#include <cmath>

#include "core/data/value.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

using test::grid;

PointLattice::Parts parts_of(std::size_t columns, std::size_t rows) {
    PointLattice::Parts parts;
    parts.counts = {columns, rows, 1};
    parts.x = parts.y = parts.z = Column(Doubles(columns * rows, 0.0));
    return parts;
}

TEST(Lattice, BaysAndPointsOfOpenAndClosedDirections) {
    EXPECT_EQ(grid(25, 17).bays(0), 24U);
    EXPECT_EQ(grid(25, 17).bays(1), 16U);
    EXPECT_EQ(grid(25, 17, {}, true).bays(0), 25U) << "a closed direction has as many bays as points";
    EXPECT_EQ(arrangement_text(grid(25, 17)), "25 × 17 points, 24 × 16 bays");
    EXPECT_EQ(arrangement_text(grid(8, 6, {}, true, true)), "8 × 6 points, 8 × 6 bays, closed both ways");
}

TEST(Lattice, AddressesRunAlongIFirst) {
    const PointLattice lattice = grid(4, 3);
    for (std::size_t index = 0; index < 12; ++index)
        EXPECT_EQ(lattice.index(lattice.address(index)), index);
    EXPECT_EQ(lattice.address(5), (Address{1, 1, 0}));
    EXPECT_EQ(lattice.point(5), (Vec3{1, 1, 0}));
}

TEST(Lattice, ConstructionChecksItsInvariants) {
    const auto refused = [](const std::function<void(PointLattice::Parts&)>& spoil) {
        PointLattice::Parts parts = parts_of(3, 2);
        spoil(parts);
        const auto made = PointLattice::make(std::move(parts));
        return !made && made.error().code == ErrorCode::broken_invariant;
    };
    EXPECT_FALSE(refused([](auto&) {}));
    EXPECT_TRUE(refused([](auto& p) { p.counts = {4, 2, 1}; }));
    EXPECT_TRUE(refused([](auto& p) {
        p.counts = {std::size_t{1} << 40, std::size_t{1} << 40, 1};
    })) << "the product overflows";
    EXPECT_TRUE(refused([](auto& p) { p.present = {1, 1}; }));
    EXPECT_TRUE(refused([](auto& p) { p.fields = {{"a", Column(Doubles(5, 0.0)), {}}}; }));
    EXPECT_TRUE(refused([](auto& p) { p.fields = {{"a", p.x, {}}, {"a", p.x, {}}}; }));
}

TEST(Lattice, GapsAreCountedAndLeftOutOfBounds) {
    PointLattice::Parts parts = parts_of(2, 2);
    parts.x = Doubles{0, 1, 2, 1000};
    parts.present = {1, 1, 1, 0};
    const PointLattice lattice = *PointLattice::make(std::move(parts));
    EXPECT_EQ(lattice.point_count(), 3U);
    EXPECT_FALSE(lattice.present(3));
    EXPECT_EQ(lattice.bounds().high.x, 2);
    EXPECT_EQ(arrangement_text(lattice), "2 × 2 points, 1 × 1 bays, 1 gap");
}

TEST(Lattice, MovedSharesWhatDidNotChange) {
    const PointLattice lattice = grid(3, 3);
    const PointLattice moved = lattice.moved(lattice.x(), lattice.y(), Doubles(9, 1.0));
    EXPECT_TRUE(moved.x().same_as(lattice.x()));
    EXPECT_FALSE(moved.z().same_as(lattice.z()));
    EXPECT_EQ(lattice.point(0).z, 0) << "the original stays";
}

TEST(Lattice, FieldOfTheSameNameIsReplaced) {
    const PointLattice one = grid(2, 1).with_field({"a", Doubles{1, 2}, {}});
    const PointLattice two = one.with_field({"a", Doubles{3, 4}, a_length});
    EXPECT_EQ(two.fields().size(), 1U);
    EXPECT_EQ(two.field("a")->values[1], 4);
    EXPECT_EQ(one.field("a")->values[1], 2);
    EXPECT_EQ(two.field("b"), nullptr);
}

TEST(Mesh, ConstructionChecksItsInvariants) {
    const auto refused = [](std::vector<std::uint32_t> first, std::vector<std::uint32_t> corners) {
        Mesh::Parts parts;
        parts.x = parts.y = parts.z = Column(Doubles(4, 0.0));
        parts.first = std::move(first);
        parts.corners = std::move(corners);
        return !Mesh::make(std::move(parts));
    };
    EXPECT_FALSE(refused({0, 4}, {0, 1, 2, 3}));
    EXPECT_TRUE(refused({0, 2}, {0, 1})) << "two corners";
    EXPECT_TRUE(refused({0, 3}, {0, 1, 4})) << "no such vertex";
    EXPECT_TRUE(refused({0, 3}, {0, 1, 1})) << "a corner twice";
    EXPECT_TRUE(refused({0, 3}, {0, 1, 2, 3})) << "a corner left over";
    EXPECT_TRUE(refused({}, {}));
}

TEST(Mesh, AreaAndNormalsOfAUnitSquare) {
    Mesh::Parts parts;
    parts.x = Doubles{0, 1, 1, 0};
    parts.y = Doubles{0, 0, 1, 1};
    parts.z = Doubles{0, 0, 0, 0};
    parts.first = {0, 4};
    parts.corners = {0, 1, 2, 3};
    const Mesh mesh = *Mesh::make(std::move(parts));
    EXPECT_DOUBLE_EQ(area(mesh), 1);
    for (const Vec3 normal : vertex_normals(mesh))
        EXPECT_EQ(normal, (Vec3{0, 0, 1}));
}

TEST(Surface, ConstructionChecksItsInvariants) {
    const SplineBasis line{1, false, {0, 0, 1, 1}, {}};
    const Column four(Doubles(4, 0.0));
    const auto refused = [&](const std::function<void(SplinePatch::Parts&)>& spoil) {
        SplinePatch::Parts parts{line, line, four, four, four, {}, {}};
        spoil(parts);
        return !SplinePatch::make(std::move(parts));
    };
    EXPECT_FALSE(refused([](auto&) {}));
    EXPECT_TRUE(refused([](auto& p) { p.u.knots = {0, 1, 0, 1}; }));
    EXPECT_TRUE(refused([](auto& p) { p.u.knots = {0, 0, 0, 0}; }));
    EXPECT_TRUE(refused([](auto& p) { p.u.knots = {0, 0, 1, NAN}; }));
    EXPECT_TRUE(refused([](auto& p) { p.u.degree = 0; }));
    EXPECT_TRUE(refused([](auto& p) { p.u.knots = {0, 1}; }));
    EXPECT_TRUE(refused([](auto& p) { p.x = Column(Doubles(3, 0.0)); }));
    EXPECT_TRUE(refused([](auto& p) { p.weights = Doubles{1, 1, 0, 1}; }));
}

TEST(Attractors, RefuseInfinityWeightsAndNone) {
    EXPECT_EQ(Attractors::make({}).error().code, ErrorCode::empty_input);
    EXPECT_EQ(Attractors::make({{"far", {INFINITY, 0, 0}, 1}}).error().code, ErrorCode::not_finite);
    EXPECT_EQ(Attractors::make({{"none", {0, 0, 0}, 0}}).error().code, ErrorCode::out_of_range);
    EXPECT_EQ(Attractors::make({{"odd", {0, 0, 0}, NAN}}).error().code, ErrorCode::out_of_range);
    EXPECT_TRUE(Attractors::make({{"good", {0, 0, 0}, 2}}));
}

TEST(Value, SharedColumnsAreCountedOnce) {
    const PointLattice lattice = grid(100, 100);
    const std::size_t alone = bytes_of(Value(lattice));
    EXPECT_GE(alone, 3 * 10'000 * sizeof(double));
    const PointLattice same_twice = lattice.with_field({"copy of x", lattice.x(), a_length});
    EXPECT_EQ(bytes_of(Value(same_twice)), alone);
}

TEST(Value, FieldInHandIsNamedLast) {
    const PointLattice lattice =
        grid(2, 1).with_field({"a", Doubles{1, 2}, {}}).with_field({"b", Doubles{1, 2}, {}});
    EXPECT_EQ(field_names(FieldOnPoints{lattice, "a"}), (std::vector<std::string>{"b", "a"}));
}

}  // namespace
}  // namespace plume

// What lies under the cursor: faces of one mesh, surfaces and bodies of several; checked by where they are.

#include "core/picture/picking.hpp"

#include "core/data/camera.hpp"
#include "core/geometry/curves/spline_basis.hpp"
#include "core/geometry/surfaces/facets.hpp"
#include "core/geometry/surfaces/spline_interpolation.hpp"
#include "core/geometry/surfaces/surface_nodes.hpp"
#include "core/results/items.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

constexpr ViewSize view{400, 400};

Drawable drawn(const Value& value, const DrawOptions& options = {}) {
    return *make_drawable(value, options, plume::Run());
}

// From above, far enough away to see all of it.
Camera above(const Drawable& drawable) {
    Camera camera;
    camera.perspective = false;
    camera.elevation_rad = std::acos(-1.0) / 2;
    camera.fit(drawable.bounds, view.aspect());
    return camera;
}

ViewPoint seen_at(const Camera& camera, Vec3 place) {
    double x = 0, y = 0, depth = 0;
    EXPECT_TRUE(camera.project(place, view.aspect(), x, y, depth));
    return {x * view.width, y * view.height};
}

Mesh hills(std::size_t columns, std::size_t rows) {
    const auto height = [](double i, double j) { return std::sin(i * 0.3) * std::cos(j * 0.4); };
    return *facets(test::grid(columns, rows, height), FacetShape::quads, plume::Run());
}

Vec3 middle_of(const Mesh& mesh, std::size_t face) {
    Vec3 sum;
    const auto corners = mesh.face(face);
    for (const std::uint32_t corner : corners)
        sum = sum + mesh.vertex(corner);
    return sum * (1 / static_cast<double>(corners.size()));
}

// Nodes a unit apart, five of them round.
SplineBasis test_ring() {
    return interpolating_basis({0, 1, 2, 3, 4}, 3, true, 5);
}

TEST(PickedFaces, OfOneMeshAreThoseUnderTheCursor) {
    const Mesh mesh = hills(13, 9);
    const Drawable drawable = drawn(Value(mesh));
    const Camera camera = above(drawable);
    for (std::size_t face = 0; face < mesh.face_count(); ++face) {
        const auto picked = pick_part(drawable, camera, view, seen_at(camera, middle_of(mesh, face)), 5);
        ASSERT_TRUE(picked) << face;
        EXPECT_EQ(picked->face, face);
        EXPECT_EQ(picked->part, 0U) << "the mesh is one part";
    }
    EXPECT_FALSE(pick_part(drawable, camera, view, {2, 2}, 5)) << "beside it";
}

TEST(PickedFaces, KeepTheirNumbersWhereOthersAreNowhere) {
    const Mesh mesh = hills(13, 9);
    Mesh::Parts parts = mesh.parts();
    Doubles x(mesh.x().data(), mesh.x().data() + mesh.vertex_count());
    x[0] = std::nan("");  // a corner of the first face alone
    parts.x = std::move(x);
    const Drawable drawable = drawn(Value(*Mesh::make(std::move(parts))));
    const Camera camera = above(drawable);
    for (const std::size_t face : {1U, 12U, 95U}) {
        const auto picked = pick_part(drawable, camera, view, seen_at(camera, middle_of(mesh, face)), 5);
        ASSERT_TRUE(picked) << face;
        EXPECT_EQ(picked->face, face);
    }
    EXPECT_FALSE(pick_part(drawable, camera, view, seen_at(camera, middle_of(mesh, 0)), 0.5));
}

TEST(PickedFaces, OfADraftAreNearTheCursor) {
    const Mesh mesh = hills(121, 91);
    DrawOptions few;
    few.most_triangles = 2000;
    const Drawable drawable = drawn(Value(mesh), few);
    ASSERT_TRUE(drawable.thinned);
    const Camera camera = above(drawable);
    for (std::size_t face = 60; face < mesh.face_count(); face += 997) {
        const Vec3 middle = middle_of(mesh, face);
        const auto picked = pick_part(drawable, camera, view, seen_at(camera, middle), 5);
        ASSERT_TRUE(picked && picked->face) << face;
        const Vec3 apart = middle_of(mesh, *picked->face) - middle;
        EXPECT_LT(std::hypot(apart.x, apart.y), 8) << "of 120 by 90";
    }
}

// Two beside each other, 10 m apart.
Value two_surfaces() {
    const auto patch = *interpolate_grid(test::grid(4, 4), plume::Run());
    SplinePatch::Parts moved = patch.parts();
    Doubles x;
    for (const double each : patch.x().span())
        x.push_back(each + 10);
    moved.x = std::move(x);
    return SurfaceSet{{patch, *SplinePatch::make(std::move(moved))}};
}
Value two_bodies() {
    test::StudyMaker maker;
    maker.add("outline.shape", "plan");
    maker.add("body.extrude", "drum");
    maker.add("thing.repeat", "drums");
    maker.number("drums", "count", "2").number("drums", "x", "30 m");
    return test::value_of(test::run(maker.study), "drums");
}

TEST(PickedParts, SurfacesAndBodiesAreToldApart) {
    for (const Value& value : {two_surfaces(), two_bodies()}) {
        const Drawable drawable = drawn(value);
        const Camera camera = above(drawable);
        const Items items = items_of(value);
        ASSERT_EQ(items.total(), 2U);
        for (std::size_t item = 0; item < items.total(); ++item) {
            const auto picked = pick_part(drawable, camera, view, seen_at(camera, items.place(item)), 5);
            ASSERT_TRUE(picked) << items.title(item);
            EXPECT_EQ(picked->part, item);
            EXPECT_FALSE(picked->face);
        }
    }
}

TEST(PickedNodes, AreTheNearestOfThePointsASurfaceWasMadeThrough) {
    const auto height = [](double i, double j) { return 0.3 * std::sin(i) + 0.1 * j; };
    const PointLattice points = test::grid(7, 5, height);
    SurfaceSet set{{*interpolate_grid(points, plume::Run())}};
    const Drawable drawable = drawn(Value(set));
    const Camera camera = above(drawable);
    for (std::size_t j = 1; j < 4; ++j)
        for (std::size_t i = 1; i < 6; ++i) {
            const std::size_t number = points.index({i, j, 0});
            for (const auto& [x, y] : {std::pair(0.0, 0.0), {0.3, 0.1}, {-0.2, 0.35}}) {
                const Vec3 beside = points.point(number) + Vec3{x, y, 0};
                const auto picked = pick_part(drawable, camera, view, seen_at(camera, beside), 5);
                ASSERT_TRUE(picked) << i << ' ' << j;
                EXPECT_EQ(picked->node, number) << i << ' ' << j << " beside it by " << x << ' ' << y;
                EXPECT_EQ(picked->part, 0U);
            }
        }
    // One that was made through none is there as a whole.
    SplinePatch::Parts parts = set.patches.front().parts();
    parts.u.nodes.clear();
    const Drawable whole = drawn(Value(SurfaceSet{{*SplinePatch::make(std::move(parts))}}));
    const auto picked = pick_part(whole, camera, view, seen_at(camera, {3.5, 2.5, 0}), 5);
    ASSERT_TRUE(picked);
    EXPECT_EQ(picked->part, 0U);
    EXPECT_FALSE(picked->node);
}

TEST(SurfaceNodes, AreNumberedPatchByPatch) {
    const auto patch = *interpolate_grid(test::grid(4, 3), plume::Run());
    const SurfaceSet set{{patch, patch}};
    ASSERT_EQ(node_count(set), 24U);
    for (std::size_t number = 0; number < 24; ++number)
        EXPECT_EQ(number_of(set, node_at(set, number)), number);
    EXPECT_EQ(node_at(set, 17).patch, 1U);
    EXPECT_EQ(node_at(set, 17).a, 1U);
    EXPECT_EQ(node_at(set, 17).b, 1U);
    EXPECT_FALSE(number_of(set, {2, 0, 0}));
    EXPECT_FALSE(number_of(set, {0, 4, 0}));
    EXPECT_FALSE(number_of(set, {0, 0, 3}));
    EXPECT_EQ(node_count(SurfaceSet{}), 0U);
}

TEST(SurfaceNodes, TheNearestIsRoundTheSeamOfWhatIsClosed) {
    SplineBasis basis{3, false, {0, 0, 0, 0, 1, 2, 3, 3, 3, 3}, {0, 0.5, 1.5, 3}};
    EXPECT_EQ(nearest_node(basis, -1), 0U);
    EXPECT_EQ(nearest_node(basis, 0.2), 0U);
    EXPECT_EQ(nearest_node(basis, 0.3), 1U);
    EXPECT_EQ(nearest_node(basis, 2.4), 3U);
    EXPECT_EQ(nearest_node(basis, 9), 3U);
    const SplineBasis ring = test_ring();
    EXPECT_EQ(nearest_node(ring, ring.nodes.back() + 0.4), ring.nodes.size() - 1);
    EXPECT_EQ(nearest_node(ring, ring.nodes.back() + 0.6), 0U);
}

}  // namespace
}  // namespace plume

// What is drawn of forms with more triangles, samples and edges than a screen can show.

#include <array>
#include <map>
#include <set>

#include "core/data/camera.hpp"
#include "core/geometry/curves/exact_curves.hpp"
#include "core/geometry/surfaces/facets.hpp"
#include "core/geometry/surfaces/spline_interpolation.hpp"
#include "core/geometry/surfaces/surface_sampling.hpp"
#include "core/picture/drawable.hpp"
#include "core/picture/mesh_draft.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

using test::grid;
using test::StudyMaker;

PointLattice hills(std::size_t columns, std::size_t rows) {
    PointLattice points =
        grid(columns, rows, [](double i, double j) { return 5 * std::sin(i * 0.05) * std::cos(j * 0.07); });
    Doubles height(points.z().data(), points.z().data() + points.address_count());
    return points.with_field({"height", std::move(height), a_length});
}

Drawable drawn(const Value& value, const DrawOptions& options = {}) {
    return *make_drawable(value, options, plume::Run());
}

std::vector<std::uint32_t> all_faces(const Mesh& mesh) {
    std::vector<std::uint32_t> faces(mesh.face_count());
    for (std::uint32_t face = 0; face < faces.size(); ++face)
        faces[face] = face;
    return faces;
}

// A prism of so many sides standing at a place.
void add_prism(Mesh::Parts& parts, std::vector<double> (&xyz)[3], double x, double y, double radius,
               double height) {
    const auto first = static_cast<std::uint32_t>(xyz[0].size());
    constexpr std::uint32_t sides = 6;
    for (const double z : {0.0, height})
        for (std::uint32_t side = 0; side < sides; ++side) {
            xyz[0].push_back(x + radius * std::cos(side));
            xyz[1].push_back(y + radius * std::sin(side));
            xyz[2].push_back(z);
        }
    for (std::uint32_t side = 0; side < sides; ++side) {
        const std::uint32_t next = (side + 1) % sides;
        for (const std::uint32_t corner : {side, next, sides + next, sides + side})
            parts.corners.push_back(first + corner);
        parts.first.push_back(static_cast<std::uint32_t>(parts.corners.size()));
    }
}

TEST(Drafts, AreFewAndStayWithinACellOfTheForm) {
    const Mesh mesh = *facets(hills(300, 300), FacetShape::quads, plume::Run());
    const auto triangles = draft_of(mesh, all_faces(mesh), 20'000, plume::Run());
    ASSERT_TRUE(triangles);
    EXPECT_LE(triangles->size(), 20'000U);
    EXPECT_GT(triangles->size(), 4'000U);
    double covered = 0;
    for (const DraftTriangle& t : *triangles) {
        const Vec3 normal = cross(t.corners[1] - t.corners[0], t.corners[2] - t.corners[0]);
        covered += normal.z / 2;
        for (const Vec3 corner : t.corners) {
            // Cells are under six study lengths wide, the slope of the hills under 0.4.
            EXPECT_NEAR(corner.z, 5 * std::sin(corner.x * 0.05) * std::cos(corner.y * 0.07), 2);
            EXPECT_GE(corner.x, -1e-9);
            EXPECT_LE(corner.x, 299 + 1e-9);
        }
    }
    // Seen from above it covers the ground once, but for the outermost half cells.
    EXPECT_NEAR(covered, 299.0 * 299.0, 0.06 * 299 * 299);
}

TEST(Drafts, WhatIsThinnerThanACellDoesNotVanish) {
    Mesh::Parts parts;
    std::vector<double> xyz[3];
    for (int j = 0; j < 100; ++j)
        for (int i = 0; i < 100; ++i)
            add_prism(parts, xyz, i, j, 0.002, 4);
    parts.x = Doubles(xyz[0].begin(), xyz[0].end());
    parts.y = Doubles(xyz[1].begin(), xyz[1].end());
    parts.z = Doubles(xyz[2].begin(), xyz[2].end());
    const Mesh mesh = *Mesh::make(std::move(parts));
    const auto triangles = draft_of(mesh, all_faces(mesh), 60'000, plume::Run());
    ASSERT_TRUE(triangles);
    std::set<std::pair<long, long>> seen;
    for (const DraftTriangle& t : *triangles) {
        double high = 0;
        for (const Vec3 corner : t.corners)
            high = std::max(high, corner.z);
        if (high > 3) seen.emplace(std::lround(t.corners[0].x), std::lround(t.corners[0].y));
    }
    EXPECT_EQ(seen.size(), 10'000U);
}

TEST(Drafts, LayersBehindEachOtherAreThinned) {
    Mesh::Parts parts;
    Doubles x, y, z;
    for (std::uint32_t layer = 0; layer < 100; ++layer) {
        for (const auto& [a, b] : {std::pair{0.0, 0.0}, {1.0, 0.0}, {1.0, 1.0}, {0.0, 1.0}}) {
            x.push_back(a);
            y.push_back(b);
            z.push_back(layer * 0.01);
            parts.corners.push_back(static_cast<std::uint32_t>(x.size() - 1));
        }
        parts.first.push_back(static_cast<std::uint32_t>(parts.corners.size()));
    }
    parts.x = std::move(x);
    parts.y = std::move(y);
    parts.z = std::move(z);
    const Mesh mesh = *Mesh::make(std::move(parts));
    auto triangles = draft_of(mesh, all_faces(mesh), 1'000'000, plume::Run());
    ASSERT_EQ(triangles->size(), 200U);
    thin_layers(*triangles, mesh.bounds());
    EXPECT_LE(triangles->size(), 9U)
        << "somewhat more than half of the box they fill, 6, in triangles of a half";
    EXPECT_GE(triangles->size(), 4U);
    // A closed body keeps all it has.
    StudyMaker maker;
    maker.add("points.typed", "foot");
    maker.set("foot", "rows", Lines{"0, 0, 0"});
    maker.add("mesh.posts", "post");
    maker.word("post", "footprint", "box").formula("post", "width = 2 m\ndepth = 2 m\nheight = 2 m");
    const Mesh cube = std::get<Mesh>(test::value_of(test::run(maker.study), "post"));
    auto whole = draft_of(cube, all_faces(cube), 1'000'000, plume::Run());
    thin_layers(*whole, cube.bounds());
    EXPECT_EQ(whole->size(), 12U);
}

TEST(Drafts, LargeMeshesAndSurfacesAreBounded) {
    const PointLattice points = hills(700, 700);
    const Drawable flat = drawn(Value(*facets(points, FacetShape::quads, plume::Run())));
    const DrawOptions usual;
    EXPECT_TRUE(flat.thinned);
    EXPECT_LE(flat.triangles.size() / 3, usual.most_triangles);
    EXPECT_LE(flat.coarse.size() / 3, usual.most_coarse);
    EXPECT_GT(flat.coarse.size(), 0U);
    SurfaceSet set;
    set.patches.push_back(*interpolate_grid(points, plume::Run()));
    const Drawable smooth = drawn(Value(set));
    EXPECT_LE(smooth.vertices.size(), 2 * usual.most_samples);
    EXPECT_LE(smooth.coarse.size() / 3, usual.most_coarse);
    EXPECT_TRUE(smooth.edges.empty()) << "seven hundred rows cannot be told apart";
    for (const Drawable* drawable : {&flat, &smooth})
        for (const auto* indices : {&drawable->triangles, &drawable->coarse})
            for (const std::uint32_t index : *indices)
                ASSERT_LT(index, drawable->vertices.size());
    // The colours run over the numbers given, not over those of the samples.
    EXPECT_EQ(smooth.colour_field, "height");
    const auto [low, high] = std::ranges::minmax(points.z().span());
    EXPECT_NEAR(smooth.colour_low, low, 1e-9);
    EXPECT_NEAR(smooth.colour_high, high, 1e-9);
    EXPECT_NEAR(smooth.bounds.high.x, 699, 1e-9) << "the last row is among the samples";
}

// While the camera moves only the coarse triangles are drawn: a small patch beside a large one may not be
// missing.
TEST(Drafts, EveryPatchHasItsCoarseTriangles) {
    SurfaceSet set;
    set.patches.push_back(*interpolate_grid(hills(300, 300), plume::Run()));
    set.patches.push_back(*interpolate_grid(grid(5, 5, [](double, double) { return 100.0; }), plume::Run()));
    const Drawable both = drawn(Value(set));
    double highest = 0;
    for (const std::uint32_t index : both.coarse) {
        const DrawVertex& at = both.vertices[index];
        highest = std::max(highest, both.absolute(at.x, at.y, at.z).z);
    }
    EXPECT_NEAR(highest, 100, 1e-3);
}

// The corners that a drawable's lines run through, each with how many pieces end there.
std::map<std::uint32_t, int> ends_of(const DrawArray<std::uint32_t>& pieces) {
    std::map<std::uint32_t, int> ends;
    for (const std::uint32_t index : pieces)
        ++ends[index];
    return ends;
}

// Lines that are things themselves stay in sight, and whole, while something moves, in fewer pieces; what
// only joins points does not.
TEST(Drafts, ManyLinesAreDrawnInFewerPieces) {
    CurveSet rings;
    for (int ring = 0; ring < 300; ++ring)
        rings.curves.push_back(ellipse(placement_of({0, 0, ring * 0.1}, {0, 0, 1}, {1, 0, 0}), 5, 5));
    DrawOptions options;
    options.most_coarse = 6'000;
    const Drawable all = drawn(Value(rings), options);
    ASSERT_GT(all.edges.size() / 2, 2 * options.most_coarse);
    EXPECT_LE(all.coarse.size() / 2, options.most_coarse + rings.curves.size());
    EXPECT_GE(all.coarse.size() / 2, options.most_coarse / 2);
    const std::map<std::uint32_t, int> given = ends_of(all.edges);
    std::set<std::uint32_t> drawn_rings;
    for (const auto& [corner, ends] : ends_of(all.coarse)) {
        EXPECT_TRUE(given.contains(corner));
        EXPECT_EQ(ends, 2) << "a ring is closed";
        drawn_rings.insert(all.vertex_parts[corner]);
    }
    EXPECT_EQ(drawn_rings.size(), rings.curves.size());
    options.most_coarse = all.edges.size() / 2 + 1;
    EXPECT_TRUE(drawn(Value(rings), options).coarse.empty());
    EXPECT_TRUE(drawn(Value(hills(200, 200))).coarse.empty()) << "edges between points";
}

// Where there is nothing to join, some of them stand for all.
TEST(Drafts, ManySeparateLinesAreThinnedOut) {
    CurveSet rails;
    for (int rail = 0; rail < 5'000; ++rail)
        rails.curves.push_back(*line_between({rail * 0.1, 0, 0}, {rail * 0.1, 1, 0}));
    DrawOptions options;
    options.most_coarse = 500;
    const Drawable all = drawn(Value(rails), options);
    ASSERT_EQ(all.edges.size() / 2, 5'000U);
    EXPECT_LE(all.coarse.size() / 2, 500U);
    EXPECT_GE(all.coarse.size() / 2, 250U);
    std::set<std::pair<std::uint32_t, std::uint32_t>> pieces;
    for (std::size_t at = 0; at < all.edges.size(); at += 2)
        pieces.emplace(all.edges[at], all.edges[at + 1]);
    for (std::size_t at = 0; at < all.coarse.size(); at += 2)
        EXPECT_TRUE(pieces.contains({all.coarse[at], all.coarse[at + 1]})) << at;
}

// Ten of each at one place, four times: a line to each place, and to each part where a number colours them.
TEST(Drafts, SiblingsAtOnePlaceAreDrawnAsOneLine) {
    StudyMaker maker;
    maker.add("growth.parts", "parts");
    maker.number("parts", "generations", "4");
    maker.formula("parts",
                  "part becomes\npart times 10, moved size up, turned 36° * copy about up, turned 20° "
                  "about along, sized 0.6");
    const Value parts = test::value_of(test::run(maker.study), "parts");
    const Drawable plain = drawn(parts), by_number = drawn(parts, {"depth"});
    ASSERT_EQ(plain.points.size(), 11'111U);
    EXPECT_EQ(plain.edges.size() / 2, 1'111U);
    EXPECT_EQ(by_number.edges.size() / 2, 11'110U);
    std::set<std::array<float, 6>> lines, lines_by_number;
    for (const auto& [drawable, all] : {std::pair(&plain, &lines), std::pair(&by_number, &lines_by_number)})
        for (std::size_t at = 0; at < drawable->edges.size(); at += 2) {
            const DrawVertex &a = drawable->vertices[drawable->edges[at]],
                             &b = drawable->vertices[drawable->edges[at + 1]];
            all->insert({a.x, a.y, a.z, b.x, b.y, b.z});
        }
    EXPECT_EQ(lines, lines_by_number) << "nothing else is seen";
}

// Thinned out and with no finite number to take a range from.
TEST(Drafts, AFieldWithoutAFiniteNumberHasNoRange) {
    const PointLattice points = hills(300, 300);
    SplinePatch::Parts parts;
    const SplinePatch patch = *interpolate_grid(points, plume::Run());
    parts.u = patch.u();
    parts.v = patch.v();
    parts.x = patch.x();
    parts.y = patch.y();
    parts.z = patch.z();
    parts.fields = {
        {"odd", Doubles(patch.x().size(), std::numeric_limits<double>::quiet_NaN()), plain_number}};
    const Drawable odd = drawn(Value(SurfaceSet{{*SplinePatch::make(std::move(parts))}}));
    EXPECT_EQ(odd.colour_low, odd.colour_high);
    EXPECT_EQ(odd.vertices.front().colour, not_finite_coordinate);
}

TEST(Drafts, SmallFormsAreDrawnAsTheyAre) {
    const Drawable flat = drawn(Value(*facets(hills(20, 20), FacetShape::quads, plume::Run())));
    EXPECT_FALSE(flat.thinned);
    EXPECT_EQ(flat.triangles.size() / 3, 19U * 19 * 2);
    EXPECT_TRUE(flat.coarse.empty());
    EXPECT_NEAR(flat.edge_length, 1, 0.1);
    // Of a smooth surface the edge between two rows counts, not the pieces it is drawn in.
    SurfaceSet set;
    set.patches.push_back(*interpolate_grid(hills(20, 20), plume::Run()));
    EXPECT_NEAR(drawn(Value(set)).edge_length, 1, 0.1);
}

TEST(Drafts, AClosedSurfaceStaysClosed) {
    SurfaceSet set;
    set.patches.push_back(*interpolate_grid(test::torus(600, 400, 9, 3), plume::Run()));
    const Drawable ring = drawn(Value(set));
    std::map<std::pair<std::uint32_t, std::uint32_t>, int> sides;
    for (const auto* indices : {&ring.triangles, &ring.coarse}) {
        sides.clear();
        for (std::size_t at = 0; at < indices->size(); at += 3)
            for (std::size_t side = 0; side < 3; ++side) {
                const std::uint32_t a = (*indices)[at + side], b = (*indices)[at + (side + 1) % 3];
                ++sides[std::minmax(a, b)];
            }
        for (const auto& [side, count] : sides)
            ASSERT_EQ(count, 2);
    }
}

// Looked at closely, there are edges of the points it was made from and triangles of a few pixels, where the
// view sees it; elsewhere it is there, coarsely. All of it lies on the surface.
TEST(Drafts, SurfacesAreDrawnAsFinelyAsTheViewNeeds) {
    const PointLattice points = hills(700, 600);
    const auto patch = interpolate_grid(points, plume::Run());
    ASSERT_TRUE(patch);
    const Value surface(SurfaceSet{{*patch}});
    const Drawable usual = drawn(surface);
    ASSERT_TRUE(usual.thinned);
    EXPECT_TRUE(usual.edges.empty());
    DrawOptions options;
    options.view = DrawnView{};
    options.view->aspect = 1.6;
    options.view->camera.target = points.point(points.index({200, 150, 0}));
    options.view->camera.distance = 25;
    const Drawable closer = drawn(surface, options);
    ASSERT_TRUE(closer.closer);
    EXPECT_FALSE(closer.edges.empty());
    EXPECT_LE(closer.vertices.size(), 2 * options.most_samples) << "and it is no more than a screen shows";
    EXPECT_EQ(closer.colour_low, usual.colour_low);
    EXPECT_EQ(closer.colour_high, usual.colour_high);
    EXPECT_NEAR(closer.bounds.diagonal(), usual.bounds.diagonal(), 1);
    // Neighbours stand one apart: within the view nothing is longer than that, and there are points between.
    std::size_t near = 0;
    for (std::size_t at = 0; at < closer.triangles.size(); at += 3) {
        std::array<Vec3, 3> corner;
        bool inside = true;
        for (std::size_t c = 0; c < 3; ++c) {
            const DrawVertex& v = closer.vertices[closer.triangles[at + c]];
            corner[c] = closer.absolute(v.x, v.y, v.z);
            double x = 0, y = 0, depth = 0;
            inside = inside && options.view->camera.project(corner[c], 1.6, x, y, depth) && x > 0 && x < 1 &&
                     y > 0 && y < 1;
        }
        if (!inside) continue;
        ++near;
        for (std::size_t c = 0; c < 3; ++c)
            ASSERT_LT(length(corner[c] - corner[(c + 1) % 3]), 1.5);
    }
    EXPECT_GT(near, 2'000U);
    // Each vertex is a point of the surface: its height is that of the hills but for what a spline swings.
    for (std::size_t at = 0; at < closer.vertices.size(); at += 97) {
        const DrawVertex& v = closer.vertices[at];
        const Vec3 p = closer.absolute(v.x, v.y, v.z);
        ASSERT_NEAR(p.z, 5 * std::sin(p.x * 0.05) * std::cos(p.y * 0.07), 1e-3);
    }
}

TEST(Drafts, WhatIsFineEnoughOrOutOfSightStaysAsItIs) {
    const Value small(SurfaceSet{{*interpolate_grid(hills(20, 15), plume::Run())}});
    DrawOptions options;
    options.view = DrawnView{};
    options.view->camera.fit(drawn(small).bounds, 1);
    EXPECT_FALSE(drawn(small, options).closer);
    options.view->camera.target = {1e5, 1e5, 1e5};
    EXPECT_FALSE(drawn(small, options).closer) << "nothing of it is seen";
    const Value large(SurfaceSet{{*interpolate_grid(hills(700, 600), plume::Run())}});
    options.view->camera.fit(drawn(large).bounds, 1);
    EXPECT_FALSE(drawn(large, options).closer) << "all of it is seen";
}

TEST(Drafts, WhatCannotBeDrawnIsAnError) {
    const PointLattice far = grid(3, 3, [](double i, double) { return i * 1e30; });
    const auto refused = make_drawable(Value(far), {}, plume::Run());
    ASSERT_FALSE(refused);
    EXPECT_EQ(refused.error().code, ErrorCode::out_of_range);
    EXPECT_NE(refused.error().message.find("2e30"), std::string::npos) << refused.error().message;
}

TEST(Drafts, PixelsOfALengthFollowTheDistance) {
    Camera camera;
    camera.target = {0, 0, 0};
    camera.distance = 10;
    const double at_target = camera.pixels_per_length({0, 0, 0}, 500);
    EXPECT_NEAR(at_target, 500 / camera.view_height(), 1e-9);
    EXPECT_NEAR(camera.pixels_per_length(camera.forward() * 10, 500), at_target / 2, 1e-9);
    camera.perspective = false;
    EXPECT_NEAR(camera.pixels_per_length(camera.forward() * 10, 500), at_target, 1e-9);
}

}  // namespace
}  // namespace plume

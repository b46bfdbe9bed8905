// Parts of a mesh that are one shape are drawn from that shape; what is seen, picked and rendered is the
// same.

#include <set>

#include "core/geometry/meshes/posts.hpp"
#include "core/picture/drawable.hpp"
#include "core/picture/picking.hpp"
#include "core/picture/repeated_parts.hpp"
#include "core/picture/still.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

// Posts a metre apart, no two alike: turned, leaning, of other heights and thicknesses.
Mesh posts(std::size_t columns, std::size_t rows, std::size_t sides) {
    std::vector<Post> all;
    for (std::size_t j = 0; j < rows; ++j)
        for (std::size_t i = 0; i < columns; ++i) {
            const auto x = static_cast<double>(i), y = static_cast<double>(j);
            Post post;
            post.placement =
                placement_of({x, y, std::sin(x)}, unit_or_zero({0.2 * std::sin(y), 0.1, 1}), {1, 0, 0});
            post.radius = 0.1 + 0.05 * std::sin(x + y);
            post.height = 1 + 0.5 * std::cos(x * y);
            post.turn_rad = x;
            all.push_back(post);
        }
    return *posts_mesh(all, {Footprint::polygon, sides}, plume::Run());
}

// The same faces as one part, which is drawn face by face.
Mesh as_one_part(const Mesh& mesh) {
    Mesh::Parts parts = mesh.parts();
    parts.part_starts.clear();
    return *Mesh::make(std::move(parts));
}

Drawable drawn(const Mesh& mesh, const DrawOptions& options = {}) {
    return *make_drawable(Value(mesh), options, plume::Run());
}

Vec3 place_of(const Drawable& drawable, const DrawVertex& v) {
    return drawable.absolute(v.x, v.y, v.z);
}

TEST(Repeats, EachPostStandsWhereItsFacesAre) {
    const Mesh mesh = posts(7, 5, 5);
    const Drawable repeated = drawn(mesh), plain = drawn(as_one_part(mesh));
    ASSERT_EQ(repeated.shapes.size(), 1U);
    ASSERT_EQ(repeated.repeats.size(), 35U);
    EXPECT_FALSE(repeated.thinned);
    ASSERT_EQ(repeated.triangles.size() * 35, plain.triangles.size());
    ASSERT_EQ(repeated.edges.size() * 35, plain.edges.size());
    EXPECT_EQ(repeated.colour_field, plain.colour_field);
    EXPECT_NEAR(repeated.edge_length, plain.edge_length, 0.5 * plain.edge_length) << "that of the first";
    for (const DrawRepeat& repeat : repeated.repeats)
        for (std::size_t at = 0; at < repeated.triangles.size(); ++at) {
            const DrawVertex is = at_repeat(repeat, repeated.vertices[repeated.triangles[at]]);
            const DrawVertex& was =
                plain.vertices[plain.triangles[repeat.part * repeated.triangles.size() + at]];
            ASSERT_LT(length(place_of(repeated, is) - place_of(plain, was)), 2e-5);
            ASSERT_NEAR(is.nx * was.nx + is.ny * was.ny + is.nz * was.nz, 1, 1e-4);
            ASSERT_EQ(is.colour, was.colour);
        }
}

TEST(Repeats, FlatPartsKeepTheirNormals) {
    // Squares, tilted more and more.
    Mesh::Parts parts;
    Doubles x, y, z;
    for (std::uint32_t square = 0; square < 6; ++square) {
        const double tilt = 0.3 * square;
        parts.part_starts.push_back(square);
        for (const auto& [a, b] : {std::pair{0.0, 0.0}, {1.0, 0.0}, {1.0, 1.0}, {0.0, 1.0}}) {
            x.push_back(2.0 * square + a * std::cos(tilt));
            y.push_back(b);
            z.push_back(a * std::sin(tilt));
            parts.corners.push_back(static_cast<std::uint32_t>(x.size() - 1));
        }
        parts.first.push_back(static_cast<std::uint32_t>(parts.corners.size()));
    }
    parts.x = std::move(x);
    parts.y = std::move(y);
    parts.z = std::move(z);
    const Drawable squares = drawn(*Mesh::make(std::move(parts)));
    ASSERT_EQ(squares.repeats.size(), 6U);
    for (const DrawRepeat& repeat : squares.repeats) {
        const DrawVertex v = at_repeat(repeat, squares.vertices.front());
        EXPECT_NEAR(v.nx, -std::sin(0.3 * repeat.part), 1e-5);
        EXPECT_NEAR(v.nz, std::cos(0.3 * repeat.part), 1e-5);
    }
}

TEST(Repeats, PartsThatAreNotAlikeAreDrawnAsTheyAre) {
    const Mesh mesh = posts(4, 4, 6);
    EXPECT_TRUE(repeats_of(mesh, plume::Run()));
    EXPECT_FALSE(repeats_of(as_one_part(mesh), plume::Run()));
    // One corner of one post moved by a thousandth.
    Mesh::Parts bent = mesh.parts();
    Doubles x(mesh.x().data(), mesh.x().data() + mesh.vertex_count());
    x[100] += 0.001;
    bent.x = std::move(x);
    const Mesh other = *Mesh::make(std::move(bent));
    EXPECT_FALSE(repeats_of(other, plume::Run()));
    const Drawable plain = drawn(other);
    EXPECT_TRUE(plain.repeats.empty());
    EXPECT_EQ(plain.triangles.size(), drawn(as_one_part(other)).triangles.size());
    EXPECT_FALSE(plain.vertex_parts.empty()) << "they are still picked";
    // Faces in another order are another shape.
    Mesh::Parts turned = mesh.parts();
    std::swap(turned.corners[turned.corners.size() - 1], turned.corners[turned.corners.size() - 2]);
    EXPECT_FALSE(repeats_of(*Mesh::make(std::move(turned)), plume::Run()));
}

// A number that differs within a part cannot be one colour for it.
TEST(Repeats, ColoursWithinAPartAreKept) {
    const Mesh mesh = posts(4, 4, 6);
    Mesh::Parts parts = mesh.parts();
    parts.fields.push_back(
        {"above", Doubles(mesh.z().data(), mesh.z().data() + mesh.vertex_count()), a_length});
    const Mesh coloured = *Mesh::make(std::move(parts));
    EXPECT_TRUE(drawn(coloured).repeats.empty());
    DrawOptions by_number;
    by_number.colour_by = "height";
    EXPECT_EQ(drawn(coloured, by_number).repeats.size(), 16U);
}

TEST(Repeats, WhatIsPickedIsTheSame) {
    const Mesh mesh = posts(9, 9, 5);
    const Drawable repeated = drawn(mesh);
    // One corner bent by what nobody sees leaves the posts' own triangles.
    Mesh::Parts parts = mesh.parts();
    Doubles x(mesh.x().data(), mesh.x().data() + mesh.vertex_count());
    x[0] += 1e-4;
    parts.x = std::move(x);
    const Drawable plain = drawn(*Mesh::make(std::move(parts)));
    ASSERT_TRUE(plain.repeats.empty());
    Camera camera;
    camera.fit(repeated.bounds, 1);
    std::set<std::size_t> seen;
    int nothing = 0;
    for (double v = 3.3; v < 400; v += 7)
        for (double u = 3.3; u < 400; u += 7) {
            const auto one = pick_part(repeated, camera, {400, 400}, {u, v}, 5),
                       other = pick_part(plain, camera, {400, 400}, {u, v}, 5);
            ASSERT_EQ(one.has_value(), other.has_value());
            if (!one) {
                ++nothing;
                continue;
            }
            EXPECT_EQ(one->part, other->part);
            seen.insert(one->part);
        }
    EXPECT_GT(nothing, 100);
    EXPECT_GT(seen.size(), 60U) << "of 81";
}

TEST(Repeats, AStillShowsThemAsFaceByFace) {
    const Mesh mesh = posts(6, 6, 7);
    const Drawable repeated = drawn(mesh), plain = drawn(as_one_part(mesh));
    ASSERT_FALSE(repeated.repeats.empty());
    StillOptions options;
    options.width = options.height = 160;
    options.passes = 4;
    const Image one = *render_still({{&repeated}}, options, plume::Run()),
                other = *render_still({{&plain}}, options, plume::Run());
    ASSERT_EQ(one.rgba.size(), other.rgba.size());
    std::size_t apart = 0, dark = 0;
    for (std::size_t at = 0; at < one.rgba.size(); ++at) {
        if (std::abs(one.rgba[at] - other.rgba[at]) > 12) ++apart;
        if (one.rgba[at] < 150) ++dark;
    }
    EXPECT_LT(apart, one.rgba.size() / 200);
    EXPECT_GT(dark, one.rgba.size() / 50) << "there is something to see";
}

TEST(Repeats, ManyAreBoxesUntilTheyAreLookedAt) {
    const Mesh mesh = posts(100, 60, 32);
    DrawOptions options;
    options.most_repeated = 200'000;  // 6000 posts of 124 triangles have 744 000
    const Drawable usual = drawn(mesh, options);
    ASSERT_EQ(usual.shapes.size(), 1U);
    EXPECT_EQ(usual.triangles.size(), 36U);
    EXPECT_EQ(usual.repeats.size(), 6000U);
    EXPECT_TRUE(usual.thinned);
    EXPECT_TRUE(usual.refines);
    EXPECT_FALSE(usual.closer);
    // A box is as long as the first post and has its volume.
    double volume = 0;
    for (std::size_t at = 0; at < usual.triangles.size(); at += 3) {
        std::array<Vec3, 3> corner;
        for (std::size_t c = 0; c < 3; ++c)
            corner[c] =
                place_of(usual, at_repeat(usual.repeats.front(), usual.vertices[usual.triangles[at + c]])) -
                mesh.vertex(0);
        volume += dot(corner[0], cross(corner[1], corner[2])) / 6;
    }
    const double footprint = 16 * std::sin(2 * std::numbers::pi / 32);  // of radius 1: n/2 sin(2 pi / n)
    EXPECT_NEAR(volume, footprint * 0.1 * 0.1 * 1.5, 1e-3 * volume);

    options.view = DrawnView{};
    options.view->camera.target = {50, 30, 0};
    options.view->camera.distance = 12;
    const Drawable closer = drawn(mesh, options);
    ASSERT_TRUE(closer.closer);
    ASSERT_EQ(closer.shapes.size(), 2U);
    EXPECT_EQ(closer.repeats.size(), 6000U) << "each once";
    const DrawShape& whole = closer.shapes[0];
    EXPECT_EQ(whole.triangle_index_count, 3 * 124U);
    EXPECT_GT(whole.repeat_count, 20U);
    EXPECT_LE(whole.repeat_count * 124 + closer.shapes[1].repeat_count * 12, options.most_repeated);
    std::set<std::uint32_t> with_shape;
    for (std::size_t at = 0; at < whole.repeat_count; ++at)
        with_shape.insert(closer.repeats[at].part);
    EXPECT_EQ(with_shape.count(30 * 100 + 50), 1U) << "what is looked at";
    EXPECT_EQ(with_shape.count(0), 0U);
    // Seen whole, each is a few pixels: nothing is gained.
    options.view->camera.fit(usual.bounds, 1);
    options.view->camera.distance *= 4;
    EXPECT_FALSE(drawn(mesh, options).closer);
}

// What stands for a post of posts() reaches from its foot to its top, and stays within its radius.
void expect_in_post(std::size_t columns, std::size_t part, const std::vector<Vec3>& seen) {
    const auto x = static_cast<double>(part % columns), y = static_cast<double>(part / columns);
    const Vec3 foot{x, y, std::sin(x)}, up = unit_or_zero({0.2 * std::sin(y), 0.1, 1});
    double low = 1e9, high = -1e9, farthest = 0;
    for (const Vec3 place : seen) {
        const double along = dot(place - foot, up);
        low = std::min(low, along);
        high = std::max(high, along);
        farthest = std::max(farthest, length(place - foot - up * along));
    }
    const double radius = 0.1 + 0.05 * std::sin(x + y);
    EXPECT_NEAR(low, 0, 1e-4) << part;
    EXPECT_NEAR(high, 1 + 0.5 * std::cos(x * y), 1e-4) << part;
    EXPECT_GT(farthest, 0.6 * radius) << part;
    EXPECT_LT(farthest, 1.3 * radius) << "the corner of a square of a circle's area " << part;
}

TEST(Repeats, SlenderOnesAreCrossedRectanglesWhereBoxesAreTooMany) {
    const Mesh mesh = posts(60, 60, 16);
    DrawOptions options;
    options.most_repeated = 20'000;  // 3600 boxes have 43 200
    const Drawable crossed = drawn(mesh, options);
    ASSERT_EQ(crossed.repeats.size(), 3600U);
    EXPECT_EQ(crossed.triangles.size(), 3 * 4U);
    EXPECT_TRUE(crossed.thinned);
    for (const std::size_t part : {0, 59, 1234, 3599}) {
        std::vector<Vec3> seen;
        for (const std::uint32_t corner : crossed.triangles)
            seen.push_back(place_of(crossed, at_repeat(crossed.repeats[part], crossed.vertices[corner])));
        expect_in_post(60, part, seen);
    }
}

TEST(Repeats, SlenderOnesAreARectangleEachWhileTheCameraMoves) {
    const Mesh mesh = posts(40, 40, 16);
    const Drawable usual = drawn(mesh);
    ASSERT_EQ(usual.coarse.size(), 6U * 1600);
    for (const std::size_t part : {0, 39, 777, 1599}) {
        std::vector<Vec3> seen;
        for (std::size_t at = 6 * part; at < 6 * part + 6; ++at) {
            const DrawVertex& corner = usual.vertices[usual.coarse[at]];
            EXPECT_EQ(corner.colour, usual.repeats[part].colour);
            seen.push_back(place_of(usual, corner));
        }
        expect_in_post(40, part, seen);
    }
    DrawOptions few;
    few.most_coarse = 1000;
    EXPECT_EQ(drawn(mesh, few).coarse.size(), 6U * 400) << "every fourth";
}

TEST(Repeats, TooManyEvenForRectanglesAreADraft) {
    const Mesh mesh = posts(60, 60, 16);
    DrawOptions options;
    options.most_repeated = 10'000;
    const Drawable draft = drawn(mesh, options);
    EXPECT_TRUE(draft.repeats.empty());
    EXPECT_TRUE(draft.thinned);
    EXPECT_LE(draft.triangles.size() / 3, options.most_triangles);
}

}  // namespace
}  // namespace plume

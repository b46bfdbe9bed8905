// Meshes subdivided, relaxed, thinned, made anew, mended, checked and taken apart.

#include <map>
#include <random>

#include "core/geometry/meshes/dual_mesh.hpp"
#include "core/geometry/meshes/filled_holes.hpp"
#include "core/geometry/meshes/mesh_faults.hpp"
#include "core/geometry/meshes/mesh_pieces.hpp"
#include "core/geometry/meshes/mesh_volume.hpp"
#include "core/geometry/meshes/refined_mesh.hpp"
#include "core/geometry/meshes/relaxed_mesh.hpp"
#include "core/geometry/meshes/remeshed.hpp"
#include "core/geometry/meshes/subdivided.hpp"
#include "core/geometry/meshes/thinned_mesh.hpp"
#include "core/geometry/meshes/triangle_tree.hpp"
#include "core/geometry/meshes/vertex_places.hpp"
#include "core/meshes/round_meshes.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

using test::StudyMaker;
using test::value_of;

using test::mesh_of_faces;

const std::vector<Vec3> cube_corners{{-1, -1, -1}, {1, -1, -1}, {-1, 1, -1}, {1, 1, -1},
                                     {-1, -1, 1},  {1, -1, 1},  {-1, 1, 1},  {1, 1, 1}};
const std::vector<std::vector<std::uint32_t>> cube_faces{{0, 2, 3, 1}, {4, 5, 7, 6}, {0, 1, 5, 4},
                                                         {2, 6, 7, 3}, {0, 4, 6, 2}, {1, 3, 7, 5}};
Mesh cube() {
    return mesh_of_faces(cube_corners, cube_faces);
}
Mesh open_cube() {
    auto faces = cube_faces;
    faces.erase(faces.begin() + 1);  // the lid
    return mesh_of_faces(cube_corners, faces);
}

double farthest_below(const Mesh& mesh, double height) {
    double worst = Box::infinite;
    for (std::size_t vertex = 0; vertex < mesh.vertex_count(); ++vertex)
        worst = std::min(worst, std::abs(mesh.vertex(vertex).z - height));
    return worst;
}

// Halstead, Kass & DeRose, Efficient, fair interpolation using Catmull-Clark surfaces, 1993: a corner with n
// quads comes to (n^2 v + 4 sum of neighbours + sum of the corners across) / (n (n + 5)).
TEST(Subdivided, CornersOfACubeComeWhereTheirLimitIs) {
    for (const int levels : {1, 2, 4}) {
        const auto made = subdivided(cube(), {Subdivision::catmull_clark, levels, {}, true}, plume::Run());
        ASSERT_TRUE(made);
        EXPECT_EQ(made->face_count(), 24U * static_cast<std::size_t>(std::pow(4, levels - 1)));
        double nearest = Box::infinite;
        for (std::size_t vertex = 0; vertex < made->vertex_count(); ++vertex)
            nearest = std::min(nearest, length(made->vertex(vertex) - Vec3{0.5, 0.5, 0.5}));
        EXPECT_LT(nearest, 1e-12);
        EXPECT_TRUE(is_closed(*made));
        EXPECT_GT(volume_of(*made), 0);
        // The middle of a face: (v of valence 4 after one step) lies on its axis at 2/3... by symmetry on the
        // axis.
        const Box bounds = made->bounds();
        EXPECT_NEAR(bounds.high.x, bounds.high.y, 1e-12);
        EXPECT_NEAR(bounds.high.x, -bounds.low.z, 1e-12);
    }
}

TEST(Subdivided, LoopsLimitOfAnOctahedron) {
    // beta of valence 4, and the limit (1 - 4 chi) v + chi * (neighbours, whose sum is nothing).
    const double beta = (5.0 / 8 - 9.0 / 64) / 4, chi = 1 / (3 / (8 * beta) + 4);
    const auto made = subdivided(test::ball(1, 0), {Subdivision::loop, 3, {}, true}, plume::Run());
    ASSERT_TRUE(made);
    EXPECT_EQ(made->face_count(), 8U * 64);
    EXPECT_LT(farthest_below(*made, 1 - 4 * chi), 1e-12);
    EXPECT_NEAR(made->bounds().high.z, 1 - 4 * chi, 1e-12);
}

TEST(Subdivided, CreasesStaySharp) {
    const auto made = subdivided(cube(), {Subdivision::catmull_clark, 2, 1.0, true}, plume::Run());
    ASSERT_TRUE(made);
    EXPECT_NEAR(volume_of(*made), 8, 1e-9) << "all twelve edges turn by 90 degrees";
}

TEST(Subdivided, NumbersAndPartsComeAlong) {
    Mesh::Parts parts = cube().parts();
    parts.fields = {{"height", parts.z, a_length}};
    parts.face_fields = {{"rank", Doubles{0, 1, 2, 3, 4, 5}, plain_number}};
    parts.part_starts = {0, 2};
    const auto made =
        subdivided(*Mesh::make(std::move(parts)), {Subdivision::catmull_clark, 2, {}, true}, plume::Run());
    ASSERT_TRUE(made);
    for (std::size_t vertex = 0; vertex < made->vertex_count(); ++vertex)
        EXPECT_NEAR(made->fields()[0].values[vertex], made->z()[vertex], 1e-12);
    ASSERT_EQ(made->part_count(), 2U);
    EXPECT_EQ(made->part(1).begin, 2U * 16);
    for (std::size_t face = 0; face < made->face_count(); ++face) {
        // Faces lie where the one they come of did: 0 below, 1 above.
        const double rank = made->face_fields()[0].values[face];
        if (rank <= 1) {
            EXPECT_EQ(area_vector(*made, face).z > 0, rank == 1);
        }
    }
}

TEST(Relaxed, ABallKeepsItsVolumeAndATensionedOneShrinks) {
    std::mt19937 random(3);
    std::normal_distribution<double> noise(0, 0.03);
    Mesh::Parts parts = test::ball(1, 4).parts();
    Doubles x, y, z;
    for (std::size_t vertex = 0; vertex < parts.x.size(); ++vertex) {
        const double out = 1 + noise(random);
        x.push_back(parts.x[vertex] * out);
        y.push_back(parts.y[vertex] * out);
        z.push_back(parts.z[vertex] * out);
    }
    parts.x = std::move(x);
    parts.y = std::move(y);
    parts.z = std::move(z);
    const Mesh rough = *Mesh::make(std::move(parts));
    const auto roughness = [](const Mesh& mesh) {
        double sum = 0, squares = 0;
        const auto count = static_cast<double>(mesh.vertex_count());
        for (std::size_t vertex = 0; vertex < mesh.vertex_count(); ++vertex) {
            sum += length(mesh.vertex(vertex)) / count;
            squares += dot(mesh.vertex(vertex), mesh.vertex(vertex)) / count;
        }
        return std::sqrt(squares - sum * sum);
    };
    const auto kept = relaxed(rough, {20, 0.5, true, RimRule::held}, plume::Run());
    ASSERT_TRUE(kept);
    EXPECT_NEAR(volume_of(*kept), volume_of(rough), 1e-9);
    EXPECT_LT(roughness(*kept), roughness(rough) / 3);
    const auto shrunk = relaxed(rough, {20, 0.5, false, RimRule::held}, plume::Run());
    ASSERT_TRUE(shrunk);
    EXPECT_LT(volume_of(*shrunk), volume_of(rough) * 0.95);
}

TEST(Relaxed, RimsAreHeldSlidOrFree) {
    // A square of 6 by 6 bays whose inner points are thrown about, and whose rim is uneven.
    std::mt19937 random(8);
    std::uniform_real_distribution<double> any(-0.3, 0.3);
    const Mesh uneven = test::parametric(7, 7, false, false, [&](double u, double v) {
        const bool rim = u == 0 || v == 0 || u == 1 || v == 1;
        const bool corner = (u == 0 || u == 1) && (v == 0 || v == 1);
        return Vec3{6 * u + (rim && !corner && (v == 0 || v == 1) ? any(random) : 0),
                    6 * v + (rim && !corner && (u == 0 || u == 1) ? any(random) : 0), rim ? 0 : any(random)};
    });
    const auto held = relaxed(uneven, {300, 0.8, false, RimRule::held}, plume::Run());
    ASSERT_TRUE(held);
    EXPECT_EQ(held->vertex(1), uneven.vertex(1));
    EXPECT_LT(held->bounds().size().z, 1e-6) << "a skin in a flat rim is flat";
    const auto slid = relaxed(uneven, {300, 0.8, false, RimRule::slid}, plume::Run());
    ASSERT_TRUE(slid);
    EXPECT_NE(slid->vertex(1), uneven.vertex(1));
    const auto freed = relaxed(uneven, {300, 0.8, false, RimRule::freed}, plume::Run());
    ASSERT_TRUE(freed);
    EXPECT_LT(freed->bounds().size().x, 3);
}

TEST(Thinned, WhatIsFlatNeedsAHandfulOfTriangles) {
    const Mesh flat = test::parametric(21, 21, false, false, [](double u, double v) {
        return Vec3{5 * u, 5 * v, u};
    });
    const auto made = thinned(flat, {0, 1e-6, false}, plume::Run());
    ASSERT_TRUE(made);
    EXPECT_LE(made->mesh.face_count(), 8U);
    EXPECT_EQ(made->folded, 0U);
    EXPECT_LT(made->deviation, 1e-6);
    EXPECT_NEAR(area(made->mesh), area(flat), 1e-9);
    const auto with_rims = thinned(flat, {0, 1e-6, true}, plume::Run());
    ASSERT_TRUE(with_rims);
    EXPECT_GE(with_rims->mesh.face_count(), 78U) << "80 vertices on the rim";
}

TEST(Thinned, KeepsWithinWhatIsAskedForAndCountsDown) {
    const Mesh ball = test::ball(3, 5);
    const auto within = thinned(ball, {0, 0.02, true}, plume::Run());
    ASSERT_TRUE(within);
    EXPECT_LE(within->deviation, 0.02);
    EXPECT_LT(within->mesh.face_count(), ball.face_count() / 3);
    const TriangleTree tree(within->mesh);
    double worst = 0;
    for (std::size_t vertex = 0; vertex < ball.vertex_count(); ++vertex)
        worst = std::max(worst, tree.nearest(ball.vertex(vertex)).distance);
    EXPECT_NEAR(worst, within->deviation, 1e-12) << "what is said is what it is";
    const auto counted = thinned(ball, {500, 0, true}, plume::Run());
    ASSERT_TRUE(counted);
    EXPECT_LE(counted->mesh.face_count(), 500U);
    EXPECT_GT(counted->mesh.face_count(), 450U);
    EXPECT_TRUE(is_closed(counted->mesh));
}

struct Lengths {
    double shortest = Box::infinite, longest = 0, mean = 0;
};
Lengths sides_in(const Mesh& mesh, const std::function<bool(Vec3)>& counts = {}) {
    Lengths lengths;
    double count = 0;
    for (std::size_t face = 0; face < mesh.face_count(); ++face)
        for (std::size_t at = 0; at < 3; ++at) {
            const Vec3 a = mesh.vertex(mesh.face(face)[at]), b = mesh.vertex(mesh.face(face)[(at + 1) % 3]);
            if (counts && !counts((a + b) * 0.5)) continue;
            const double side = length(b - a);
            lengths.shortest = std::min(lengths.shortest, side);
            lengths.longest = std::max(lengths.longest, side);
            lengths.mean += side;
            count += 1;
        }
    lengths.mean /= count;
    return lengths;
}

TEST(Remeshed, EdgesComeNearTheLengthAskedFor) {
    const Mesh ball = test::ball(3, 4);
    for (const double wished : {0.2, 0.5, 1.0}) {
        const auto made = remeshed(ball, {[&](std::size_t) { return wished; }, 1.2, 8}, plume::Run());
        ASSERT_TRUE(made);
        EXPECT_TRUE(is_closed(*made)) << wished;
        const Lengths lengths = sides_in(*made);
        EXPECT_NEAR(lengths.mean, wished, 0.15 * wished);
        EXPECT_LT(lengths.longest, 1.7 * wished);
        EXPECT_GT(lengths.shortest, 0.4 * wished);
        // On the mesh there was.
        const TriangleTree tree(ball);
        for (std::size_t vertex = 0; vertex < made->vertex_count(); ++vertex)
            EXPECT_LT(tree.nearest(made->vertex(vertex)).distance, 1e-9);
    }
}

TEST(Remeshed, LengthsFollowANumberAndRimsStay) {
    const Mesh sheet = test::parametric(21, 11, false, false, [](double u, double v) {
        return Vec3{20 * u, 10 * v, 0};
    });
    const auto made = remeshed(
        sheet, {[&](std::size_t vertex) { return 0.3 + sheet.vertex(vertex).x / 20; }, 0.7, 8}, plume::Run());
    ASSERT_TRUE(made);
    EXPECT_NEAR(area(*made), 200, 1e-9) << "its rim is the same rectangle";
    const double left = sides_in(*made, [](Vec3 p) { return p.x < 3; }).mean,
                 right = sides_in(*made, [](Vec3 p) { return p.x > 17; }).mean;
    EXPECT_NEAR(left, 0.375, 0.1);
    EXPECT_NEAR(right, 1.225, 0.3);
    for (std::size_t face = 0; face < made->face_count(); ++face)
        EXPECT_GT(area_vector(*made, face).z, 0);
}

TEST(Remeshed, CreasesOfACubeStay) {
    const auto made = remeshed(cube(), {[](std::size_t) { return 0.3; }, 0.7, 6}, plume::Run());
    ASSERT_TRUE(made);
    EXPECT_NEAR(volume_of(*made), 8, 1e-9);
    EXPECT_TRUE(is_closed(*made));
}

TEST(Remeshed, NumbersAreReadOffTheSurface) {
    Mesh::Parts parts = test::parametric(9, 9, false, false, [](double u, double v) {
                            return Vec3{4 * u, 4 * v, 0};
                        }).parts();
    parts.fields = {{"east", parts.x, a_length}};
    const auto made =
        remeshed(*Mesh::make(std::move(parts)), {[](std::size_t) { return 0.4; }, 0.7, 5}, plume::Run());
    ASSERT_TRUE(made);
    for (std::size_t vertex = 0; vertex < made->vertex_count(); ++vertex)
        EXPECT_NEAR(made->fields()[0].values[vertex], made->x()[vertex], 1e-9);
}

TEST(Remeshed, RefusesBranches) {
    const Mesh branched = test::mesh_of_triangles({{0, 0, 0}, {1, 0, 0}, {0, 1, 0}, {0, -1, 0}, {0, 0, 1}},
                                                  {{0, 1, 2}, {1, 0, 3}, {0, 1, 4}});
    const auto made = remeshed(branched, {[](std::size_t) { return 0.3; }, 0.7, 3}, plume::Run());
    ASSERT_FALSE(made);
    EXPECT_EQ(made.error().code, ErrorCode::unlike_arrangement);
}

TEST(Halved, FacesGoOnMeetingWhateverSidesAreHalved) {
    std::mt19937 random(6);
    for (int time = 0; time < 20; ++time) {
        std::uniform_real_distribution<double> any(0, 1);
        const Vec3 towards{any(random), any(random), any(random)};
        const auto made = halved_until(
            cube(), [&](Vec3 a, Vec3 b) { return length(b - a) > 0.3 + length((a + b) * 0.5 - towards); }, 8,
            100'000, plume::Run());
        ASSERT_TRUE(made);
        EXPECT_GT(made->face_count(), 20U);
        EXPECT_TRUE(is_closed(*made));
        EXPECT_NEAR(volume_of(*made), 8, 1e-9);
    }
}

TEST(FilledHoles, TheLidOfACubeComesBack) {
    const auto made = filled_holes(open_cube(), 100, plume::Run());
    ASSERT_TRUE(made);
    EXPECT_EQ(made->filled, 1U);
    EXPECT_TRUE(is_closed(made->mesh));
    EXPECT_NEAR(volume_of(made->mesh), 8, 1e-12);
    const auto short_ones = filled_holes(open_cube(), 7.9, plume::Run());
    ASSERT_TRUE(short_ones);
    EXPECT_EQ(short_ones->left, 1U) << "8 around";
}

TEST(TurnedAlike, FacesOfACubeTurnOutwards) {
    std::mt19937 random(5);
    for (int time = 0; time < 20; ++time) {
        auto faces = cube_faces;
        std::size_t turned = 0;
        for (auto& face : faces)
            if (random() % 2 == 0) {
                std::ranges::reverse(face);
                ++turned;
            }
        const TurnedMesh made = turned_alike(mesh_of_faces(cube_corners, faces));
        EXPECT_NEAR(volume_of(made.mesh), 8, 1e-12);
        EXPECT_EQ(made.turned, turned);
        EXPECT_EQ(made.one_sided, 0U);
    }
}

// A band of n quads, turned over half as its ends meet.
Mesh moebius(std::uint32_t count) {
    std::vector<Vec3> places;
    for (std::uint32_t at = 0; at < count; ++at) {
        const double turn = 2 * std::numbers::pi * at / count;
        for (const double side : {-0.3, 0.3}) {
            const double out = 2 + side * std::cos(turn / 2);
            places.push_back({out * std::cos(turn), out * std::sin(turn), side * std::sin(turn / 2)});
        }
    }
    std::vector<std::vector<std::uint32_t>> faces;
    for (std::uint32_t at = 0; at + 1 < count; ++at)
        faces.push_back({2 * at, 2 * at + 2, 2 * at + 3, 2 * at + 1});
    faces.push_back({2 * count - 2, 1, 0, 2 * count - 1});
    return mesh_of_faces(places, faces);
}

TEST(TurnedAlike, AMoebiusStripHasOneSide) {
    const TurnedMesh made = turned_alike(moebius(12));
    EXPECT_EQ(made.one_sided, 1U);
    EXPECT_EQ(made.mesh.face_count(), 12U);
}

TEST(Pieces, HangTogetherBySides) {
    const Mesh two = test::mesh_of_triangles(
        {{0, 0, 0}, {1, 0, 0}, {0, 1, 0}, {1, 1, 0}, {5, 0, 0}, {6, 0, 0}, {5, 1, 0}, {2, 2, 0}, {2, 1, 0}},
        {{0, 1, 2}, {4, 5, 6}, {1, 3, 2}, {3, 8, 7}});
    const MeshPieces pieces = pieces_of(two);
    EXPECT_EQ(pieces.count, 3U) << "what touches at a corner alone is another piece";
    const Mesh parted = parted_by_pieces(two);
    EXPECT_EQ(parted.part_count(), 3U);
    EXPECT_EQ(parted.part(0).end, 2U);
    EXPECT_EQ(parted_by_faces(two).part_count(), 4U);
}

TEST(Dual, OfACubeIsAnOctahedronAndBack) {
    const DualMesh made = dual_of(cube(), true);
    EXPECT_EQ(made.left_out, 0U);
    EXPECT_EQ(made.mesh.vertex_count(), 6U);
    EXPECT_EQ(made.mesh.face_count(), 8U);
    EXPECT_NEAR(volume_of(made.mesh), 4.0 / 3, 1e-12) << "turned outwards, too";
    const DualMesh back = dual_of(made.mesh, true);
    EXPECT_EQ(back.mesh.face_count(), 6U);
    EXPECT_NEAR(volume_of(back.mesh), 8.0 / 27, 1e-12) << "a cube of a third";
}

TEST(Dual, WithItsRimsItCoversTheSameSheet) {
    const Mesh sheet = test::parametric(6, 5, false, false, [](double u, double v) {
        return Vec3{5 * u, 4 * v, 0};
    });
    const DualMesh with = dual_of(sheet, true);
    EXPECT_EQ(with.mesh.face_count(), sheet.vertex_count());
    EXPECT_NEAR(area(with.mesh), 20, 1e-12);
    for (std::size_t face = 0; face < with.mesh.face_count(); ++face)
        EXPECT_GT(area_vector(with.mesh, face).z, 0);
    const DualMesh without = dual_of(sheet, false);
    EXPECT_EQ(without.mesh.face_count(), 4U * 3);
}

TEST(Faults, AreFoundAndNothingElse) {
    const auto none = faults_of(cube(), 0.01, plume::Run());
    ASSERT_TRUE(none);
    EXPECT_TRUE(none->open.empty() && none->branched.empty() && none->crooked.empty() &&
                none->slivers.empty() && none->crossing.empty());
    EXPECT_EQ(faults_of(open_cube(), 0.01, plume::Run())->open.size(), 4U);
    auto faces = cube_faces;
    std::ranges::reverse(faces[2]);
    EXPECT_EQ(faults_of(mesh_of_faces(cube_corners, faces), 0.01, plume::Run())->crooked.size(), 4U);
    faces = cube_faces;
    faces.push_back({0, 1, 7, 6});  // through the middle
    EXPECT_EQ(faults_of(mesh_of_faces(cube_corners, faces), 0.01, plume::Run())->branched.size(), 2U);
    const Mesh thin =
        test::mesh_of_triangles({{0, 0, 0}, {10, 0, 0}, {5, 0.05, 0}, {5, -4, 0}}, {{0, 1, 2}, {1, 0, 3}});
    EXPECT_EQ(faults_of(thin, 0.01, plume::Run())->slivers, std::vector<std::uint32_t>{0});
    EXPECT_EQ(faults_of(moebius(12), 0.01, plume::Run())->crooked.size(), 1U);
}

TEST(Faults, FacesThatCrossAreThoseThatAllPairsSay) {
    const Mesh mesh = test::thrown_triangles(200, 12);
    // Any side of one through the inside of the other.
    const auto pierces = [&](std::size_t one, std::size_t other) {
        for (std::size_t at = 0; at < 3; ++at) {
            const Vec3 from = mesh.vertex(mesh.face(one)[at]), to = mesh.vertex(mesh.face(one)[(at + 1) % 3]);
            const Vec3 a = mesh.vertex(mesh.face(other)[0]), b = mesh.vertex(mesh.face(other)[1]),
                       c = mesh.vertex(mesh.face(other)[2]);
            const Vec3 normal = cross(b - a, c - a);
            const double above = dot(from - a, normal), below = dot(to - a, normal);
            if ((above > 0) == (below > 0)) continue;
            const Vec3 on = from + (to - from) * (above / (above - below));
            const auto left = [&](Vec3 p, Vec3 q) { return dot(cross(q - p, on - p), normal) >= 0; };
            if (left(a, b) && left(b, c) && left(c, a)) return true;
        }
        return false;
    };
    std::vector<std::uint32_t> expected;
    for (std::uint32_t one = 0; one < 200; ++one)
        for (std::uint32_t other = 0; other < 200; ++other)
            if (one != other && (pierces(one, other) || pierces(other, one))) {
                expected.push_back(one);
                break;
            }
    const auto found = crossing_faces(mesh, plume::Run());
    ASSERT_TRUE(found);
    EXPECT_GT(expected.size(), 10U);
    EXPECT_EQ(*found, expected);
}

// Steps ---------------------------------------------------------------------------------------------------

TEST(MeshSteps, FacesAreKeptByTheirNumbers) {
    StudyMaker maker;
    maker.add("lattice.rectangular", "ground");
    maker.number("ground", "columns", "10").number("ground", "rows", "4");
    maker.number("ground", "width", "10 m").number("ground", "depth", "4 m");
    maker.add("points.move_formula", "steps");
    maker.formula("steps", "to_z = x * x / 10 m");
    maker.add("skin", "skin_of_it");
    maker.word("skin_of_it", "surface", "flat").set("skin_of_it", "points", ResultName{"steps"});
    maker.add("thing.measure", "steep");
    maker.word("steep", "what", "slope").set("steep", "thing", ResultName{"skin_of_it"});
    maker.add("points.of_mesh", "middles");
    maker.set("middles", "mesh", ResultName{"steep"});
    maker.add("points.keep_where", "level");
    maker.set("level", "points", ResultName{"middles"}).formula("level", "steep < 20°");
    maker.add("mesh.keep_faces", "kept");
    maker.set("kept", "mesh", ResultName{"steep"}).set("kept", "points", ResultName{"level"});
    const Evaluation made = test::run(maker.study);
    const Mesh kept = std::get<Mesh>(value_of(made, "kept"));
    // Slopes of bays from the middle out: atan 0.1, 0.3, 0.5 ... on both sides; two are below 20 degrees.
    EXPECT_EQ(kept.face_count(), 4U * 4);
    EXPECT_EQ(kept.vertex_count(), 5U * 5) << "no vertex without a face";
    for (const double slope : kept.face_fields().back().values.span())
        EXPECT_LT(slope, 20 * std::numbers::pi / 180);
    maker.word("kept", "side", "without");
    EXPECT_EQ(std::get<Mesh>(value_of(test::run(maker.study), "kept")).face_count(), 6U * 4);
}

TEST(MeshSteps, AnExactBodyIsTakenAsItsMesh) {
    StudyMaker maker;
    maker.add("outline.shape", "foot");
    maker.word("foot", "shape", "circle").number("foot", "radius", "2 m");
    maker.add("body.extrude", "drum");
    maker.set("drum", "curve", ResultName{"foot"}).number("drum", "by", "4 m");
    maker.add("mesh.remesh", "even");
    maker.number("even", "length", "0.5 m");
    const Evaluation made = test::run(maker.study);
    const Mesh even = std::get<Mesh>(value_of(made, "even"));
    EXPECT_TRUE(is_closed(even));
    EXPECT_NEAR(volume_of(even), std::numbers::pi * 4 * 4, 1);
    EXPECT_NE(made.outcome("even")->remarks.front().text.find("Its edges are "), std::string::npos);
}

TEST(MeshSteps, WhatIsWrongIsSaidAndShown) {
    StudyMaker maker;
    maker.add("lattice.rectangular", "ground");
    maker.number("ground", "columns", "3").number("ground", "rows", "2");
    maker.add("skin", "sheet");
    maker.word("sheet", "surface", "flat");
    maker.add("mesh.check", "faults");
    maker.set("faults", "mesh", ResultName{"sheet"});
    const Evaluation made = test::run(maker.study);
    EXPECT_EQ(std::get<CurveSet>(value_of(made, "faults")).curves.size(), 10U);
    EXPECT_EQ(made.outcome("faults")->remarks.front().text, "10 edges are open (fault 1).");
    maker.word("faults", "rims", "rims");
    const Evaluation fine = test::run(maker.study);
    EXPECT_TRUE(std::get<CurveSet>(value_of(fine, "faults")).curves.empty());
    EXPECT_EQ(fine.outcome("faults")->remarks.front().text, "Nothing is wrong, but for its open rim.");
}

// Two squares of 2 m that stand across each other cross along a line as long as they are high.
TEST(MeshSteps, CrossingsAreFoundPairByPair) {
    const auto mesh_of = [](std::vector<Vec3> places, std::vector<std::vector<std::uint32_t>> faces) {
        Mesh::Parts parts;
        set_vertices(parts, places);
        for (const auto& face : faces) {
            parts.corners.insert(parts.corners.end(), face.begin(), face.end());
            parts.first.push_back(static_cast<std::uint32_t>(parts.corners.size()));
        }
        return *Mesh::make(parts);
    };
    const auto crossings = [](const Mesh& mesh, std::size_t most = 100) {
        return *crossings_of(mesh, most, plume::Run());
    };
    const std::vector<Vec3> across{{-1, 0, 0}, {1, 0, 0}, {1, 0, 2}, {-1, 0, 2},
                                   {0, -1, 0}, {0, 1, 0}, {0, 1, 2}, {0, -1, 2}};
    const Mesh crossed = mesh_of(across, {{0, 1, 2, 3}, {4, 5, 6, 7}});
    double along = 0;
    for (const FaceCrossing& crossing : crossings(crossed).all) {
        EXPECT_EQ(crossing.face, 0U);
        EXPECT_EQ(crossing.other, 1U);
        EXPECT_FALSE(crossing.closed);
        if (crossing.line.empty()) continue;  // where corners of triangles touch
        for (const Vec3 place : crossing.line)
            EXPECT_NEAR(std::hypot(place.x, place.y), 0, 1e-15);
        along += length(crossing.line[1] - crossing.line[0]);
    }
    EXPECT_NEAR(along, 2, 1e-12);
    EXPECT_EQ(crossing_faces(crossed, plume::Run())->size(), 2U);
    // In one plane: what both cover.
    const Mesh laid = mesh_of({{0, 0, 0}, {2, 0, 0}, {0, 2, 0}, {1, -1, 0}, {1, 2, 0}, {-1, -1, 0}},
                              {{0, 1, 2}, {3, 4, 5}});
    ASSERT_EQ(crossings(laid).all.size(), 1U);
    EXPECT_TRUE(crossings(laid).all[0].closed);
    // Sharing a side or a corner is none; a sheet that only folds is none either.
    EXPECT_TRUE(crossings(mesh_of({{0, 0, 0}, {1, 0, 0}, {0, 1, 0}, {0.1, 0.2, 1}}, {{0, 1, 2}, {1, 0, 3}}))
                    .all.empty());
    EXPECT_FALSE(crossings(crossed, 100).more);
    EXPECT_TRUE(crossings(crossed, 1).more);
    EXPECT_EQ(crossings(crossed, 1).all.size(), 1U);
}

// A strip that runs through itself: t^3 - 3t, t^2 meets itself at the roots of 3, in its first and last face.
TEST(MeshSteps, CrossingPairsAreNamed) {
    StudyMaker maker;
    maker.add("lattice.rectangular", "ground");
    maker.number("ground", "columns", "8").number("ground", "rows", "1");
    maker.number("ground", "width", "4 m").number("ground", "depth", "1 m");
    maker.add("points.move_formula", "looped");
    maker.formula("looped", "to_x = x * x * x / (1 m * 1 m) - 3 * x\nto_z = x * x / 1 m");
    maker.add("skin", "strip");
    maker.word("strip", "surface", "flat");
    maker.add("mesh.crossings", "crossings");
    const Evaluation made = test::run(maker.study);
    EXPECT_EQ(test::remarks_of(made, "crossings"), "! 1 pair of faces crosses: 0 and 7.\n");
    double along = 0;
    const CurveSet lines = std::get<CurveSet>(value_of(made, "crossings"));
    for (const SplineCurve& line : lines.curves) {
        Box box;
        for (const std::size_t pole : {0U, 1U})
            box.include(line.pole(pole));
        EXPECT_NEAR(box.low.x, 0, 1e-12);
        EXPECT_NEAR(box.high.x, 0, 1e-12);
        along += box.high.y - box.low.y;
    }
    EXPECT_NEAR(along, 1, 1e-12) << "across the whole strip";
    maker.set("crossings", "mesh", ResultName{"flat"});
    maker.add("skin", "flat");
    maker.set("flat", "points", ResultName{"ground"}).word("flat", "surface", "flat");
    maker.add("mesh.crossings", "none");
    const Evaluation flat = test::run(maker.study);
    EXPECT_EQ(test::remarks_of(flat, "none"), "Nothing crosses.\n");
    EXPECT_TRUE(std::get<CurveSet>(value_of(flat, "none")).curves.empty());
}

TEST(MeshSteps, WeldingJoinsCopies) {
    StudyMaker maker;
    maker.add("lattice.rectangular", "ground");
    maker.number("ground", "columns", "2").number("ground", "rows", "2");
    maker.number("ground", "width", "2 m").number("ground", "depth", "2 m");
    maker.add("skin", "sheet");
    maker.word("sheet", "surface", "flat");
    maker.add("thing.repeat", "row");
    maker.set("row", "thing", ResultName{"sheet"}).number("row", "count", "3").number("row", "x", "2 m");
    maker.add("mesh.mend", "one");
    maker.set("one", "mesh", ResultName{"row"});
    const Evaluation made = test::run(maker.study);
    EXPECT_EQ(std::get<Mesh>(value_of(made, "one")).vertex_count(), 7U * 3);
    EXPECT_EQ(made.outcome("one")->remarks.front().text,
              "6 vertices are one with another, 0 faces of no size left out.");
}

TEST(MeshSteps, AsksForLengthsThatAreLengths) {
    StudyMaker maker;
    maker.add("lattice.rectangular", "ground");
    maker.add("field.formula", "reach");
    maker.formula("reach", "i");
    maker.add("points.push", "pushed");
    maker.set("pushed", "points", ResultName{"ground"}).set("pushed", "amount", ResultName{"reach"});
    maker.add("skin", "sheet");
    maker.word("sheet", "surface", "flat").set("sheet", "points", ResultName{"pushed"});
    maker.add("mesh.remesh", "even");
    maker.set("even", "mesh", ResultName{"sheet"}).word("even", "lengths", "named");
    Error error = test::error_of(test::run(maker.study), "even");
    EXPECT_EQ(error.slot, "number");
    EXPECT_EQ(error.code, ErrorCode::unit_mismatch);
    maker.formula("reach", "i * 1 m");
    error = test::error_of(test::run(maker.study), "even");
    EXPECT_EQ(error.code, ErrorCode::out_of_range) << "0 at i = 0";
    maker.formula("reach", "(i + 1) * 0.1 m");
    EXPECT_GT(std::get<Mesh>(value_of(test::run(maker.study), "even")).face_count(), 100U);
}

}  // namespace
}  // namespace plume

// Families of members, nodes and panels, against groups known by hand.

#include <algorithm>
#include <cmath>
#include <random>

#include "core/frames/icosahedron.hpp"
#include "core/geometry/frames/families.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

using test::StudyMaker;
using test::value_of;

TEST(Families, OfNumbersAreAsFewAsCanBe) {
    const std::vector<double> numbers{5, 1, 1.4, 9, 1.5, 5.2, 1.1};
    const Families families = families_of(numbers, {}, 0.4);
    EXPECT_EQ(families.family, (std::vector<std::uint32_t>{2, 0, 0, 3, 1, 2, 0}));
    EXPECT_EQ(families.count, 4U);
    EXPECT_EQ(families_of(numbers, {}, 0).count, 7U);
    EXPECT_EQ(families_of(numbers, {}, 100).count, 1U);
    const Families odd = families_of(std::vector<double>{1, std::nan(""), 1}, {}, 0);
    EXPECT_EQ(odd.family, (std::vector<std::uint32_t>{0, no_family, 0}));
}

TEST(Families, AgreeWithTheFewestIntervalsThatCoverThem) {
    std::mt19937 random(4);
    std::uniform_real_distribution<double> number(0, 1);
    for (int round = 0; round < 30; ++round) {
        std::vector<double> numbers(60);
        std::vector<std::uint32_t> groups(60);
        for (std::size_t at = 0; at < numbers.size(); ++at) {
            numbers[at] = number(random);
            groups[at] = number(random) < 0.5 ? 3 : 7;
        }
        const double tolerance = number(random) / 5;
        // The fewest intervals of this width, by dynamic programming over the numbers of each group.
        std::size_t fewest = 0;
        for (const std::uint32_t group : {3U, 7U}) {
            std::vector<double> sorted;
            for (std::size_t at = 0; at < numbers.size(); ++at)
                if (groups[at] == group) sorted.push_back(numbers[at]);
            std::ranges::sort(sorted);
            std::vector<std::size_t> best(sorted.size() + 1, 0);
            for (std::size_t end = 1; end <= sorted.size(); ++end) {
                best[end] = sorted.size();
                for (std::size_t begin = 0; begin < end; ++begin)
                    if (sorted[end - 1] - sorted[begin] <= tolerance)
                        best[end] = std::min(best[end], best[begin] + 1);
            }
            fewest += best.back();
        }
        const Families families = families_of(numbers, groups, tolerance);
        EXPECT_EQ(families.count, fewest);
        EXPECT_EQ(family_counts(numbers, groups, std::vector<double>{tolerance}).front(), fewest);
        for (std::size_t a = 0; a < numbers.size(); ++a)
            for (std::size_t b = 0; b < a; ++b)
                if (families.family[a] == families.family[b]) {
                    EXPECT_EQ(groups[a], groups[b]);
                    EXPECT_LE(std::abs(numbers[a] - numbers[b]), tolerance);
                }
    }
}

Mesh mesh_of(const std::vector<std::vector<Vec3>>& faces) {
    Doubles x, y, z;
    Mesh::Parts parts;
    for (const std::vector<Vec3>& face : faces) {
        for (const Vec3 corner : face) {
            parts.corners.push_back(static_cast<std::uint32_t>(x.size()));
            x.push_back(corner.x);
            y.push_back(corner.y);
            z.push_back(corner.z);
        }
        parts.first.push_back(static_cast<std::uint32_t>(parts.corners.size()));
    }
    parts.x = std::move(x);
    parts.y = std::move(y);
    parts.z = std::move(z);
    return *Mesh::make(std::move(parts));
}

std::vector<Vec3> moved(std::vector<Vec3> face, double angle, Vec3 by, std::size_t turn = 0) {
    for (Vec3& p : face)
        p = Vec3{p.x * std::cos(angle) - p.y * std::sin(angle), p.x * std::sin(angle) + p.y * std::cos(angle),
                 p.z} +
            by;
    std::rotate(face.begin(), face.begin() + static_cast<std::ptrdiff_t>(turn), face.end());
    return face;
}
// As it looks in a mirror, anticlockwise again.
std::vector<Vec3> mirrored(std::vector<Vec3> face) {
    for (Vec3& p : face)
        p.x = -p.x;
    std::ranges::reverse(face);
    return face;
}

std::vector<std::uint32_t> families(const std::vector<std::vector<Vec3>>& faces, bool together,
                                    double tolerance = 1e-6) {
    return families_of(face_shapes(mesh_of(faces), together), tolerance, plume::Run())->family;
}

TEST(Families, OfPanelsWhateverTheirPlaceTurnAndFirstCorner) {
    using List = std::vector<std::uint32_t>;
    const std::vector<Vec3> quad{{0, 0, 0}, {3, 0, 0}, {2.5, 2, 0}, {0.2, 1.4, 0}};
    for (std::size_t turn = 0; turn < 4; ++turn) {
        EXPECT_EQ(families({quad, moved(quad, 1.1, {5, 6, 7}, turn)}, false), (List{0, 0})) << turn;
        EXPECT_EQ(families({quad, moved(mirrored(quad), 0.4, {1, 2, 3}, turn)}, false), (List{0, 1})) << turn;
        EXPECT_EQ(families({quad, moved(mirrored(quad), 0.4, {1, 2, 3}, turn)}, true), (List{0, 0})) << turn;
    }
    // Warped one way and the other: as alike in their sides as can be, and no family.
    std::vector<Vec3> up = quad, down = quad;
    up[2].z = 0.3;
    down[2].z = -0.3;
    for (std::size_t turn = 0; turn < 4; ++turn) {
        EXPECT_EQ(families({up, moved(up, 2, {1, 1, 1}, turn)}, false), (List{0, 0})) << turn;
        EXPECT_EQ(families({up, moved(down, 2, {1, 1, 1}, turn)}, true), (List{0, 1})) << turn;
        EXPECT_EQ(families({up, moved(mirrored(up), 2, {1, 1, 1}, turn)}, true), (List{0, 0})) << turn;
        EXPECT_EQ(families({up, moved(mirrored(up), 2, {1, 1, 1}, turn)}, false), (List{0, 1})) << turn;
    }
    const std::vector<Vec3> triangle{{0, 0, 0}, {3, 0, 0}, {1, 2, 0}};
    EXPECT_EQ(families({quad, triangle, moved(triangle, 3, {0, 0, 9}, 2), mirrored(triangle)}, false),
              (List{0, 1, 1, 2}));
    std::vector<Vec3> longer = quad;
    longer[1].x += 0.01;
    EXPECT_EQ(families({quad, longer}, false, 0.005), (List{0, 1}));
    EXPECT_EQ(families({quad, longer}, false, 0.011), (List{0, 0}));
}

// A hyperboloid: both sorts of straight lines, and the rings, are one family each.
StudyMaker hyperboloid() {
    StudyMaker maker;
    maker.add("outline.shape", "plan");
    maker.word("plan", "shape", "circle").number("plan", "radius", "4 m");
    maker.add("lattice.tower", "rings");
    maker.set("rings", "outline", ResultName{"plan"})
        .number("rings", "bays", "20")
        .number("rings", "floors", "8");
    maker.formula("rings", "scale = sqrt(0.5 + 2 * (t - 0.5)^2)").number("rings", "height", "8 m");
    maker.add("frame.lattice", "frame");
    maker.set("frame", "points", ResultName{"rings"});
    return maker;
}

TEST(FamilySteps, OfAHyperboloid) {
    StudyMaker maker = hyperboloid();
    maker.add("frame.families", "family");
    maker.set("family", "frame", ResultName{"frame"})
        .number("family", "tolerance", "0.001 mm")
        .word("family", "apart", "ways");
    const Evaluation made = test::run(maker.study);
    // Rings are alike two by two but the waist: 5 of nine; and four sorts between rings.
    EXPECT_EQ(made.outcome("family")->remarks.front().text, "9 families, the largest of 40.");
    const auto frame = std::get<BarFrame>(value_of(made, "family"));
    EXPECT_EQ(frame.fields().back().name, "family");
    // Nodes: each ring as its mirror image below the waist.
    maker.add("field.node_families", "joint");
    maker.set("joint", "frame", ResultName{"frame"}).number("joint", "tolerance", "0.0001°");
    EXPECT_EQ(test::run(maker.study).outcome("joint")->remarks.front().text,
              "5 families, the largest of 40.");
    // Panels: four trapezoids, each with its mirror image, which is itself turned over.
    maker.add("mesh.of_frame", "panels");
    maker.set("panels", "frame", ResultName{"frame"});
    maker.add("mesh.families", "sort");
    maker.set("sort", "mesh", ResultName{"panels"}).number("sort", "tolerance", "0.001 mm");
    EXPECT_EQ(test::run(maker.study).outcome("sort")->remarks.front().text, "4 families, the largest of 40.");
    maker.number("family", "tolerance", "100 m");
    EXPECT_EQ(test::run(maker.study).outcome("family")->remarks.front().text,
              "2 families, the largest of 180.");
    maker.word("family", "apart", "together");
    EXPECT_EQ(test::run(maker.study).outcome("family")->remarks.size(), 2U);
    maker.number("family", "tolerance", "0 m");
    EXPECT_NE(test::run(maker.study).outcome("family")->remarks.back().text.find("rounding tells apart"),
              std::string::npos);
}

TEST(FamilySteps, CountsAtOtherTolerancesFallAndHoldThePresentOne) {
    StudyMaker maker = hyperboloid();
    maker.add("frame.families", "family");
    maker.set("family", "frame", ResultName{"frame"}).number("family", "tolerance", "3 mm");
    const Evaluation made = test::run(maker.study);
    const Outcome& outcome = *made.outcome("family");
    const auto counts = context_of<FamilyCounts>(*standard_catalogue().find("frame.families"), "tolerance",
                                                 *outcome.inputs, plume::Run());
    ASSERT_TRUE(counts && *counts);
    EXPECT_TRUE(std::ranges::is_sorted((*counts)->tolerances));
    EXPECT_TRUE(std::ranges::is_sorted((*counts)->counts, std::greater()));
    const auto present = std::ranges::find((*counts)->tolerances, 0.003);
    ASSERT_NE(present, (*counts)->tolerances.end());
    const std::size_t count =
        (*counts)->counts[static_cast<std::size_t>(present - (*counts)->tolerances.begin())];
    EXPECT_TRUE(outcome.remarks.front().text.starts_with(std::to_string(count) + " famil"));
    EXPECT_EQ((*counts)->counts.back(), 1U);
}

TEST(FamilySteps, OfAGeodesic) {
    // An icosahedron whose edges are halved (by symmetry Loop's rule moves places along their rays alone) and
    // brought onto the ball: edges of two lengths, faces of two
    // shapes, nodes of two sorts.
    StudyMaker maker;
    test::add_icosahedron(maker, "corners");
    maker.add("frame.neighbours", "ico");
    maker.set("ico", "points", ResultName{"corners"})
        .word("ico", "rule", "within")
        .number("ico", "distance", "2.1 m");
    maker.add("mesh.of_frame", "faces");
    maker.set("faces", "frame", ResultName{"ico"});
    maker.add("mesh.subdivide", "finer");
    maker.set("finer", "mesh", ResultName{"faces"})
        .word("finer", "scheme", "loop")
        .number("finer", "levels", "1");
    maker.add("points.of_mesh", "vertices");
    maker.set("vertices", "mesh", ResultName{"finer"}).word("vertices", "what", "vertices");
    maker.add("points.move_formula", "ball");
    maker.set("ball", "points", ResultName{"vertices"});
    maker.formula("ball",
                  "r = sqrt(x^2 + y^2 + z^2)\nto_x = x * 2 m / r\nto_y = y * 2 m / r\nto_z = z * 2 m / r");
    maker.add("frame.neighbours", "dome");
    maker.set("dome", "points", ResultName{"ball"})
        .word("dome", "rule", "within")
        .number("dome", "distance", "1.3 m");
    maker.add("frame.families", "family");
    maker.set("family", "frame", ResultName{"dome"}).number("family", "tolerance", "0.1 mm");
    const Evaluation made = test::run(maker.study);
    ASSERT_TRUE(made.outcome("family")->value) << sentence(*made.outcome("family")->error);
    EXPECT_EQ(std::get<BarFrame>(value_of(made, "dome")).member_count(), 120U);
    EXPECT_EQ(made.outcome("family")->remarks.front().text, "2 families, the largest of 60.");
    maker.add("field.node_families", "joint");
    maker.set("joint", "frame", ResultName{"dome"}).number("joint", "tolerance", "0.1°");
    EXPECT_EQ(test::run(maker.study).outcome("joint")->remarks.front().text,
              "2 families, the largest of 30.");
    maker.add("mesh.of_frame", "panels");
    maker.set("panels", "frame", ResultName{"dome"});
    maker.add("mesh.families", "sort");
    maker.set("sort", "mesh", ResultName{"panels"}).number("sort", "tolerance", "0.1 mm");
    EXPECT_EQ(test::run(maker.study).outcome("sort")->remarks.front().text, "2 families, the largest of 60.");
}

}  // namespace
}  // namespace plume

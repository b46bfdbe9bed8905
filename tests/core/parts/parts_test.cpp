// Posts, tubes and copies stay single things in their mesh.

#include <sstream>

#include "core/exchange/export_jobs.hpp"
#include "core/geometry/moves/affine.hpp"
#include "core/geometry/moves/copies.hpp"
#include "core/geometry/parts/mesh_parts.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

using test::StudyMaker;
using test::value_of;

// Four box posts of 1 m by 1 m, 2 m to 5 m high, 4 m apart.
StudyMaker four_posts() {
    StudyMaker maker;
    maker.add("points.typed", "feet");
    maker.set("feet", "rows", Lines{"0, 0, 0\n4, 0, 0\n8, 0, 0\n12, 0, 0"});
    maker.add("mesh.posts", "posts");
    maker.word("posts", "footprint", "box")
        .formula("posts", "width = 1 m\ndepth = 1 m\nheight = 2 m + i * 1 m");
    return maker;
}
Mesh mesh_of(const StudyMaker& maker, const std::string& name) {
    return std::get<Mesh>(value_of(test::run(maker.study), name));
}

TEST(MeshParts, EveryPostIsOne) {
    const Mesh posts = mesh_of(four_posts(), "posts");
    ASSERT_EQ(posts.part_count(), 4U);
    for (std::size_t part = 0; part < 4; ++part) {
        EXPECT_EQ(posts.part(part).end - posts.part(part).begin, 6U);
        for (std::size_t face = posts.part(part).begin; face < posts.part(part).end; ++face) {
            EXPECT_EQ(posts.part_of(face), part);
            for (const std::uint32_t corner : posts.face(face))
                EXPECT_NEAR(posts.vertex(corner).x, 4.0 * static_cast<double>(part), 0.5 + 1e-12);
        }
    }
    EXPECT_NEAR(part_place(posts, 2).x, 8, 1e-12);
    EXPECT_NEAR(part_place(posts, 3).z, 2.5, 1e-12);
}

TEST(MeshParts, KeptAndLeftOutByNumber) {
    const struct {
        const char *side, *parts;
        double volume;
        std::size_t count;
        const char* first;
    } cases[] = {{"at", "0", 2, 1, "0"},    {"at", "1 3", 8, 2, "1"},     {"at", "-1", 5, 1, "3"},
                 {"at", "1..2", 7, 2, "1"}, {"without", "0", 12, 3, "1"}, {"without", "0..2", 5, 1, "3"},
                 {"at", "*", 14, 4, "0"},   {"at", "0 17", 2, 1, "0"}};
    for (const auto& c : cases) {
        StudyMaker maker = four_posts();
        maker.add("mesh.parts", "taken");
        maker.word("taken", "side", c.side).set("taken", "parts", Lines{c.parts});
        const Mesh taken = mesh_of(maker, "taken");
        EXPECT_NEAR(test::volume(taken), c.volume, 1e-12) << c.side << ' ' << c.parts;
        EXPECT_EQ(taken.part_count(), c.count) << c.parts;
        EXPECT_EQ(test::open_edges(taken), 0U);
        EXPECT_EQ(taken.fields().size(), 1U) << "fields come along";
        EXPECT_EQ(taken.part_mark(0), c.first) << "and what parts are called";
    }
    StudyMaker maker = four_posts();
    maker.add("mesh.parts", "taken");
    maker.set("taken", "parts", Lines{"0 17"});
    const auto remarks = test::run(maker.study).outcome("taken")->remarks;
    ASSERT_EQ(remarks.size(), 1U);
    EXPECT_TRUE(remarks[0].loss);
    EXPECT_NE(remarks[0].text.find("‘17’"), std::string::npos) << remarks[0].text;
    maker.set("taken", "parts", Lines{"*"}).word("taken", "side", "without");
    EXPECT_EQ(test::error_of(test::run(maker.study), "taken").code, ErrorCode::empty_input);
}

TEST(MeshParts, StayWhenThingsAreMovedMirroredJoinedCopiedAndFlattened) {
    StudyMaker maker = four_posts();
    maker.add("thing.mirror", "twin");
    maker.set("twin", "thing", ResultName{"posts"});
    maker.add("thing.join", "both");
    maker.set("both", "first", ResultName{"posts"}).set("both", "second", ResultName{"twin"});
    maker.add("thing.repeat", "many");
    maker.set("many", "thing", ResultName{"both"}).number("many", "count", "3");
    maker.add("mesh.flatten", "flat");
    maker.set("flat", "panels", ResultName{"both"});
    const Evaluation evaluation = test::run(maker.study);
    const auto parts = [&](const char* name) {
        return std::get<Mesh>(value_of(evaluation, name)).part_count();
    };
    EXPECT_EQ(parts("twin"), 8U) << "the posts and their images";
    EXPECT_EQ(parts("both"), 12U);
    EXPECT_EQ(parts("many"), 36U);
    EXPECT_EQ(parts("flat"), 12U);
    const Mesh both = std::get<Mesh>(value_of(evaluation, "both"));
    std::vector<std::uint8_t> mask(12, 0);
    mask[10] = 1;
    EXPECT_NEAR(test::volume(with_parts(both, mask)), 4, 1e-12) << "the image of the third post";
}

TEST(MeshParts, EveryTubeIsOneAndWeldingKeepsThemInOrder) {
    StudyMaker maker;
    maker.add("lattice.rectangular", "ground");
    maker.number("ground", "columns", "3").number("ground", "rows", "2");
    maker.add("curve.join", "rows");
    maker.word("rows", "route", "rows");
    maker.add("mesh.tube", "rails");
    const Mesh rails = mesh_of(maker, "rails");
    EXPECT_EQ(rails.part_count(), 3U);
    // Corners 3 cm apart across a tube of 40 mm are taken together by 20 m: everything; by 1 mm: nothing.
    EXPECT_EQ(welded(rails, 1e-3).part_count(), 3U);
    EXPECT_EQ(welded(rails, 1e-3).face_count(), rails.face_count());
    const Mesh one = welded(rails, 100);
    EXPECT_EQ(one.face_count(), 0U);
    EXPECT_EQ(one.part_count(), 1U);
}

TEST(MeshParts, ObjHasAGroupForEach) {
    const Value value(mesh_of(four_posts(), "posts"));
    const std::string text = test::bytes_of(write_obj, test::job_of(value, "the posts"));
    std::istringstream stream(text);
    std::string line, groups;
    std::size_t faces = 0;
    while (std::getline(stream, line)) {
        if (line.starts_with("g ")) groups += line + " after " + std::to_string(faces) + ", ";
        faces += line.starts_with("f ") ? 1 : 0;
    }
    EXPECT_EQ(
        groups,
        "g the_posts_0 after 0, g the_posts_1 after 6, g the_posts_2 after 12, g the_posts_3 after 18, ");
}

TEST(MeshParts, StartsThatDoNotFollowAreRefused) {
    const Mesh posts = mesh_of(four_posts(), "posts");
    for (const std::vector<std::uint32_t>& starts :
         {std::vector<std::uint32_t>{1}, {0, 0}, {0, 6, 5}, {0, 24}, {0, 6, 30}}) {
        Mesh::Parts parts{posts.x(), posts.y(), posts.z(), {0}, {}, {}, starts};
        for (std::size_t face = 0; face < posts.face_count(); ++face) {
            const auto corners = posts.face(face);
            parts.corners.insert(parts.corners.end(), corners.begin(), corners.end());
            parts.first.push_back(static_cast<std::uint32_t>(parts.corners.size()));
        }
        EXPECT_EQ(Mesh::make(std::move(parts)).error().code, ErrorCode::broken_invariant);
    }
}

}  // namespace
}  // namespace plume

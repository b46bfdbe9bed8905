// Faces cut by rules: areas and counts in closed form, watertight whatever is done to them.

#include "core/growth/face_growth.hpp"

#include <tbb/global_control.h>

#include <cmath>
#include <map>
#include <numeric>
#include <set>

#include "core/base/numbers.hpp"
#include "core/growth/grown_faces.hpp"
#include "core/support.hpp"
#include "core/views/seen_forms.hpp"

namespace plume::test {
namespace {

Mesh polygon(const std::vector<Vec3>& corners) {
    std::vector<std::uint32_t> face(corners.size());
    std::iota(face.begin(), face.end(), 0U);
    return mesh_of_faces(corners, {face});
}

Mesh rectangle(double width, double height) {
    return polygon({{0, 0, 0}, {width, 0, 0}, {width, height, 0}, {0, height, 0}});
}

// A regular polygon of this radius.
Mesh regular(int corners, double radius) {
    std::vector<Vec3> places;
    for (int corner = 0; corner < corners; ++corner) {
        const double angle = 2 * std::acos(-1.0) * corner / corners;
        places.push_back({radius * std::cos(angle), radius * std::sin(angle), 0});
    }
    return polygon(places);
}

struct Growing {
    std::size_t generations = 1;
    FaceLimits limits = {};
    Surroundings around = {};
    RulesSetting setting = {};
    FaceParts parts = FaceParts::each;
};

struct Cut {
    GrownFaces grown;
    Mesh mesh;
};

Cut cut(const Mesh& mesh, const std::string& text, Growing growing = {}) {
    growing.setting.language = RulesLanguage::faces;
    growing.limits.generations = growing.generations;
    auto rules = check_rules(text, growing.setting);
    EXPECT_TRUE(rules) << sentence(rules.error());
    const auto kept = std::make_shared<const GrowthRules>(*std::move(rules));
    FaceStart start = start_on(mesh, 1);
    auto grown = grow_faces(*kept, start, growing.limits, growing.around, plume::Run());
    EXPECT_TRUE(grown) << sentence(grown.error());
    GrownFaces copy = *grown;
    auto made =
        grown_faces(*std::move(grown), kept, start, growing.around, Units{}, growing.parts, plume::Run());
    EXPECT_TRUE(made) << sentence(made.error());
    return {std::move(copy), *std::move(made)};
}

std::map<std::string, std::size_t> counts_of_names(const Cut& cut, const std::vector<std::string>& names) {
    std::map<std::string, std::size_t> counts;
    for (const std::uint16_t name : cut.grown.faces.names)
        ++counts[names.at(name)];
    return counts;
}

TEST(FaceGrowth, SplitFacesKeepTheirAreaAndCountInClosedForm) {
    struct Case {
        Mesh mesh;
        std::string act;
        std::size_t pieces, vertices;
    };
    const std::vector<Case> cases{{rectangle(6, 2), "split 3 along, 2 across", 6, 12},
                                  {rectangle(6, 2), "split 5 along", 5, 12},
                                  {rectangle(6, 2), "split 7 across", 7, 16},
                                  {rectangle(6, 2), "split 4", 16, 25},
                                  {rectangle(6, 2), "split 1", 1, 4},
                                  {rectangle(6, 2), "cut 0.25 along", 2, 6},
                                  {rectangle(6, 2), "cut 0.5 m across", 2, 6},
                                  {rectangle(6, 2), "inset 0.3", 5, 8},
                                  {rectangle(6, 2), "inset 0.4 m", 5, 8},
                                  {rectangle(6, 2), "raised 0 m, tapered 0", 4, 5},
                                  {rectangle(6, 2), "raised 0 m, tapered 0.4", 5, 8},
                                  {regular(3, 2), "split 1", 1, 3},
                                  {regular(3, 2), "split 5", 25, 21},
                                  {regular(3, 2), "inset 0.2 m", 4, 6},
                                  {regular(7, 2), "split 2", 7, 15},
                                  {regular(7, 2), "inset 0.3 m", 8, 14}};
    for (const Case& each : cases) {
        const Cut made = cut(each.mesh, "tile becomes\n" + each.act + "\npiece");
        EXPECT_EQ(made.mesh.face_count(), each.pieces) << each.act;
        EXPECT_EQ(made.mesh.vertex_count(), each.vertices) << each.act;
        EXPECT_NEAR(area(made.mesh), area(each.mesh), 1e-12) << each.act;
        // No piece is turned over.
        for (std::size_t face = 0; face < made.mesh.face_count(); ++face)
            EXPECT_GT(area_vector(made.mesh, face).z, 0) << each.act << " " << face;
    }
}

TEST(FaceGrowth, InsetAndRaisedFacesMeasureAsTheyShould) {
    const Cut inset = cut(rectangle(6, 2), "tile becomes\ninset 0.4 m\npane, inside\nframe, around");
    EXPECT_NEAR(length(area_vector(inset.mesh, 4)), 5.2 * 1.2, 1e-12);
    // A frustum over a closed box: the box and h / 3 (a + b + sqrt(a b)).
    const Mesh box = cube({0, 0, 0}, 2);
    const double raised = volume(cut(box, "tile becomes\nraised 0.5 m, tapered 0.5\nside").mesh);
    EXPECT_NEAR(raised, 8 + 6 * 0.5 / 3 * (4 + 1 + 2), 1e-12);
    // Pyramids, outwards and inwards.
    EXPECT_NEAR(volume(cut(box, "tile becomes\nraised 0.3 m, tapered 0\nside").mesh), 8 + 6 * 0.3 * 4 / 3,
                1e-12);
    EXPECT_NEAR(volume(cut(box, "tile becomes\nraised -0.3 m, tapered 0\nside").mesh), 8 - 6 * 0.3 * 4 / 3,
                1e-12);
}

TEST(FaceGrowth, WhatWasWatertightStaysSoWhateverIsDoneToItsFaces) {
    const std::string wild =
        "tile becomes, chance 0.3\n"
        "split 3 along, 2 across\ntile\n"
        "or, chance 0.2\n"
        "cut 0.2 + 0.6 * random(3) along\ntile\n"
        "or, chance 0.2\n"
        "inset 0.1 + 0.5 * random(4)\ntile\n"
        "or, chance 0.2\n"
        "raised 0.05 m * random(5), tapered 0.8\ntile\n"
        "otherwise\nraised 0.03 m, tapered 0\ntile";
    const Mesh box = cube({0, 0, 0}, 2);
    const Cut made = cut(box, wild, {.generations = 6});
    EXPECT_GT(made.mesh.face_count(), 2000U);
    EXPECT_EQ(open_edges(made.mesh), 0U);
    EXPECT_GT(volume(made.mesh), 8);
    // Only cut, so that all stays where it was.
    const std::string cuts =
        "tile becomes, where random(1) < 0.5\n"
        "split 1 + 3 * random(2) along, 1 + 2 * random(5) across\ntile\n"
        "otherwise\ncut 1 / 3 across\ntile";
    const Cut flat = cut(box, cuts, {.generations = 6});
    EXPECT_GT(flat.mesh.face_count(), 1000U);
    EXPECT_EQ(open_edges(flat.mesh), 0U);
    EXPECT_NEAR(volume(flat.mesh), 8, 1e-9);
    EXPECT_NEAR(area(flat.mesh), 24, 1e-9);
}

// Halves of thirds and thirds of halves are the same places, although their shares differ in the last digit.
TEST(FaceGrowth, SidesThatAreCutInAnotherOrderMeetInTheSameVertices) {
    const Mesh two = mesh_of_faces({{0, 0, 0}, {1, 0, 0}, {2, 0, 0}, {0, 1, 0}, {1, 1, 0}, {2, 1, 0}},
                                   {{0, 1, 4, 3}, {1, 2, 5, 4}});
    const Cut made = cut(two,
                         "tile becomes, where number == 0\nsplit 2 across\nhalf\n"
                         "otherwise\nsplit 3 across\nthird\n"
                         "half becomes\nsplit 3 across\nlast\n"
                         "third becomes\nsplit 2 across\nlast",
                         {.generations = 2});
    EXPECT_EQ(made.mesh.face_count(), 12U);
    EXPECT_EQ(made.mesh.vertex_count(), 21U);
    EXPECT_EQ(made.mesh.corner_count(), 48U);
}

TEST(FaceGrowth, NeighboursGetTheCornersOfFinerFaces) {
    const Cut made =
        cut(cube({0, 0, 0}, 2), "tile becomes, where number == 0\nsplit 4 along, 4 across\nfine");
    EXPECT_EQ(made.mesh.face_count(), 16U + 5U);
    EXPECT_EQ(open_edges(made.mesh), 0U);
    std::size_t largest = 0;
    for (std::size_t face = 0; face < made.mesh.face_count(); ++face)
        largest = std::max(largest, made.mesh.face(face).size());
    EXPECT_EQ(largest, 4U + 3U);
}

TEST(FaceGrowth, PiecesBecomeWhatTheFirstLineSaysThatFits) {
    const std::string text =
        "wall becomes\nsplit 4 along, 3 across\n"
        "door, where i == 1 and j == 0\n"
        "nothing, where j == 2\n"
        "window, where mod(i, 2) == 0\n"
        "door becomes\ninset 0.1\nframe, around\nleaf, inside";
    RulesSetting setting;
    setting.language = RulesLanguage::faces;
    const auto rules = check_rules(text, setting);
    ASSERT_TRUE(rules) << sentence(rules.error());
    const Cut made = cut(rectangle(4, 3), text, {.generations = 5});
    const auto counts = counts_of_names(made, rules->parts);
    EXPECT_EQ(counts, (std::map<std::string, std::size_t>{
                          {"window", 4U}, {"frame", 4U}, {"leaf", 1U}, {"rest", 3U}}));
    EXPECT_NEAR(area(made.mesh), 8, 1e-12);
    EXPECT_EQ(made.grown.end, GrowthEnd::finished);
}

TEST(FaceGrowth, NumbersOfPiecesAreWhatTheyMeasure) {
    // Each piece tells its area, width, height, number of corners and place.
    const Cut made =
        cut(rectangle(6, 2),
            "field a = area\nfield w = width\nfield h = height\nfield c = corners\nfield at = x\n"
            "tile becomes\nsplit 3 along, 2 across\npiece");
    const auto field = [&](const std::string& name) {
        return std::ranges::find(made.mesh.face_fields(), name, &Field::name)->values;
    };
    for (std::size_t face = 0; face < 6; ++face) {
        EXPECT_NEAR(field("a")[face], 2, 1e-12);
        EXPECT_NEAR(field("w")[face], 2, 1e-12);
        EXPECT_NEAR(field("h")[face], 1, 1e-12);
        EXPECT_EQ(field("c")[face], 4);
        EXPECT_NEAR(field("at")[face], 1 + 2.0 * static_cast<double>(face % 3), 1e-12);
        EXPECT_EQ(field("number")[face], static_cast<double>(face));
        EXPECT_EQ(field("depth")[face], 1);
    }
}

TEST(FaceGrowth, ValuesAreHandedDownFromFaceToFace) {
    const Cut made =
        cut(rectangle(1, 1), "lift = 1 m\ntile becomes\nsplit 2 along\ntile, with lift = lift / 2",
            {.generations = 4});
    const auto lift = std::ranges::find(made.mesh.face_fields(), "lift", &Field::name);
    ASSERT_NE(lift, made.mesh.face_fields().end());
    for (const double value : lift->values.span())
        EXPECT_EQ(value, 1.0 / 16);
}

TEST(FaceGrowth, FacesStayThatAreTooSmallOutsideOrWithinReach) {
    const std::string text = "tile becomes\nsplit 2\ntile";
    // 16 by 16 faces of 1/16 each would be 0.0039 large; below 0.01 nothing is cut.
    Growing small{.generations = 9};
    small.limits.least_area = 0.01;
    EXPECT_EQ(cut(rectangle(1, 1), text, small).mesh.face_count(), 256U);
    Growing outside{.generations = 2};
    outside.around.contains = [](Vec3 place) { return place.x < 0.5; };
    EXPECT_EQ(cut(rectangle(1, 1), "tile becomes\nsplit 2\ntile", outside).mesh.face_count(), 1U);
    Growing near{.generations = 3};
    near.limits.reach = 0.1;
    near.around.attractors =
        std::make_shared<const AttractorSearch>(*Attractors::make({{"a", {0.25, 0.25, 0}, 1}}));
    // The face around the attractor stays in the second generation, the others go on.
    EXPECT_EQ(cut(rectangle(1, 1), text, near).mesh.face_count(), 3U * 16U + 1U);
}

TEST(FaceGrowth, EndsBeforeThereAreTooManyWithWhatThereIs) {
    Growing growing{.generations = 40};
    growing.limits.most = 1000;
    const Cut made = cut(rectangle(1, 1), "tile becomes\nsplit 2\ntile", growing);
    EXPECT_EQ(made.mesh.face_count(), 256U);
    EXPECT_EQ(made.grown.end, GrowthEnd::most);
    EXPECT_EQ(made.grown.tree.next, 1024U);
    const Cut huge = cut(rectangle(1, 1), "tile becomes\nsplit 1e9\ntile", growing);
    EXPECT_EQ(huge.mesh.face_count(), 1U);
    EXPECT_EQ(huge.grown.tree.next, 1'000'000'000'000'000'000U);
}

TEST(FaceGrowth, WhatCannotBeDoneIsCountedAndLeft) {
    const auto refused = [](const Mesh& mesh, const std::string& act) {
        const Cut made = cut(mesh, "tile becomes\n" + act + "\npiece");
        EXPECT_EQ(made.mesh.face_count(), 1U) << act;
        for (std::size_t why = 0; why < made.grown.refused.size(); ++why)
            if (made.grown.refused[why] > 0) return static_cast<FaceRefusal>(why);
        ADD_FAILURE() << act;
        return FaceRefusal::flat;
    };
    const Mesh square = rectangle(1, 1);
    EXPECT_EQ(refused(square, "split 0.2"), FaceRefusal::no_number);
    EXPECT_EQ(refused(square, "split 0 / depth"), FaceRefusal::no_number);
    EXPECT_EQ(refused(square, "raised 1 m / depth"), FaceRefusal::no_number);
    EXPECT_EQ(refused(square, "raised 1 m, tapered -1"), FaceRefusal::no_number);
    EXPECT_EQ(refused(regular(3, 1), "cut 0.5 along"), FaceRefusal::corners);
    EXPECT_EQ(refused(square, "cut 1 along"), FaceRefusal::outside);
    EXPECT_EQ(refused(square, "cut 3 m along"), FaceRefusal::outside);
    EXPECT_EQ(refused(square, "inset 0.5 m"), FaceRefusal::too_narrow);
    EXPECT_EQ(refused(square, "inset 0"), FaceRefusal::too_narrow);
    EXPECT_EQ(refused(square, "inset 1"), FaceRefusal::too_narrow);
    EXPECT_EQ(refused(square, "raised 0 m"), FaceRefusal::flat);
    EXPECT_EQ(refused(polygon({{0, 0, 0}, {1, 0, 0}, {2, 0, 0}}), "split 2"), FaceRefusal::flat);
}

TEST(FaceGrowth, APieceKeepsItsChanceWhateverBecomesOfOthers) {
    const auto kept = [](const std::string& more) {
        const Cut made = cut(
            rectangle(1, 1),
            "field drawn = random(7)\ntile becomes\nsplit 2\n" + more + "tile\nfine becomes\nsplit 3\nlast",
            {.generations = 3});
        std::set<double> drawn;
        const auto field = std::ranges::find(made.mesh.face_fields(), "drawn", &Field::name);
        for (std::size_t face = 0; face < made.mesh.face_count(); ++face)
            drawn.insert(field->values[face]);
        return drawn;
    };
    const std::set<double> all = kept(""), some = kept("fine, where number == 0\n");
    std::vector<double> both;
    std::ranges::set_intersection(all, some, std::back_inserter(both));
    // Of 64 faces those 27 that come of no first piece, 9 that are first themselves, and of 3 that were cut
    // into nine the four pieces of the same numbers.
    EXPECT_EQ(both.size(), 48U);
}

TEST(FaceGrowth, SharesOfChancesAreHeld) {
    const Cut made = cut(rectangle(1, 1), "tile becomes\nsplit 100\nred, chance 0.25\nblue, chance 0.5\n");
    std::map<std::uint16_t, double> counts;
    for (const std::uint16_t name : made.grown.faces.names)
        ++counts[name];
    EXPECT_NEAR(counts[1], 2500, 200);
    EXPECT_NEAR(counts[2], 3750, 220);
}

TEST(FaceGrowth, TheSameOnAnyNumberOfThreads) {
    const std::string text =
        "tile becomes, where random(2) < 0.7\nsplit 2 along, 3 across\ntile, chance 0.9\npane\n"
        "otherwise\nraised 0.1 m, tapered 0.5\npane";
    const auto made = [&text](std::size_t threads) {
        const tbb::global_control control(tbb::global_control::max_allowed_parallelism, threads);
        return cut(cube({0, 0, 0}, 2), text, {.generations = 5}).mesh;
    };
    const Mesh one = made(1), many = made(4);
    EXPECT_EQ(one.parts().corners, many.parts().corners);
    EXPECT_TRUE(std::ranges::equal(one.x().span(), many.x().span()));
    EXPECT_TRUE(std::ranges::equal(one.z().span(), many.z().span()));
}

TEST(FaceGrowth, NumbersOfVerticesAndFacesGoAlong) {
    Mesh::Parts parts = rectangle(4, 2).parts();
    Doubles warm{0, 4, 6, 2};  // x + y
    parts.fields.push_back({"warm", std::move(warm), plain_number});
    Doubles mark{7};
    parts.face_fields.push_back({"mark", std::move(mark), plain_number});
    const Cut made = cut(*Mesh::make(std::move(parts)),
                         "tile becomes\nsplit 2 along, 2 across\ntile, where number < 2\npane\n"
                         "pane becomes\ninset 0.4\nrim",
                         {.generations = 3});
    const Field& numbers = made.mesh.fields().front();
    for (std::size_t vertex = 0; vertex < made.mesh.vertex_count(); ++vertex)
        EXPECT_NEAR(numbers.values[vertex], made.mesh.x()[vertex] + made.mesh.y()[vertex], 1e-12);
    const auto marks = std::ranges::find(made.mesh.face_fields(), "mark", &Field::name);
    ASSERT_NE(marks, made.mesh.face_fields().end());
    EXPECT_EQ(marks->values[0], 7);
}

TEST(FaceGrowth, AFaceTellsWhatItCameOf) {
    const Cut made =
        cut(cube({0, 0, 0}, 2),
            "lift = 1 m\ntile becomes\nsplit 2 along\ntile, chance 0.8, with lift = lift / 2\npane",
            {.generations = 3});
    const PartMarks& marks = *made.mesh.part_marks();
    std::set<std::string> names;
    for (std::size_t face = 0; face < made.mesh.face_count(); ++face) {
        EXPECT_TRUE(names.insert(marks.mark(face)).second);
        const std::vector<std::string> why = marks.why(face);
        const auto depth = std::ranges::find(made.mesh.face_fields(), "depth", &Field::name)->values[face];
        ASSERT_EQ(why.size(), static_cast<std::size_t>(depth) + 1) << marks.mark(face);
        // Its name, and its area and value as the mesh has them.
        const std::string name = name_in_mark(marks.mark(face));
        EXPECT_NE(why.back().find(": " + name + ","), std::string::npos) << why.back();
        const auto lift = std::ranges::find(made.mesh.face_fields(), "lift", &Field::name)->values[face];
        EXPECT_NE(why.back().find("lift " + quantity_text({lift, a_length}, Units{})), std::string::npos)
            << why.back();
        EXPECT_NE(why.back().find(quantity_text({length(area_vector(made.mesh, face)), {2, 0}}, Units{})),
                  std::string::npos)
            << why.back();
    }
}

TEST(FaceGrowth, FacesOfOneNameAreOnePartWhereThatIsAskedFor) {
    const Cut made = cut(rectangle(1, 1), "tile becomes\nsplit 3\nred, where mod(number, 2) == 0\nblue",
                         {.generations = 1, .parts = FaceParts::by_name});
    ASSERT_EQ(made.mesh.part_count(), 2U);
    EXPECT_EQ(made.mesh.part_mark(0), "red");
    EXPECT_EQ(made.mesh.part_mark(1), "blue");
    EXPECT_EQ(made.mesh.part(0).end, 5U);
}

}  // namespace
}  // namespace plume::test

// Things pulled onto meshes and bodies, and meshes and placements onto surfaces.

#include "core/geometry/curves/curve_sampling.hpp"
#include "core/geometry/curves/mapped_curve.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

using test::StudyMaker;
using test::value_of;

// A gabled roof of facets, 4 m by 4 m about the origin, its ridge along Y 1 m high.
StudyMaker gable() {
    StudyMaker maker;
    maker.add("lattice.rectangular", "grid");
    maker.number("grid", "columns", "4").number("grid", "rows", "4");
    maker.number("grid", "width", "4 m").number("grid", "depth", "4 m");
    maker.add("points.move_formula", "raised");
    maker.set("raised", "points", ResultName{"grid"}).formula("raised", "to_z = 1 m - abs(x) / 2");
    maker.add("skin", "roof");
    maker.set("roof", "points", ResultName{"raised"}).word("roof", "surface", "flat");
    return maker;
}

TEST(PullOntoFaces, ALineAcrossAGableHasOneCornerOnItsRidge) {
    StudyMaker maker = gable();
    maker.add("curve.arc", "line");
    maker.word("line", "shape", "line");
    maker.set("line", "ends",
              Places{{"a", "-1.7 m", "-1.3 m", "5 m", "1"}, {"b", "1.1 m", "0.9 m", "3 m", "1"}});
    maker.add("thing.pull", "laid");
    maker.set("laid", "thing", ResultName{"line"}).set("laid", "target", ResultName{"roof"});
    maker.word("laid", "way", "along");
    const Evaluation made = test::run(maker.study);
    const SplineCurve curve = std::get<CurveSet>(value_of(made, "laid")).curves.front();
    EXPECT_EQ(curve.basis().degree, 1);
    ASSERT_EQ(curve.x().size(), 3U) << "the facets of one slope lie in one plane";
    EXPECT_NEAR(curve.x()[1], 0, 1e-4);
    EXPECT_NEAR(curve.z()[1], 1, 1e-4);
    // The ends lie below where they began, at the height of the roof there.
    EXPECT_NEAR(curve.x()[0], -1.7, 1e-12);
    EXPECT_NEAR(curve.z()[0], 1 - 1.7 / 2, 1e-12);
    EXPECT_NEAR(curve.y()[2], 0.9, 1e-12);
    EXPECT_NEAR(curve.z()[2], 1 - 1.1 / 2, 1e-12);
    EXPECT_TRUE(made.outcome("laid")->remarks.empty());
}

TEST(PullOntoFaces, PointsGoToTheNearestFaceOfABody) {
    StudyMaker maker;
    maker.add("outline.shape", "plan");
    maker.word("plan", "shape", "rectangle").number("plan", "width", "2 m").number("plan", "depth", "2 m");
    maker.add("body.extrude", "block");
    maker.set("block", "curve", ResultName{"plan"}).number("block", "by", "2 m");
    maker.add("points.typed", "strewn");
    maker.set("strewn", "rows", Lines{"0.2 0.1 5\n4 0.5 1.25\n3 3 3\n0 0.9 1"});
    maker.add("thing.pull", "laid");
    maker.set("laid", "thing", ResultName{"strewn"}).set("laid", "target", ResultName{"block"});
    const Evaluation made = test::run(maker.study);
    ASSERT_TRUE(made.outcome("laid")->value) << sentence(*made.outcome("laid")->error);
    const auto lattice = std::get<PointLattice>(value_of(made, "laid"));
    const std::vector<Vec3> wanted{{0.2, 0.1, 2}, {1, 0.5, 1.25}, {1, 1, 2}, {0, 1, 1}};
    const std::vector<double> far{3, 3, 3, 0.1};  // at the corner by 2, 2 and 1
    for (std::size_t at = 0; at < 4; ++at) {
        EXPECT_LT(length(lattice.point(at) - wanted[at]), 1e-9) << at;
        EXPECT_NEAR(lattice.field("distance")->values[at], far[at], 1e-9);
    }
    EXPECT_EQ(lattice.field("share_u"), nullptr) << "of a body with many faces";
}

TEST(PullOntoFaces, AMeshDrapesOverAMeshAndWhatMissesSaysWhere) {
    StudyMaker maker = gable();
    maker.add("lattice.rectangular", "sheet");
    maker.number("sheet", "columns", "8").number("sheet", "rows", "8");
    maker.number("sheet", "width", "3 m").number("sheet", "depth", "3 m");
    maker.add("skin", "cloth");
    maker.set("cloth", "points", ResultName{"sheet"}).word("cloth", "surface", "flat");
    maker.add("thing.pull", "laid");
    maker.set("laid", "thing", ResultName{"cloth"}).set("laid", "target", ResultName{"roof"});
    maker.word("laid", "way", "along");
    const Mesh mesh = std::get<Mesh>(value_of(test::run(maker.study), "laid"));
    EXPECT_EQ(mesh.face_count(), 64U);
    for (std::size_t vertex = 0; vertex < mesh.vertex_count(); ++vertex)
        EXPECT_NEAR(mesh.vertex(vertex).z, 1 - std::abs(mesh.vertex(vertex).x) / 2, 1e-9);
    maker.number("sheet", "width", "5 m");
    const Error error = test::error_of(test::run(maker.study), "laid");
    EXPECT_NE(sentence(error).find("misses the target at"), std::string::npos) << sentence(error);
}

TEST(PullOntoFaces, PlacementsStandSquareToTheSlope) {
    StudyMaker maker = gable();
    maker.add("placement.frame", "stand");
    maker.set("stand", "place", Places{{"p", "1.2 m", "0.3 m", "4 m", "1"}});
    maker.add("thing.pull", "laid");
    maker.set("laid", "thing", ResultName{"stand"}).set("laid", "target", ResultName{"roof"});
    maker.word("laid", "way", "along");
    const Placement there = std::get<Placements>(value_of(test::run(maker.study), "laid")).placement(0);
    EXPECT_NEAR(there.origin.z, 1 - 0.6, 1e-9);
    EXPECT_LT(length(there.up - unit_or_zero(Vec3{1, 0, 2})), 1e-6);
}

TEST(PullOntoFaces, ANearestPlaceThatJumpsIsSaid) {
    // Between two walls 2 m apart: the nearer one changes halfway.
    StudyMaker maker;
    maker.add("outline.shape", "plan");
    maker.word("plan", "shape", "rectangle").number("plan", "width", "1 m").number("plan", "depth", "6 m");
    maker.add("body.extrude", "wall");
    maker.set("wall", "curve", ResultName{"plan"}).number("wall", "by", "3 m");
    maker.add("thing.repeat", "walls");
    maker.set("walls", "thing", ResultName{"wall"}).number("walls", "count", "2").number("walls", "x", "3 m");
    maker.add("curve.arc", "line");
    maker.word("line", "shape", "line");
    maker.set("line", "ends", Places{{"a", "0.6 m", "-1 m", "1 m", "1"}, {"b", "2.4 m", "1 m", "1 m", "1"}});
    maker.add("thing.pull", "laid");
    maker.set("laid", "thing", ResultName{"line"}).set("laid", "target", ResultName{"walls"});
    const Evaluation made = test::run(maker.study);
    ASSERT_TRUE(made.outcome("laid")->value) << sentence(*made.outcome("laid")->error);
    ASSERT_EQ(made.outcome("laid")->remarks.size(), 1U);
    EXPECT_TRUE(made.outcome("laid")->remarks.front().loss);
    EXPECT_NE(made.outcome("laid")->remarks.front().text.find("jumps by up to 2 m"), std::string::npos)
        << made.outcome("laid")->remarks.front().text;
    const SplineCurve curve = std::get<CurveSet>(value_of(made, "laid")).curves.front();
    ASSERT_EQ(curve.x().size(), 4U);
    EXPECT_NEAR(curve.x()[1], 0.5, 1e-9);
    EXPECT_NEAR(curve.x()[2], 2.5, 1e-9);
    EXPECT_NEAR(curve.y()[1], 0, 1e-9);
    EXPECT_NEAR(curve.y()[2], 0, 1e-9);
}

TEST(MappedLine, KeepsToTheMapWithFewPoints) {
    const std::vector<double> knots{0, 0, 1, 1};
    const SplineCurve line =
        *SplineCurve::make({{1, false, knots, {}}, Doubles{0, 1}, Doubles{0, 0}, Doubles{0, 0}, {}, {}});
    const CurvePlace arc = [&](double t) -> Result<Vec3> {
        return Vec3{std::cos(3 * t), std::sin(3 * t), 0};
    };
    const auto made = mapped_line(line, arc, 1e-4, plume::Run());
    ASSERT_TRUE(made);
    EXPECT_EQ(made->jump, 0);
    // A chord of an arc of angle a stands off by 1 - cos(a / 2): at least this many.
    const double least = 3 / (2 * std::acos(1 - 1e-4));
    EXPECT_GE(static_cast<double>(made->curve.x().size()), least);
    EXPECT_LE(static_cast<double>(made->curve.x().size()), 4 * least);
    for (const double t : {0.1, 0.37, 0.7}) {
        const Vec3 at =
            evaluate(made->curve, std::lerp(made->curve.basis().start(), made->curve.basis().end(), t))
                .position;
        EXPECT_NEAR(length(at), 1, 1e-4);
    }
}

}  // namespace
}  // namespace plume

#include <numbers>

#include "core/geometry/solids/bodies.hpp"
#include "core/results/facts.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

constexpr double pi = std::numbers::pi;
using test::StudyMaker;

const SolidSet& solids(const Evaluation& evaluation, const char* name) {
    return std::get<SolidSet>(*evaluation.outcome(name)->value);
}

StudyMaker circle(double radius, const std::string& plane = "xy") {
    StudyMaker maker;
    maker.add("outline.shape", "rim");
    maker.word("rim", "shape", "circle").word("rim", "plane", plane);
    maker.number("rim", "radius", std::to_string(radius) + " m");
    return maker;
}

TEST(BodySteps, OutlinesOnUprightPlanesGoAlongTheirNormals) {
    StudyMaker maker = circle(2, "xz");
    maker.add("body.extrude", "drum");
    maker.set("drum", "curve", ResultName{"rim"}).number("drum", "by", "3 m");
    for (const char* direction : {"square", "y"}) {
        const Evaluation made = test::run(maker.word("drum", "direction", direction).study);
        ASSERT_TRUE(made.outcome("drum")->value) << direction;
        EXPECT_NEAR(figures_of(solids(made, "drum")).volume, 12 * pi, 1e-9);
    }
    for (const char* direction : {"x", "z"}) {
        const Evaluation made = test::run(maker.word("drum", "direction", direction).study);
        ASSERT_FALSE(made.outcome("drum")->value) << direction;
        EXPECT_EQ(made.outcome("drum")->error->slot, "by");
    }
    StudyMaker facing_x = circle(2, "yz");
    facing_x.add("body.extrude", "drum");
    facing_x.set("drum", "curve", ResultName{"rim"})
        .number("drum", "by", "-3 m")
        .word("drum", "direction", "x");
    EXPECT_NEAR(figures_of(solids(test::run(facing_x.study), "drum")).centroid.x, -1.5, 1e-9);
}

TEST(BodySteps, OpenTubesAreRefusedOrCapped) {
    StudyMaker maker = circle(5);
    maker.add("curve.part", "half");
    maker.set("half", "curve", ResultName{"rim"});
    maker.add("mesh.tube", "pipe");
    maker.set("pipe", "curves", ResultName{"half"})
        .word("pipe", "ends", "open")
        .number("pipe", "radius", "100 mm");
    maker.add("body.close", "bar");
    maker.set("bar", "thing", ResultName{"pipe"});
    const Evaluation refused = test::run(maker.study);
    ASSERT_FALSE(refused.outcome("bar")->value);
    EXPECT_NE(refused.outcome("bar")->error->message.find("32 edges are open"), std::string::npos)
        << refused.outcome("bar")->error->message;
    const Evaluation capped = test::run(maker.word("bar", "ends", "capped").study);
    ASSERT_TRUE(capped.outcome("bar")->value);
    const double open_volume = figures_of(solids(capped, "bar")).volume;
    const Evaluation closed =
        test::run(maker.word("pipe", "ends", "capped").word("bar", "ends", "refused").study);
    ASSERT_TRUE(closed.outcome("bar")->value);
    EXPECT_NEAR(open_volume, figures_of(solids(closed, "bar")).volume, 1e-9);
}

TEST(BodySteps, PostsAreBodiesOneByOne) {
    StudyMaker maker;
    maker.add("lattice.rectangular", "ground");
    maker.number("ground", "columns", "3").number("ground", "rows", "2");
    maker.add("mesh.posts", "posts");
    maker.set("posts", "points", ResultName{"ground"}).word("posts", "footprint", "box");
    maker.set("posts", "formula", FormulaText{"width = 200 mm\ndepth = 300 mm\nheight = 2 m", {}, {}});
    maker.add("body.close", "bodies");
    maker.set("bodies", "thing", ResultName{"posts"});
    const Evaluation made = test::run(maker.study);
    ASSERT_EQ(solids(made, "bodies").bodies.size(), 12U);
    EXPECT_NEAR(figures_of(solids(made, "bodies")).volume, 12 * 0.12, 1e-12);
    EXPECT_EQ(outline_text(*made.outcome("bodies")->value, {}).substr(0, 9), "12 bodies");
}

TEST(BodySteps, SurfacesThatCloseStayExact) {
    StudyMaker maker;
    maker.add("outline.shape", "ring");
    maker.word("ring", "shape", "circle").word("ring", "plane", "xz").number("ring", "radius", "1 m");
    maker.add("thing.move", "out");
    maker.set("out", "thing", ResultName{"ring"}).number("out", "x", "4 m").number("out", "y", "0 m");
    maker.number("out", "z", "0 m");
    maker.add("surface.revolve", "torus");
    maker.set("torus", "curve", ResultName{"out"}).number("torus", "sweep", "360°");
    maker.add("body.close", "body");
    maker.set("body", "thing", ResultName{"torus"});
    const Evaluation made = test::run(maker.study);
    ASSERT_TRUE(made.outcome("body") && made.outcome("body")->value)
        << (made.outcome("body")->error ? made.outcome("body")->error->message : "");
    EXPECT_TRUE(solids(made, "body").bodies.front().exact());
    EXPECT_NEAR(figures_of(solids(made, "body")).volume, 8 * pi * pi, 1e-8);
}

// The field of a thickness by formula, the folds that are told and the figures.
TEST(BodySteps, ThicknessByAFormulaAndWhereItFolds) {
    StudyMaker maker = circle(2);
    maker.add("surface.extrude", "wall");
    maker.set("wall", "curve", ResultName{"rim"}).number("wall", "by", "3 m");
    maker.add("body.thicken", "shell");
    maker.set("shell", "surface", ResultName{"wall"}).word("shell", "side", "front");
    maker.number("shell", "by", "500 mm");
    const double one_side = figures_of(solids(test::run(maker.study), "shell")).volume;
    const double other =
        figures_of(solids(test::run(maker.word("shell", "side", "back").study), "shell")).volume;
    EXPECT_NEAR(std::max(one_side, other), (2.5 * 2.5 - 4) * pi * 3, 1e-8);
    EXPECT_NEAR(std::min(one_side, other), (4 - 1.5 * 1.5) * pi * 3, 1e-8);

    maker.word("shell", "thickness", "formula")
        .set("shell", "formula", FormulaText{"100 mm + 200 mm * z / 3 m", {}, {}});
    const Evaluation uneven = test::run(maker.study);
    ASSERT_TRUE(uneven.outcome("shell")->value) << uneven.outcome("shell")->error->message;
    // Rings of the thickness 0.1 + 0.2 z / 3, inside or outside of the radius 2.
    const double outwards = pi * (2 * 2 * 0.2 * 3 + 3 * (0.01 + 0.02 + 0.04 / 3)),
                 inwards = pi * (2 * 2 * 0.2 * 3 - 3 * (0.01 + 0.02 + 0.04 / 3));
    const double volume = figures_of(solids(uneven, "shell")).volume;
    EXPECT_LT(std::min(std::abs(volume - outwards), std::abs(volume - inwards)), 1e-3);
    maker.set("shell", "formula", FormulaText{"z - 1 m", {}, {}});
    EXPECT_EQ(test::run(maker.study).outcome("shell")->error->slot, "formula");

    maker.word("shell", "thickness", "even").word("shell", "side", "both").number("shell", "by", "5 m");
    const Evaluation folded = test::run(maker.study);
    std::string remarks;
    for (const Remark& remark : folded.outcome("shell")->remarks)
        remarks += remark.text;
    EXPECT_NE(remarks.find("Up to a thickness of 4 m it does not"), std::string::npos) << remarks;
}

TEST(BodySteps, FiguresOfBodies) {
    StudyMaker maker = circle(2);
    maker.add("body.extrude", "drum");
    maker.set("drum", "curve", ResultName{"rim"}).number("drum", "by", "3 m");
    maker.add("number.body", "figure");
    maker.set("figure", "bodies", ResultName{"drum"});
    const auto figure = [&](const char* word) {
        const Evaluation made = test::run(maker.word("figure", "figure", word).study);
        return std::get<Quantity>(*made.outcome("figure")->value);
    };
    EXPECT_NEAR(figure("volume").value, 12 * pi, 1e-9);
    EXPECT_EQ(figure("volume").dimension, (Dimension{3, 0}));
    EXPECT_NEAR(figure("area").value, 8 * pi + 12 * pi, 1e-9);
    EXPECT_NEAR(figure("height").value, 1.5, 1e-10);
    EXPECT_NEAR(figure("mass").value, 12 * pi * 500, 1e-6);
    EXPECT_EQ(figure("count").value, 1);
}

// Where a face has a hole there is no point.
TEST(BodySteps, PointsOnATrimmedFaceLeaveGaps) {
    StudyMaker maker;
    maker.add("outline.shape", "rim");
    maker.word("rim", "shape", "rectangle").number("rim", "width", "4 m").number("rim", "depth", "4 m");
    maker.add("outline.shape", "hole");
    maker.word("hole", "shape", "circle").number("hole", "radius", "0.6 m");
    maker.add("thing.join", "both");
    maker.set("both", "first", ResultName{"rim"}).set("both", "second", ResultName{"hole"});
    maker.add("surface.fill", "face");
    maker.set("face", "curve", ResultName{"both"});
    maker.add("lattice.on_surface", "points");
    maker.set("points", "surface", ResultName{"face"})
        .number("points", "columns", "8")
        .number("points", "rows", "8");
    const Evaluation made = test::run(maker.study);
    const auto& points = std::get<PointLattice>(*made.outcome("points")->value);
    // The middle and its four neighbours at half a metre.
    EXPECT_EQ(points.address_count() - points.point_count(), 5U);
}

TEST(Details, OfSurfacesCurvesBodiesAndMeshes) {
    StudyMaker maker = circle(2);
    maker.add("surface.extrude", "wall");
    maker.set("wall", "curve", ResultName{"rim"}).number("wall", "by", "3 m");
    maker.add("body.thicken", "shell");
    maker.set("shell", "surface", ResultName{"wall"})
        .word("shell", "side", "front")
        .number("shell", "by", "1 m");
    maker.add("lattice.rectangular", "ground");
    maker.number("ground", "columns", "2").number("ground", "rows", "1");
    maker.add("skin", "sheet");
    maker.set("sheet", "points", ResultName{"ground"}).word("sheet", "surface", "flat");
    const Evaluation made = test::run(maker.study);
    const auto details = [&](const char* name) {
        std::string all;
        for (const std::string& line : details_of(*made.outcome(name)->value, {}))
            all += line + "|";
        return all;
    };
    EXPECT_EQ(details("rim"), "12.57 m long|");
    EXPECT_EQ(
        details("wall"),
        "degree 2 along u, closed; 1 along v|rational: its poles have weights|smallest radius about 2 m|");
    EXPECT_EQ(details("shell"), "closed and exact|surface area 125.7 m²|centroid at 0, 0, 1.5 m|");
    EXPECT_EQ(details("sheet"), "6 open edges|");
    EXPECT_EQ(details("ground"), "");
}

StudyMaker stack() {
    StudyMaker maker;
    maker.add("lattice.block", "corners");
    maker.number("corners", "columns", "4").number("corners", "rows", "3").number("corners", "layers", "2");
    maker.number("corners", "width", "4 m")
        .number("corners", "depth", "6 m")
        .number("corners", "height", "3 m");
    return maker;
}

TEST(BodySteps, CellsOfABlockLatticeFillIt) {
    StudyMaker maker = stack();
    maker.add("points.move_formula", "bent");
    maker.set("bent", "points", ResultName{"corners"}).formula("bent", "to_x = x + z / 3\nto_z = z * 2");
    maker.add("body.cells", "cells");
    maker.set("cells", "points", ResultName{"bent"});
    const Evaluation made = test::run(maker.study);
    ASSERT_TRUE(made.outcome("cells")->value) << sentence(*made.outcome("cells")->error);
    const SolidSet& set = solids(made, "cells");
    ASSERT_EQ(set.bodies.size(), 24U);
    for (const Body& body : set.bodies) {
        EXPECT_EQ(body.face_count(), 6U);
        EXPECT_NEAR(body.figures().volume, 1 * 2 * 3, 1e-9) << "sheared and twice as high";
    }
}

TEST(BodySteps, CellsBesideGapsAreLeftOutAndSaid) {
    StudyMaker maker = stack();
    maker.add("points.keep_where", "kept");
    maker.set("kept", "points", ResultName{"corners"}).formula("kept", "i + j + k > 0");
    maker.add("body.cells", "cells");
    maker.set("cells", "points", ResultName{"kept"});
    const Evaluation made = test::run(maker.study);
    ASSERT_TRUE(made.outcome("cells")->value) << sentence(*made.outcome("cells")->error);
    EXPECT_EQ(solids(made, "cells").bodies.size(), 23U);
    ASSERT_EQ(made.outcome("cells")->remarks.size(), 1U);
    EXPECT_TRUE(made.outcome("cells")->remarks.front().loss);
    StudyMaker flat;
    flat.add("lattice.rectangular", "grid");
    flat.add("body.cells", "cells");
    flat.set("cells", "points", ResultName{"grid"});
    EXPECT_EQ(test::error_of(test::run(flat.study), "cells").slot, "points");
    maker.number("corners", "height", "0 m");
    EXPECT_FALSE(test::run(maker.study).outcome("cells")->value) << "without a volume";
}

}  // namespace
}  // namespace plume

// Bars with sections: areas, volumes, cuts at nodes, in closed form.

#include <cmath>
#include <numbers>

#include "core/geometry/frames/bar_bodies.hpp"
#include "core/geometry/parts/subset.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

using test::StudyMaker;
using test::value_of;

BarFrame star(const std::vector<Vec3>& places, const std::vector<Member>& members) {
    auto made =
        BarFrame::make({points_at({Arrangement::scatter, {places.size(), 1, 1}, {}}, places), members});
    EXPECT_TRUE(made) << sentence(made.error());
    return *made;
}

BarPlan plan_of(const BarSection& section, BarEnds ends = BarEnds::none, double back = 0) {
    return {[=](std::size_t) { return section; },
            [](std::size_t) {
                return Vec3{0, 0, 1};
            },
            [](std::size_t) { return 0.0; }, ends, back};
}

TEST(BarSections, AreasInClosedForm) {
    const double sixteen =
        8 * std::sin(std::numbers::pi / 8);  // of a polygon of 16 sides in a circle of radius 1
    const auto area = [](const BarSection& section) { return outline_of(section).area(); };
    EXPECT_NEAR(area({SectionShape::round, 2}), sixteen, 1e-12);
    EXPECT_NEAR(area({SectionShape::tube, 2, 0, 0.25}), sixteen * (1 - 0.75 * 0.75), 1e-12);
    EXPECT_NEAR(area({SectionShape::rectangle, 0.1, 0.3}), 0.03, 1e-15);
    EXPECT_NEAR(area({SectionShape::box, 0.2, 0.3, 0.01}), 0.06 - 0.18 * 0.28, 1e-15);
    EXPECT_NEAR(area({SectionShape::i, 0.2, 0.3, 0.01, 0.02}), 2 * 0.2 * 0.02 + 0.26 * 0.01, 1e-15);
    EXPECT_NEAR(area({SectionShape::angle, 0.2, 0.3, 0.02}), 0.2 * 0.02 + 0.28 * 0.02, 1e-15);
    EXPECT_NEAR(area({SectionShape::flat, 0.2, 0, 0.01}), 0.002, 1e-15);
    EXPECT_EQ(area({SectionShape::strip, 0.2}), 0);
    EXPECT_EQ(fault_of({SectionShape::tube, 0.1, 0, 0.05}), "has walls that meet");
    EXPECT_EQ(fault_of({SectionShape::i, 0.1, 0.1, 0.01, 0.05}), "has flanges that meet");
    EXPECT_EQ(fault_of({SectionShape::rectangle, 0.1, 0}), "has no height");
    EXPECT_EQ(fault_of({SectionShape::round, std::nan("")}), "has no width");
}

TEST(BarBodies, EverySectionIsClosedAndHoldsItsVolume) {
    const BarFrame frame = star({{0, 0, 0}, {3, 1, 2}, {0, 0, 5}}, {{0, 1}, {2, 0}});
    const double length = std::sqrt(14.0) + 5;
    for (const SectionShape shape :
         {SectionShape::round, SectionShape::tube, SectionShape::rectangle, SectionShape::box,
          SectionShape::i, SectionShape::angle, SectionShape::flat}) {
        const BarSection section{shape, 0.2, 0.3, 0.02, 0.03};
        const auto made = bar_bodies(frame, plan_of(section), plume::Run());
        ASSERT_TRUE(made);
        EXPECT_EQ(made->mesh.part_count(), 2U);
        EXPECT_EQ(test::open_edges(made->mesh), 0U) << static_cast<int>(shape);
        EXPECT_NEAR(made->volume, outline_of(section).area() * length, 1e-12);
        EXPECT_NEAR(test::volume(made->mesh), made->volume, 1e-12) << static_cast<int>(shape);
    }
}

TEST(BarBodies, TheSectionsUpIsAsNearToZAsCanBe) {
    const BarFrame frame = star({{0, 0, 0}, {4, 0, 3}}, {{0, 1}});
    const auto made = bar_bodies(frame, plan_of({SectionShape::rectangle, 0.02, 0.5}), plume::Run());
    double low = 0;
    for (std::size_t vertex = 0; vertex < 8; ++vertex) {
        EXPECT_NEAR(std::abs(made->mesh.vertex(vertex).y), 0.01, 1e-12) << "its width lies level";
        low = std::min(low, made->mesh.vertex(vertex).z);
    }
    EXPECT_NEAR(low, -0.25 * 0.8, 1e-12) << "its height leans with the slope of 3 in 4";
}

TEST(BarBodies, CutBackAsFarAsClearsThem) {
    // Three round bars 120 degrees apart: each is clear from r cot 60 degrees on.
    const double r = 0.1, s = std::sqrt(0.75);
    const BarFrame frame =
        star({{0, 0, 0}, {2, 0, 0}, {-1, 2 * s, 0}, {-1, -2 * s, 0}}, {{0, 1}, {0, 2}, {0, 3}});
    const auto whole = bar_bodies(frame, plan_of({SectionShape::round, 2 * r}), plume::Run());
    EXPECT_EQ(whole->overlapping_nodes, 1U);
    EXPECT_NEAR(whole->clearing, r / std::tan(std::numbers::pi / 3), 1e-12);
    const auto clear = bar_bodies(frame, plan_of({SectionShape::round, 2 * r}, BarEnds::clear), plume::Run());
    EXPECT_EQ(clear->overlapping_nodes, 0U);
    EXPECT_NEAR(whole->volume - clear->volume,
                3 * whole->clearing * outline_of({SectionShape::round, 2 * r}).area(), 1e-12);
    const auto back = bar_bodies(
        frame, plan_of({SectionShape::round, 2 * r}, BarEnds::back, whole->clearing * 1.001), plume::Run());
    EXPECT_EQ(back->overlapping_nodes, 0U);
    const auto less = bar_bodies(
        frame, plan_of({SectionShape::round, 2 * r}, BarEnds::back, whole->clearing * 0.999), plume::Run());
    EXPECT_EQ(less->overlapping_nodes, 1U);
    const auto none =
        bar_bodies(frame, plan_of({SectionShape::round, 2 * r}, BarEnds::back, 1.5), plume::Run());
    ASSERT_FALSE(none);
    EXPECT_EQ(none.error().code, ErrorCode::empty_input);
}

TEST(BarBodies, MitresOfTwoFillTheCornerOnce) {
    const BarFrame frame = star({{3, 0, 0}, {0, 0, 0}, {0, 2, 0}}, {{0, 1}, {1, 2}});
    for (const SectionShape shape : {SectionShape::rectangle, SectionShape::box, SectionShape::i}) {
        const BarSection section{shape, 0.2, 0.3, 0.02, 0.03};
        const auto made = bar_bodies(frame, plan_of(section, BarEnds::mitred), plume::Run());
        EXPECT_NEAR(made->volume, outline_of(section).area() * 5, 1e-12);
        EXPECT_NEAR(test::volume(made->mesh), made->volume, 1e-12);
        // The outer corner of the two is at -0.1, -0.1.
        double least = 0;
        for (std::size_t vertex = 0; vertex < made->mesh.vertex_count(); ++vertex)
            least = std::min(least, made->mesh.vertex(vertex).x);
        EXPECT_NEAR(least, -0.1, 1e-12);
        EXPECT_EQ(made->overlapping_nodes, 0U);
    }
    const BarFrame straight = star({{0, 0, 0}, {1, 0, 0}, {3, 0, 0}}, {{0, 1}, {1, 2}});
    const auto made =
        bar_bodies(straight, plan_of({SectionShape::box, 0.2, 0.2, 0.02}, BarEnds::mitred), plume::Run());
    EXPECT_NEAR(test::volume(made->mesh), 3 * (0.04 - 0.16 * 0.16), 1e-12);
}

// Steps --------------------------------------------------------------------------------------------------

StudyMaker barred() {
    StudyMaker maker;
    maker.add("lattice.rectangular", "grid");
    maker.word("grid", "sizing", "spaced").number("grid", "pitch_u", "2 m").number("grid", "pitch_v", "1 m");
    maker.number("grid", "columns", "4").number("grid", "rows", "3");
    maker.add("frame.lattice", "frame");
    maker.set("frame", "points", ResultName{"grid"});
    maker.add("mesh.bars", "bars");
    maker.set("bars", "frame", ResultName{"frame"});
    return maker;
}

TEST(BarSteps, SizesByFormulaAndNumbersOfMembers) {
    StudyMaker maker = barred();
    maker.word("bars", "section", "rectangle").word("bars", "sizes", "formula");
    maker.formula("bars", "height = length / 10\nwidth = 50 mm");
    const Mesh mesh = std::get<Mesh>(value_of(test::run(maker.study), "bars"));
    EXPECT_EQ(mesh.part_count(), 31U);
    EXPECT_NEAR(test::volume(mesh), 0.05 * (16 * 0.2 * 2 + 15 * 0.1 * 1), 1e-9);
    EXPECT_EQ(mesh.part_mark(0), "0,0–1,0") << "as its member is called";
    maker.formula("bars", "height = length - 1.5 m");
    EXPECT_EQ(sentence(test::error_of(test::run(maker.study), "bars")),
              "The section of the member 0,0–0,1 has no height. Type other sizes.");
}

TEST(BarSteps, OverlapsAreSaidWithTheCutThatClears) {
    StudyMaker maker = barred();
    maker.number("bars", "diameter", "0.2 m");
    const Evaluation made = test::run(maker.study);
    ASSERT_EQ(made.outcome("bars")->remarks.size(), 2U);
    EXPECT_EQ(made.outcome("bars")->remarks.back().text,
              "Bars run into each other at 20 nodes: cut back by 0.1 m none would.");
    maker.word("bars", "ends", "back").number("bars", "back", "0.55 m");
    const Evaluation cut = test::run(maker.study);
    EXPECT_EQ(cut.outcome("bars")->remarks.back().text,
              "15 members are shorter than what is cut off at the nodes, and left out.");
    EXPECT_TRUE(cut.outcome("bars")->remarks.back().loss);
}

TEST(BarSteps, MassesByMaterialAndUnit) {
    StudyMaker maker = barred();
    maker.word("bars", "section", "rectangle");
    maker.number("bars", "width", "50 mm").number("bars", "height", "100 mm");
    // 16 of 2 m and 15 of 1 m.
    const double volume = 47 * 0.05 * 0.1;
    const auto said = [&] { return test::run(maker.study).outcome("bars")->remarks.front().text; };
    EXPECT_EQ(said(), "Together 0.235 m³, 1.84 t of steel.");
    maker.word("bars", "material", "timber");
    EXPECT_EQ(said(), "Together 0.235 m³, 106 kg of timber.");
    maker.word("bars", "material", "other").number("bars", "density", "1000");
    EXPECT_EQ(said(), "Together 0.235 m³, 235 kg.");
    const Mesh mesh = std::get<Mesh>(value_of(test::run(maker.study), "bars"));
    const auto mass = std::ranges::find(mesh.face_fields(), "mass_kg", &Field::name);
    double sum = 0;
    for (std::size_t part = 0; part < mesh.part_count(); ++part)
        sum += mass->values[mesh.part(part).begin];
    EXPECT_NEAR(sum, volume * 1000, 1e-9);
    maker.study =
        with_units(*maker.study, standard_catalogue(), {LengthUnit::millimetre, AngleUnit::degree}, {});
    EXPECT_NE(said().find("235 kg"), std::string::npos) << said();
}

TEST(BarSteps, BallsAndDiscsOnNodes) {
    StudyMaker maker = barred();
    maker.add("mesh.nodes", "joints");
    maker.set("joints", "frame", ResultName{"frame"}).number("joints", "diameter", "0.4 m");
    const Mesh balls = std::get<Mesh>(value_of(test::run(maker.study), "joints"));
    EXPECT_EQ(balls.part_count(), 20U);
    EXPECT_EQ(test::open_edges(balls), 0U);
    const double ball = 4.0 / 3 * std::numbers::pi * std::pow(0.2, 3);
    EXPECT_LT(test::volume(balls), 20 * ball);
    EXPECT_GT(test::volume(balls), 20 * ball * 0.9);
    maker.word("joints", "shape", "discs").number("joints", "thickness", "50 mm");
    maker.word("joints", "sizes", "formula").formula("joints", "valence * 0.1 m");
    const Mesh discs = std::get<Mesh>(value_of(test::run(maker.study), "joints"));
    EXPECT_EQ(test::open_edges(discs), 0U);
    const double squares = 4 * 4 + 10 * 9 + 6 * 16;  // of 4 corners, 10 nodes on sides, 6 within
    EXPECT_NEAR(test::volume(discs), 0.05 * squares * 0.01 / 4 * 12 * std::sin(std::numbers::pi / 12), 1e-9);
    maker.formula("joints", "(valence - 3) * 0.1 m");
    EXPECT_EQ(sentence(test::error_of(test::run(maker.study), "joints")),
              "The diameter of the node 0,0 has to be above 0. Type another.");
}

}  // namespace
}  // namespace plume

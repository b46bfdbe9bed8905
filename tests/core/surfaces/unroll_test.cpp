// Surfaces and meshes laid out flat.

#include <numbers>

#include "core/geometry/curves/curve_division.hpp"
#include "core/geometry/meshes/flattened_mesh.hpp"
#include "core/meshes/round_meshes.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

using test::StudyMaker;
using test::value_of;
constexpr double pi = std::numbers::pi;

// A part of a cone, as triangles between rings that are exactly on it.
Mesh cone_part(double slope_length, double half_angle, double turn) {
    return test::parametric(41, 11, false, false, [&](double u, double v) {
        const double along = slope_length * (0.3 + 0.7 * v), out = along * std::sin(half_angle);
        return Vec3{out * std::cos(turn * u), out * std::sin(turn * u), -along * std::cos(half_angle)};
    });
}

TEST(Flattened, AConeBecomesASectorOfItsPolyhedron) {
    const double slope = 5, half = 0.5, turn = 3;
    const Mesh cone = cone_part(slope, half, turn);
    for (const Flattening how : {Flattening::lengths, Flattening::angles}) {
        const auto flat = flattened(cone, {}, how, plume::Run());
        ASSERT_TRUE(flat);
        EXPECT_LT(flat->most_stretch, 1e-6) << "a polyhedral cone unrolls exactly";
        EXPECT_GT(flat->most_squeeze, -1e-6);
        EXPECT_EQ(flat->folded, 0U);
        // Edges keep their lengths, areas too.
        EXPECT_NEAR(area(flat->mesh), area(cone), 1e-6 * area(cone));
        for (std::size_t face = 0; face < cone.face_count(); ++face)
            EXPECT_GT(area_vector(flat->mesh, face).z, 0);
        // The sector: the angle between its straight sides is 40 times that of one facet at the tip.
        const double facet = 2 * std::asin(std::sin(half) * std::sin(turn / 80));
        const Vec3 first = flat->mesh.vertex(0) - flat->mesh.vertex(41 * 10),
                   last = flat->mesh.vertex(40) - flat->mesh.vertex(41 * 10 + 40);
        const double between =
            std::acos(std::clamp(dot(first, last) / length(first) / length(last), -1.0, 1.0));
        EXPECT_NEAR(between, 40 * facet, 1e-6);
    }
}

TEST(Flattened, ACapOfASphereIsStretchedAndSaysSo) {
    const Mesh cap = test::parametric(25, 25, false, false, [](double u, double v) {
        const double x = 2 * (u - 0.5), y = 2 * (v - 0.5);
        return Vec3{x, y, std::sqrt(4 - x * x - y * y)};
    });
    const auto by_lengths = flattened(cap, {}, Flattening::lengths, plume::Run());
    const auto by_angles = flattened(cap, {}, Flattening::angles, plume::Run());
    ASSERT_TRUE(by_lengths);
    ASSERT_TRUE(by_angles);
    EXPECT_GT(by_lengths->most_stretch, 0.005);
    EXPECT_LT(by_lengths->most_squeeze, -0.005);
    EXPECT_LT(by_lengths->most_stretch - by_lengths->most_squeeze,
              by_angles->most_stretch - by_angles->most_squeeze);
    // Angles: what lengths grow by is nearly the same all around, face by face.
    const auto spread = [](const FlatMesh& flat) {
        double worst = 0;
        const std::size_t count = flat.mesh.face_fields().size();
        for (std::size_t face = 0; face < flat.mesh.face_count(); ++face)
            worst = std::max(worst, (1 + flat.mesh.face_fields()[count - 1].values[face]) /
                                            (1 + flat.mesh.face_fields()[count - 2].values[face]) -
                                        1);
        return worst;
    };
    EXPECT_LT(spread(*by_angles), spread(*by_lengths));
}

TEST(Flattened, RefusesWhatIsNoDisc) {
    const auto closed = flattened(test::ball(1, 2), {}, Flattening::lengths, plume::Run());
    ASSERT_FALSE(closed);
    EXPECT_EQ(closed.error().code, ErrorCode::unlike_arrangement);
    const Mesh pipe = test::parametric(12, 3, true, false, [](double u, double v) {
        return Vec3{std::cos(2 * pi * u), std::sin(2 * pi * u), v};
    });
    const auto round = flattened(pipe, {}, Flattening::lengths, plume::Run());
    ASSERT_FALSE(round);
    EXPECT_NE(round.error().message.find("goes round a hole"), std::string::npos);
    EXPECT_FALSE(flattened(test::mesh_of_triangles({{0, 0, 0}, {1, 0, 0}, {2, 0, 0}}, {{0, 1, 2}}), {},
                           Flattening::lengths, plume::Run()));
}

// A drum of 2 m, 3 m high, with a line that winds up once around it.
StudyMaker drum() {
    StudyMaker maker;
    maker.add("outline.shape", "rim");
    maker.word("rim", "shape", "circle").number("rim", "radius", "2 m");
    maker.add("surface.extrude", "drum");
    maker.set("drum", "curve", ResultName{"rim"}).number("drum", "by", "3 m");
    maker.add("curve.arc", "flat_line");
    maker.word("flat_line", "shape", "line");
    maker.set("flat_line", "ends",
              Places{{"a", "1 m", "0.5 m", "0 m", "1"}, {"b", "11 m", "2.5 m", "0 m", "1"}});
    maker.add("thing.lay", "winding");
    maker.set("winding", "thing", ResultName{"flat_line"}).set("winding", "surface", ResultName{"drum"});
    maker.word("winding", "over", "origin").word("winding", "steps", "lengths");
    maker.number("winding", "width", "2 * pi * 2 m").number("winding", "depth", "3 m");
    maker.add("thing.unroll", "flat");
    maker.set("flat", "form", ResultName{"drum"});
    return maker;
}

TEST(Unroll, ADrumIsARectangleAndAWindingLineStraight) {
    StudyMaker maker = drum();
    const Evaluation made = test::run(maker.study);
    const Mesh flat = std::get<Mesh>(value_of(made, "flat"));
    EXPECT_NEAR(flat.bounds().size().x, 4 * pi, 1e-5) << "as long as the circle, not as its chords";
    EXPECT_NEAR(flat.bounds().size().y, 3, 1e-6);
    EXPECT_EQ(made.outcome("flat")->remarks.front().text, "It unrolls without any stretch.");
    maker.word("flat", "take", "thing").set("flat", "thing", ResultName{"winding"});
    const auto line = std::get<CurveSet>(value_of(test::run(maker.study), "flat"));
    ASSERT_EQ(line.curves.size(), 1U);
    const double expected = std::hypot(10.0, 2.0);
    EXPECT_NEAR(length_of(line.curves[0]), expected, 5e-4);
    const Vec3 from = evaluate(line.curves[0], line.curves[0].basis().start()).position,
               to = evaluate(line.curves[0], line.curves[0].basis().end()).position;
    EXPECT_NEAR(length(to - from), expected, 5e-4) << "straight";
}

TEST(Unroll, ABallIsDoneAsWellAsCanBeAndSaysTheStretch) {
    StudyMaker maker;
    maker.add("curve.arc", "rib");
    maker.word("rib", "shape", "centre").number("rib", "radius", "4 m").number("rib", "from", "-90°");
    maker.number("rib", "sweep", "180°").word("rib", "plane", "xz");
    maker.add("surface.revolve", "ball");
    maker.add("thing.unroll", "flat");
    const Evaluation made = test::run(maker.study);
    ASSERT_TRUE(made.outcome("flat")->value) << sentence(*made.outcome("flat")->error);
    EXPECT_NE(made.outcome("flat")->remarks.front().text.find("Lengths grow by up to "), std::string::npos);
}

TEST(Unroll, PiecesLieSideBySide) {
    StudyMaker maker;
    maker.add("lattice.rectangular", "ground");
    maker.number("ground", "columns", "4").number("ground", "rows", "3");
    maker.number("ground", "width", "4 m").number("ground", "depth", "3 m");
    maker.add("skin", "sheet");
    maker.word("sheet", "surface", "flat");
    maker.add("thing.repeat", "two");
    maker.set("two", "thing", ResultName{"sheet"}).number("two", "count", "2").number("two", "z", "3 m");
    maker.add("thing.unroll", "flat");
    maker.set("flat", "form", ResultName{"two"});
    const Mesh flat = std::get<Mesh>(value_of(test::run(maker.study), "flat"));
    EXPECT_EQ(flat.face_count(), 24U);
    EXPECT_NEAR(flat.bounds().size().x, 4 + 0.4 + 4, 1e-6);
    EXPECT_NEAR(area(flat), 24, 1e-9);
}

}  // namespace
}  // namespace plume

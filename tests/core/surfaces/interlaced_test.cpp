// Smooth skins of triangular and hexagonal lattices.

#include "core/geometry/surfaces/interlaced_grid.hpp"

#include <numbers>

#include "core/geometry/surfaces/bending.hpp"
#include "core/geometry/surfaces/spline_interpolation.hpp"
#include "core/geometry/surfaces/surface_search.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

using test::StudyMaker;
using test::value_of;

double bump(double x, double y) {
    return 1.5 * std::sin(0.5 * x) * std::cos(0.4 * y);
}

// About 12 m by 8 m of a smooth form, its points some half a metre apart.
PointLattice form(const char* kind) {
    StudyMaker maker;
    maker.add(kind, "ground");
    if (std::string(kind) == "lattice.triangular")
        maker.number("ground", "columns", "24")
            .number("ground", "rows", "18")
            .number("ground", "side", "0.5 m");
    if (std::string(kind) == "lattice.hexagonal")
        maker.number("ground", "columns", "14")
            .number("ground", "rows", "11")
            .number("ground", "side", "0.5 m");
    if (std::string(kind) == "lattice.rectangular")
        maker.number("ground", "columns", "24")
            .number("ground", "rows", "16")
            .number("ground", "width", "12 m")
            .number("ground", "depth", "8 m");
    maker.add("points.move_formula", "form");
    maker.formula("form", "to_z = 1.5 m * sin(0.5 rad * x / 1 m) * cos(0.4 rad * y / 1 m)");
    return std::get<PointLattice>(value_of(test::run(maker.study), "form"));
}

// How far the skin is from the form it was sampled from, well inside, and how its mean curvature differs.
struct Off {
    double height = 0, curvature = 0;
};
Off off_form(const SplinePatch& skin) {
    Off off;
    const PatchEvaluator patch(skin);
    for (int a = 12; a <= 88; ++a)
        for (int b = 12; b <= 88; ++b) {
            const SurfaceBend bend = patch.bend_at(std::lerp(skin.u().start(), skin.u().end(), a / 100.0),
                                                   std::lerp(skin.v().start(), skin.v().end(), b / 100.0));
            const Vec3 p = bend.point.position;
            off.height = std::max(off.height, std::abs(p.z - bump(p.x, p.y)));
            // The same of the form itself, as a graph over the plane.
            SurfaceBend there;
            there.point = {{},
                           {1, 0, 0.75 * std::cos(0.5 * p.x) * std::cos(0.4 * p.y)},
                           {0, 1, -0.6 * std::sin(0.5 * p.x) * std::sin(0.4 * p.y)}};
            there.bend_uu = {0, 0, -0.25 * bump(p.x, p.y)};
            there.bend_uv = {0, 0, -0.3 * std::cos(0.5 * p.x) * std::sin(0.4 * p.y)};
            there.bend_vv = {0, 0, -0.16 * bump(p.x, p.y)};
            off.curvature =
                std::max(off.curvature, std::abs(bending_of(bend).mean() - bending_of(there).mean()));
        }
    return off;
}

TEST(InterlacedSkin, IsAsSmoothAsThatOfAGrid) {
    const auto grid = interpolate_grid(form("lattice.rectangular"), plume::Run());
    ASSERT_TRUE(grid);
    const Off plain = off_form(*grid);
    for (const char* kind : {"lattice.triangular", "lattice.hexagonal"}) {
        const auto skin = interpolate_grid(form(kind), plume::Run());
        ASSERT_TRUE(skin) << kind;
        const Off off = off_form(*skin);
        EXPECT_LT(off.height, 4 * plain.height) << kind;
        EXPECT_LT(off.curvature, 4 * plain.curvature) << kind;
        EXPECT_LT(off.height, 2e-3) << kind;
    }
}

TEST(InterlacedSkin, GoesThroughEveryPoint) {
    for (const char* kind : {"lattice.triangular", "lattice.hexagonal"}) {
        const PointLattice points = form(kind);
        const auto skin = interpolate_grid(points, plume::Run());
        ASSERT_TRUE(skin) << kind;
        const SurfaceSearch search(*skin);
        for (std::size_t index = 0; index < points.address_count(); ++index)
            if (points.present(index)) {
                EXPECT_LT(search.nearest(points.point(index)).distance, 1e-9) << kind << ' ' << index;
            }
    }
}

TEST(InterlacedSkin, OfAPlaneIsThePlane) {
    StudyMaker maker;
    maker.add("lattice.hexagonal", "comb");
    maker.add("points.move_formula", "tilted");
    maker.formula("tilted", "to_z = 0.3 * x - 0.2 * y");
    const auto skin =
        interpolate_grid(std::get<PointLattice>(value_of(test::run(maker.study), "tilted")), plume::Run());
    ASSERT_TRUE(skin);
    for (std::size_t pole = 0; pole < skin->x().size(); ++pole)
        EXPECT_NEAR(skin->z()[pole], 0.3 * skin->x()[pole] - 0.2 * skin->y()[pole], 1e-9);
}

TEST(InterlacedSkin, CarriesNumbersAndRefusesGapsWithin) {
    StudyMaker maker;
    maker.add("lattice.triangular", "ground");
    maker.number("ground", "columns", "8").number("ground", "rows", "8").number("ground", "side", "1 m");
    maker.add("field.formula", "east");
    maker.formula("east", "x");
    maker.add("points.keep_where", "holed");
    maker.set("holed", "points", ResultName{"east"}).formula("holed", "hypot(i - 4, j - 4) > 0.5");
    const Evaluation made = test::run(maker.study);
    const Value east = value_of(made, "east");
    const auto even = evened_grid(std::get<FieldOnPoints>(east).points, plume::Run());
    ASSERT_TRUE(even);
    EXPECT_EQ(even->grid.counts()[0], 18U) << "every half bay";
    const Field& field = even->grid.fields().back();
    for (std::size_t index = 0; index < even->grid.address_count(); ++index)
        EXPECT_NEAR(field.values[index], even->grid.x()[index], 1e-9);
    const auto holed = evened_grid(std::get<PointLattice>(value_of(made, "holed")), plume::Run());
    ASSERT_FALSE(holed);
    EXPECT_EQ(holed.error().code, ErrorCode::has_gaps);
    EXPECT_NE(holed.error().message.find("i 4, j 4"), std::string::npos) << holed.error().message;
}

// Levels of a hill over a triangular lattice do not wave: the circle they are is round to a thousandth.
TEST(InterlacedSkin, ContoursDoNotWave) {
    StudyMaker maker;
    maker.add("lattice.triangular", "ground");
    maker.number("ground", "columns", "24").number("ground", "rows", "24").number("ground", "side", "0.5 m");
    maker.add("points.move_formula", "hill");
    maker.formula("hill", "to_z = 4 m - (x * x + y * y) / 8 m");
    maker.add("curve.levels", "levels");
    maker.word("levels", "rule", "list").set("levels", "list", Lines{"2 m"});
    maker.set("levels", "thing", ResultName{"hill"});
    const Evaluation made = test::run(maker.study);
    const auto set = std::get<CurveSet>(value_of(made, "levels"));
    ASSERT_EQ(set.curves.size(), 1U);
    for (std::size_t pole = 0; pole < set.curves[0].x().size(); ++pole)
        EXPECT_NEAR(std::hypot(set.curves[0].x()[pole], set.curves[0].y()[pole]), 4, 4e-3);
}

}  // namespace
}  // namespace plume

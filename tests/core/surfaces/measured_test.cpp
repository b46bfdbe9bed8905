// The steps that measure surfaces, skins, meshes and how points lie to forms.

#include <numbers>

#include "core/results/columns.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

using test::error_of;
using test::StudyMaker;
using test::value_of;

constexpr double pi = std::numbers::pi;

// A dome: half a sphere of 4 m as an exact surface, open below.
StudyMaker dome() {
    StudyMaker maker;
    maker.add("curve.arc", "rib");
    maker.word("rib", "shape", "centre")
        .number("rib", "radius", "4 m")
        .number("rib", "sweep", "90°")
        .word("rib", "plane", "xz");
    maker.add("surface.revolve", "dome");
    return maker;
}

bool remarked(const Evaluation& evaluation, const std::string& name, const std::string& text) {
    const auto& remarks = evaluation.outcome(name)->remarks;
    return std::ranges::any_of(
        remarks, [&](const Remark& remark) { return remark.text.find(text) != std::string::npos; });
}

TEST(MeasureSurface, ASphereBendsAlikeEverywhere) {
    StudyMaker maker = dome();
    maker.add("surface.measure", "bent");
    maker.word("bent", "what", "gaussian").number("bent", "columns", "6").number("bent", "rows", "12");
    const Evaluation evaluation = test::run(maker.study);
    const Value bent = value_of(evaluation, "bent");
    const auto& field = std::get<FieldOnPoints>(bent);
    EXPECT_EQ(field.field().dimension, (Dimension{-2, 0}));
    EXPECT_EQ(field.points.point_count(), 7U * 12U) << "closed around";
    for (const double number : field.field().values.span())
        EXPECT_NEAR(number, 1.0 / 16, 1e-9) << "at the tip too";
    EXPECT_TRUE(remarked(evaluation, "bent", "Weighed by area its mean is 0.0625"));
}

// Of a hemisphere the area-weighted mean of the slope is the integral of t sin t over a quarter turn: 1.
TEST(MeasureSurface, StatisticsAreWeighedByArea) {
    StudyMaker maker = dome();
    maker.add("surface.measure", "steep");
    maker.word("steep", "what", "slope").number("steep", "columns", "400").number("steep", "rows", "8");
    const Evaluation evaluation = test::run(maker.study);
    EXPECT_TRUE(remarked(evaluation, "steep", "Weighed by area its mean is 57.3°"));
    const Value steep = value_of(evaluation, "steep");
    const auto& field = std::get<FieldOnPoints>(steep);
    for (std::size_t index = 0; index < field.points.address_count(); ++index) {
        const Vec3 p = field.points.point(index);
        const double number = field.field().values[index];
        EXPECT_NEAR(number, std::atan2(std::hypot(p.x, p.y), p.z), 1e-6);
    }
}

TEST(MeasureSurface, ATipHasACurvatureWhereItIsSmoothAlone) {
    StudyMaker maker;
    maker.add("curve.arc", "rib");
    maker.word("rib", "shape", "line");
    maker.set("rib", "ends", Places{{"a", "3 m", "0 m", "0 m", "1"}, {"b", "0 m", "0 m", "3 m", "1"}});
    maker.add("surface.revolve", "cone");
    maker.add("surface.measure", "bent");
    const Value bent = value_of(test::run(maker.study), "bent");
    const auto& field = std::get<FieldOnPoints>(bent);
    for (std::size_t index = 0; index < field.points.address_count(); ++index)
        EXPECT_EQ(std::isfinite(field.field().values[index]), field.points.point(index).z < 2.99);
}

TEST(MeasureSurface, FacingAPlaceFollowsTheWayToIt) {
    StudyMaker maker = dome();
    maker.add("placement.frame", "lamp");
    maker.add("surface.measure", "lit");
    maker.word("lit", "what", "facing").word("lit", "towards", "place");
    const Evaluation evaluation = test::run(maker.study);
    const Value value = value_of(evaluation, "lit");
    const auto& field = std::get<FieldOnPoints>(value);
    const Vec3 lamp = std::get<Placements>(value_of(evaluation, "lamp")).present_placements().front().origin;
    for (std::size_t index = 0; index < field.points.address_count(); ++index) {
        const double number = field.field().values[index];
        const Vec3 p = field.points.point(index), way = unit_or_zero(lamp - p), out = unit_or_zero(p);
        const double outwards = std::acos(std::clamp(dot(out, way), -1.0, 1.0));
        // Either side may be the front of a surface.
        EXPECT_NEAR(std::min(std::abs(number - outwards), std::abs(number - (pi - outwards))), 0, 1e-6);
    }
}

TEST(MeasureSurface, DirectionsOfCurvatureRunAroundAndAlongACylinder) {
    StudyMaker maker;
    maker.add("outline.shape", "foot");
    maker.word("foot", "shape", "circle").number("foot", "radius", "2 m");
    maker.add("surface.extrude", "drum");
    maker.number("drum", "by", "5 m");
    maker.add("surface.measure", "straight");
    maker.word("straight", "what", "along_most");
    maker.add("surface.measure", "bent");
    maker.word("bent", "what", "along_least").set("bent", "surface", ResultName{"drum"});
    const Evaluation evaluation = test::run(maker.study);
    const auto read = [&](const char* name) {
        return std::get<DirectionsOnPoints>(value_of(evaluation, name));
    };
    // Its normal decides which of the two is the largest: 0 along, ±1/2 around.
    for (std::size_t index = 0; index < 20; ++index) {
        const double a = std::abs(read("straight").direction(index).z),
                     b = std::abs(read("bent").direction(index).z);
        EXPECT_NEAR(std::max(a, b), 1, 1e-9);
        EXPECT_NEAR(std::min(a, b), 0, 1e-9);
    }
}

TEST(MeasureSkin, PointsAreMeasuredAsTheSmoothSurfaceThroughThem) {
    StudyMaker maker;
    maker.add("lattice.rectangular", "ground");
    maker.number("ground", "columns", "40").number("ground", "rows", "40");
    maker.number("ground", "width", "4 m").number("ground", "depth", "4 m");
    maker.add("points.move_formula", "bowl");
    maker.formula("bowl", "to_z = (x * x + y * y) / (2 m)");
    maker.add("thing.measure", "bent");
    const Evaluation evaluation = test::run(maker.study);
    const Value value = value_of(evaluation, "bent");
    const auto& field = std::get<FieldOnPoints>(value);
    EXPECT_EQ(field.field().dimension, (Dimension{-1, 0}));
    // z = r^2 / 2: the mean curvature at the middle is 1 / m.
    EXPECT_NEAR(field.field().values[20 + 41 * 20], 1, 5e-3);
    // At radius r: (1 / w^3 + 1 / w) / 2 with w^2 = 1 + r^2.
    const double w = std::sqrt(2.0);
    EXPECT_NEAR(field.field().values[30 + 41 * 20], (1 / (w * w * w) + 1 / w) / 2, 2e-3);
}

TEST(MeasureSkin, PointsWithGapsAndTrianglesAreMeasuredAtTheirFacets) {
    for (const char* lattice : {"lattice.triangular", "lattice.rectangular"}) {
        StudyMaker maker;
        maker.add(lattice, "ground");
        maker.number("ground", "columns", "30").number("ground", "rows", "30");
        maker.word("ground", "sizing", "over")
            .number("ground", "width", "4 m")
            .number("ground", "depth", "4 m");
        maker.add("points.keep_where", "kept");
        maker.formula("kept", "x * x + y * y < 3.5 m * 1 m");
        maker.add("points.move_formula", "cap");
        maker.formula("cap", "to_z = sqrt(16 m * 1 m - x * x - y * y)");
        maker.add("thing.measure", "bent");
        maker.word("bent", "what", "radius");
        const Evaluation evaluation = test::run(maker.study);
        const Value value = value_of(evaluation, "bent");
        const auto& field = std::get<FieldOnPoints>(value);
        std::size_t near = 0;
        for (std::size_t index = 0; index < field.points.address_count(); ++index)
            if (field.points.present(index) && std::abs(field.field().values[index] - 4) < 1e-6) ++near;
        EXPECT_GT(near, field.points.point_count() * 2 / 3)
            << lattice << ": exact on a sphere, but at its rim";
    }
}

StudyMaker facets() {
    StudyMaker maker;
    maker.add("lattice.rectangular", "ground");
    maker.number("ground", "columns", "3").number("ground", "rows", "2");
    maker.number("ground", "width", "6 m").number("ground", "depth", "2 m");
    maker.add("points.move_formula", "ramp");
    maker.formula("ramp", "to_z = x / 2");
    maker.add("skin", "ramp_skin");
    maker.word("ramp_skin", "surface", "flat").set("ramp_skin", "points", ResultName{"ramp"});
    return maker;
}

TEST(MeasureSkin, FacesOfAMeshCarryTheirNumbers) {
    StudyMaker maker = facets();
    maker.add("thing.measure", "measured");
    maker.word("measured", "what", "area").set("measured", "thing", ResultName{"ramp_skin"});
    maker.add("thing.measure", "long");
    maker.word("long", "what", "longest").set("long", "thing", ResultName{"ramp_skin"});
    maker.add("thing.measure", "short");
    maker.word("short", "what", "shortest").set("short", "thing", ResultName{"ramp_skin"});
    maker.add("thing.measure", "steep");
    maker.word("steep", "what", "slope").set("steep", "thing", ResultName{"ramp_skin"});
    maker.add("thing.measure", "plane");
    maker.word("plane", "what", "flatness").set("plane", "thing", ResultName{"ramp_skin"});
    const Evaluation evaluation = test::run(maker.study);
    const auto faces = [&](const char* name) {
        return std::get<Mesh>(value_of(evaluation, name)).face_fields().back();
    };
    ASSERT_EQ(faces("measured").values.size(), 6U);
    for (std::size_t face = 0; face < 6; ++face) {
        EXPECT_NEAR(faces("measured").values[face], 2 * std::sqrt(1.25), 1e-12);
        EXPECT_NEAR(faces("long").values[face], 2 * std::sqrt(1.25), 1e-12);
        EXPECT_NEAR(faces("short").values[face], 1, 1e-12);
        EXPECT_NEAR(faces("steep").values[face], std::atan(0.5), 1e-12);
        EXPECT_NEAR(faces("plane").values[face], 0, 1e-12);
    }
    EXPECT_EQ(faces("measured").dimension, (Dimension{2, 0}));
    EXPECT_EQ(faces("measured").name, "measured");
    // Their table has a row a face.
    const Value value = value_of(evaluation, "measured");
    const Table table = columns_of(value);
    EXPECT_EQ(table.rows_are, "faces");
    EXPECT_EQ(table.row_count, 6U);
    EXPECT_EQ(table.columns.back().name, "measured");
    EXPECT_NEAR(table.columns.back().number(5), 2 * std::sqrt(1.25), 1e-12);
    EXPECT_EQ(field_names(value), std::vector<std::string>{"measured"}) << "of vertices and faces once";
}

TEST(MeasureSkin, NumbersOfFacesNeedFaces) {
    StudyMaker maker = facets();
    maker.add("thing.measure", "measured");
    maker.word("measured", "what", "area").set("measured", "thing", ResultName{"ramp"});
    const Error error = error_of(test::run(maker.study), "measured");
    EXPECT_EQ(error.code, ErrorCode::wrong_kind);
    EXPECT_EQ(error.mend, "Skin the points with flat facets first.");
}

// Numbers of faces go where their faces go.
TEST(FaceNumbers, StayWithTheirFaces) {
    StudyMaker maker = facets();
    maker.add("thing.measure", "measured");
    maker.word("measured", "what", "area").set("measured", "thing", ResultName{"ramp_skin"});
    maker.add("thing.scale", "large");
    maker.number("large", "factor", "1");
    maker.add("thing.repeat", "twice");
    maker.set("twice", "thing", ResultName{"measured"});
    const Evaluation evaluation = test::run(maker.study);
    const Mesh twice = std::get<Mesh>(value_of(evaluation, "twice"));
    ASSERT_EQ(twice.face_fields().size(), 1U);
    EXPECT_EQ(twice.face_fields().front().values.size(), twice.face_count());
    EXPECT_GT(twice.face_count(), 6U);
}

TEST(AgainstAForm, HeightsAboveASlopeAreMeasuredDown) {
    StudyMaker maker = facets();
    maker.add("points.typed", "birds");
    maker.set("birds", "rows", Lines{"0, 0, 3\n2, 0.5, 1\n-2, 0, -4\n9, 9, 9"});
    maker.add("field.of_form", "height");
    maker.word("height", "what", "height").set("height", "form", ResultName{"ramp_skin"});
    const Evaluation evaluation = test::run(maker.study);
    const Value value = value_of(evaluation, "height");
    const Column& height = std::get<FieldOnPoints>(value).field().values;
    EXPECT_NEAR(height[0], 3, 1e-9);
    EXPECT_NEAR(height[1], 0, 1e-9) << "on it";
    EXPECT_NEAR(height[2], -3, 1e-9) << "below it";
    EXPECT_TRUE(std::isnan(height[3]));
    EXPECT_TRUE(remarked(evaluation, "height", "1 point has nothing below or above it"));
}

TEST(AgainstAForm, ThicknessOfAWallAndOfABall) {
    StudyMaker maker;
    maker.add("outline.shape", "foot");
    maker.word("foot", "shape", "rectangle").number("foot", "width", "6 m").number("foot", "depth", "0.3 m");
    maker.add("body.extrude", "wall");
    maker.number("wall", "by", "3 m");
    maker.add("points.typed", "places");
    maker.set("places", "rows", Lines{"0, 0.15, 1\n1, -0.15, 2\n1, 2, 2"});
    maker.add("field.of_form", "thick");
    maker.word("thick", "what", "thickness").set("thick", "form", ResultName{"wall"});
    const Value value = value_of(test::run(maker.study), "thick");
    for (const double number : std::get<FieldOnPoints>(value).field().values.span())
        EXPECT_NEAR(number, 0.3, 1e-9);
}

TEST(AgainstAForm, AnOpenSkinHasNoThickness) {
    StudyMaker maker = facets();
    maker.add("field.of_form", "thick");
    maker.word("thick", "what", "thickness").set("thick", "form", ResultName{"ramp_skin"});
    const Error error = error_of(test::run(maker.study), "thick");
    EXPECT_EQ(error.code, ErrorCode::wrong_kind);
}

TEST(AgainstAForm, AWallHidesWhatIsBehindIt) {
    StudyMaker maker;
    maker.add("outline.shape", "foot");
    maker.word("foot", "shape", "rectangle").number("foot", "width", "4 m").number("foot", "depth", "0.2 m");
    maker.add("body.extrude", "wall");
    maker.number("wall", "by", "3 m");
    maker.add("points.typed", "eyes");
    maker.set("eyes", "rows", Lines{"0, -5, 1\n0, -5, 6\n0, 5, 1"});
    maker.add("points.typed", "nests");
    maker.set("nests", "rows", Lines{"0, 5, 1\n0, 6, 1"});
    maker.add("field.of_form", "seen");
    maker.word("seen", "what", "sight")
        .set("seen", "form", ResultName{"wall"})
        .set("seen", "points", ResultName{"eyes"})
        .set("seen", "goals", ResultName{"nests"});
    const Value value = value_of(test::run(maker.study), "seen");
    const Column& seen = std::get<FieldOnPoints>(value).field().values;
    EXPECT_EQ(seen[0], 0);
    EXPECT_EQ(seen[1], 1) << "over it: at the wall the lines are 3.4 m and more up";
    EXPECT_EQ(seen[2], 1);
}

TEST(AgainstAForm, DistancesAreBelowZeroInsideABody) {
    StudyMaker maker;
    maker.add("outline.shape", "foot");
    maker.word("foot", "shape", "circle").number("foot", "radius", "2 m");
    maker.add("body.extrude", "drum");
    maker.number("drum", "by", "10 m");
    maker.add("points.typed", "places");
    maker.set("places", "rows", Lines{"0.5, 0, 5\n5, 0, 5\n0, 0, 12\n2, 0, 5"});
    maker.add("field.of_form", "gap");
    maker.set("gap", "form", ResultName{"drum"});
    const Value value = value_of(test::run(maker.study), "gap");
    const Column& gap = std::get<FieldOnPoints>(value).field().values;
    EXPECT_NEAR(gap[0], -1.5, 1e-9);
    EXPECT_NEAR(gap[1], 3, 1e-9);
    EXPECT_NEAR(gap[2], 2, 1e-9);
    EXPECT_NEAR(gap[3], 0, 1e-9);
}

}  // namespace
}  // namespace plume

// Drawings as readers find them that nobody here made: ezdxf with its audit, and dxf-parser.

#include <cmath>
#include <numbers>

#include "core/exchange/study_file.hpp"
#include "core/geometry/curves/arc_path.hpp"
#include "core/geometry/curves/curve_sampling.hpp"
#include "folders.hpp"
#include "judged/judges.hpp"

namespace plume {
namespace {

using test::Folder;
using test::judged;
using test::StudyMaker;
using Json = nlohmann::json;

constexpr double pi = std::numbers::pi;

Json drawn(const ExportJob& job, const std::filesystem::path& path) {
    const auto report = export_results(job, path, plume::Run());
    EXPECT_TRUE(report) << sentence(report.error());
    Json read = judged("dxf.py", path);
    EXPECT_EQ(read["version"], "AC1015");
    EXPECT_EQ(read["errors"], Json::array());
    EXPECT_EQ(read["fixes"], Json::array());
    return read;
}

// Some outlines: a circle, a rectangle with round corners, an ellipse; an arc and a polyline in space.
Evaluation outlines() {
    StudyMaker maker;
    maker.add("outline.shape", "ring");
    maker.word("ring", "shape", "circle").number("ring", "radius", "2 m");
    maker.add("outline.shape", "slab");
    maker.word("slab", "shape", "rectangle");
    maker.number("slab", "width", "6 m").number("slab", "depth", "4 m");
    maker.word("slab", "corners", "round").number("slab", "corner", "1 m");
    maker.add("outline.shape", "oval");
    maker.word("oval", "shape", "ellipse");
    return test::run(maker.study);
}
Value result(const Evaluation& evaluation, const std::string& name) {
    return test::value_of(evaluation, name);
}

TEST(JudgedDrawings, CirclesAndRoundCornersAreExact) {
    const Folder folder;
    const Evaluation made = outlines();
    ExportJob job = test::job_of(result(made, "ring"), "ring", LengthUnit::millimetre);
    job.results.push_back({std::make_shared<const Value>(result(made, "slab")), "slab"});
    const Json read = drawn(job, folder / "it.dxf");
    EXPECT_EQ(read["units"], 4);
    ASSERT_EQ(read["entities"].size(), 2U);
    const Json& circle = read["entities"][0];
    EXPECT_EQ(circle["kind"], "CIRCLE");
    EXPECT_EQ(circle["layer"], "ring");
    EXPECT_NEAR(circle["radius"].get<double>(), 2000, 1e-9);
    const Json& outline = read["entities"][1];
    EXPECT_EQ(outline["kind"], "LWPOLYLINE");
    EXPECT_TRUE(outline["closed"].get<bool>());
    ASSERT_EQ(outline["points"].size(), 8U) << "four sides, four quarters of circles";
    int arcs = 0;
    for (const Json& point : outline["points"])
        if (point[2] != 0) {
            ++arcs;
            EXPECT_NEAR(std::abs(point[2].get<double>()), std::tan(pi / 8), 1e-9);
        }
    EXPECT_EQ(arcs, 4);
}

TEST(JudgedDrawings, SplinesKeepKnotsWeightsAndPoles) {
    const Folder folder;
    const Evaluation made = outlines();
    const Value oval = result(made, "oval");
    const Json read = drawn(test::job_of(oval, "oval"), folder / "it.dxf");
    ASSERT_EQ(read["entities"].size(), 1U);
    const Json& spline = read["entities"][0];
    EXPECT_EQ(spline["kind"], "SPLINE");
    EXPECT_TRUE(spline["closed"].get<bool>());
    const SplineCurve& curve = std::get<CurveSet>(oval).curves.front();
    EXPECT_EQ(spline["degree"], curve.basis().degree);
    EXPECT_EQ(spline["weights"].size(), spline["poles"].size());
    // Whatever its poles are called here: the first is where it starts, and the curve is as long.
    const Vec3 start = start_of(curve);
    EXPECT_NEAR(spline["poles"][0][0].get<double>(), start.x, 1e-12);
    EXPECT_NEAR(spline["poles"][0][1].get<double>(), start.y, 1e-12);
}

TEST(JudgedDrawings, LayersFollowANumber) {
    const Folder folder;
    const Evaluation canopy = test::run(*load_study(std::string(test::demo_folder) + "/wing-canopy.plume"));
    const Value contours = result(canopy, "contours");
    ExportJob job = test::job_of(contours, "contours", LengthUnit::centimetre);
    job.layers_by = "level";
    const Json read = drawn(job, folder / "it.dxf");
    std::set<std::string> layers;
    for (const Json& entity : read["entities"])
        layers.insert(entity["layer"].get<std::string>());
    EXPECT_GT(layers.size(), 5U);
    for (const std::string& layer : layers)
        EXPECT_TRUE(layer.starts_with("contours ") && layer.ends_with(" cm")) << layer;
    job.layers_by = "colour";
    const auto unknown = export_results(job, folder / "it.dxf", plume::Run());
    ASSERT_FALSE(unknown);
    EXPECT_EQ(unknown.error().code, ErrorCode::unknown_name);
}

TEST(JudgedDrawings, PointsBarsFacetsAndLabels) {
    const Folder folder;
    StudyMaker maker;
    maker.add("lattice.rectangular", "plot");
    maker.number("plot", "columns", "4").number("plot", "rows", "3");
    maker.add("frame.lattice", "net");
    maker.set("net", "points", ResultName{"plot"});
    maker.add("mesh.bars", "beams");
    maker.set("beams", "frame", ResultName{"net"});
    const Evaluation made = test::run(maker.study);
    ExportJob job{{}, {}, LengthUnit::inch};
    for (const char* name : {"plot", "net", "beams"})
        job.results.push_back({std::make_shared<const Value>(result(made, name)), name});
    job.results[0].name = "Gärten, 1";
    job.results[0].show.labels = true;
    const Json read = drawn(job, folder / "it.dxf");
    EXPECT_EQ(read["units"], 1);
    std::map<std::string, std::size_t> kinds;
    double lines = 0;
    for (const Json& entity : read["entities"]) {
        ++kinds[entity["kind"].get<std::string>()];
        if (entity["kind"] == "LINE") lines += entity["length"].get<double>();
    }
    EXPECT_EQ(kinds["POINT"], 20U) << "of 4 x 3 bays";
    EXPECT_EQ(kinds["TEXT"], 20U);
    EXPECT_EQ(kinds["LINE"], 31U) << "4 x 4 and 5 x 3";
    double metres = 0;
    const BarFrame& net = std::get<BarFrame>(*job.results[1].value);
    for (const Member& member : net.members())
        metres += net.length_of(member);
    EXPECT_NEAR(lines * 0.0254, metres, 1e-9);
    EXPECT_GE(kinds["3DFACE"], 31U * 6);
    const auto layers = read["layers"].get<std::vector<std::string>>();
    EXPECT_NE(std::ranges::find(layers, "Gärten_ 1"), layers.end()) << read["layers"];
    // Another reader counts the same.
    EXPECT_EQ(judged("dxf.mjs", folder / "it.dxf")["entities"], read["entities"].size());
}

TEST(ArcPaths, TellArcsFromOtherConics) {
    const Evaluation made = outlines();
    const auto circle = arc_path(std::get<CurveSet>(result(made, "ring")).curves.front());
    ASSERT_TRUE(circle);
    ASSERT_EQ(circle->pieces.size(), 2U);
    EXPECT_NEAR(circle->pieces[0].bulge, 1, 1e-9);
    EXPECT_LT(length(centre_of(circle->start, circle->pieces[0])), 1e-9);
    EXPECT_FALSE(arc_path(std::get<CurveSet>(result(made, "oval")).curves.front()));
    const SplineCurve corners = std::get<CurveSet>(result(made, "slab")).curves.front();
    const auto path = arc_path(corners);
    ASSERT_TRUE(path);
    double length_along = 0;
    Vec3 at = path->start;
    for (const ArcPiece& piece : path->pieces) {
        const double chord = length(piece.to - at), angle = 4 * std::atan(std::abs(piece.bulge));
        length_along += piece.bulge == 0 ? chord : chord / (2 * std::sin(angle / 2)) * angle;
        at = piece.to;
    }
    EXPECT_NEAR(length_along, 2 * (6 + 4) - 8 + 2 * pi, 1e-9);
    EXPECT_TRUE(at == path->start);
}

}  // namespace
}  // namespace plume

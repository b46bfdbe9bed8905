// Sheets that grow into a form in space.

#include <oneapi/tbb/global_control.h>

#include "core/exchange/study_file.hpp"
#include "core/geometry/curves/curve_sampling.hpp"
#include "core/geometry/meshes/mesh_faults.hpp"
#include "core/geometry/meshes/vertex_places.hpp"
#include "core/study/slots/slot_form.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

class GrownSheets : public testing::Test {
protected:
    Evaluation evaluated(const std::string& page) {
        const auto study = study_from_text(R"({"plume": 1, "page": [)" + page + "]}");
        EXPECT_TRUE(study) << sentence(study.error());
        EvaluationPlan plan;
        plan.catalogue = &standard_catalogue();
        return evaluate(std::make_shared<const Study>(in_form(**study, standard_catalogue())), plan,
                        plume::Run());
    }
    static std::string grow(const std::string& slots) {
        return R"({"step": "sheet.grow", "result": "sheet", "slots": {)" + slots +
               (slots.find("edge") == std::string::npos ? R"(, "edge": "0.1 m"}})" : "}}");
    }
    static std::string sew(const std::string& slots) {
        return R"({"step": "sheet.patchwork", "result": "sheet", "slots": {"edge": "0.1 m", )" + slots + "}}";
    }
    Mesh made(const std::string& page) { return std::get<Mesh>(test::value_of(evaluated(page), "sheet")); }
    std::string error_of(const std::string& page) {
        const Evaluation made = evaluated(page);
        return sentence(test::error_of(made, "sheet"));
    }

    // The largest share by which an edge is longer or shorter than `edge`.
    static double spread(const Mesh& mesh, double edge) {
        double most = 0;
        for (std::size_t face = 0; face < mesh.face_count(); ++face) {
            const auto corners = mesh.face(face);
            for (std::size_t at = 0; at < corners.size(); ++at)
                most = std::max(most, std::abs(length(mesh.vertex(corners[at]) -
                                                      mesh.vertex(corners[(at + 1) % corners.size()])) /
                                                   edge -
                                               1));
        }
        return most;
    }
    static std::size_t crossings(const Mesh& mesh) { return crossing_faces(mesh, plume::Run())->size(); }
    static std::size_t stitches_of(const Mesh& mesh, double ring) {
        const auto field = std::ranges::find(mesh.fields(), "ring", &Field::name);
        std::size_t count = 0;
        for (std::size_t vertex = 0; vertex < mesh.vertex_count(); ++vertex)
            count += field->values[vertex] == ring ? 1 : 0;
        return count;
    }
};

// Six triangles a ring and two more each: a hexagon, whose corners are 5 edges from its middle.
TEST_F(GrownSheets, AsManyStitchesAsLieFlatAreAHexagon) {
    const Mesh mesh = made(grow(R"("rings": 5, "factor": 1, "spread": 0.01)"));
    EXPECT_EQ(mesh.vertex_count(), 91U);
    EXPECT_LT(spread(mesh, 0.1), 0.01);
    const Vec3 middle = mesh.vertex(0);
    double farthest = 0;
    for (std::size_t vertex = 0; vertex < mesh.vertex_count(); ++vertex)
        farthest = std::max(farthest, length(mesh.vertex(vertex) - middle));
    EXPECT_NEAR(farthest, 0.5, 0.01);
    std::vector<Vec3> places = vertex_places(mesh);
    // Flat: through the middle and two corners of the rim all others lie in one plane.
    const Vec3 normal = unit_or_zero(cross(places[61] - middle, places[71] - middle));
    for (const Vec3 at : places)
        EXPECT_LT(std::abs(dot(at - middle, normal)), 0.03);
}

TEST_F(GrownSheets, MoreStitchesFrillItAndNothingCrosses) {
    const Mesh mesh = made(grow(R"("rings": 7, "factor": 1.2)"));
    EXPECT_LT(spread(mesh, 0.1), 0.05);
    EXPECT_EQ(crossings(mesh), 0U);
    for (int ring = 1; ring <= 7; ++ring)
        EXPECT_EQ(stitches_of(mesh, ring),
                  static_cast<std::size_t>(std::llround(6 * ring * std::pow(1.2, ring - 1))));
    EXPECT_GT(mesh.bounds().size().z, 0.2) << "there is no room for it in the plane";
    // No point of it is farther from the middle than its rings are edges.
    for (std::size_t vertex = 0; vertex < mesh.vertex_count(); ++vertex)
        EXPECT_LT(length(mesh.vertex(vertex) - mesh.vertex(0)), 0.7 * 1.05);
}

TEST_F(GrownSheets, FewerStitchesCloseIt) {
    const Mesh mesh = made(grow(R"("rings": 10, "factor": 0.85)"));
    EXPECT_LT(spread(mesh, 0.1), 0.05);
    EXPECT_EQ(crossings(mesh), 0U);
    // A dome: its rim is smaller than its widest ring, and it is deep.
    EXPECT_LT(stitches_of(mesh, 10), stitches_of(mesh, 6));
    EXPECT_GT(mesh.bounds().size().z, 0.3);
}

TEST_F(GrownSheets, OneMoreAfterEveryFew) {
    const Mesh mesh = made(grow(R"("rings": 4, "counts": "every", "every": 3)"));
    std::size_t count = 6;
    for (int ring = 1; ring <= 4; ++ring, count += count / 3)
        EXPECT_EQ(stitches_of(mesh, ring), count);
}

TEST_F(GrownSheets, AFormulaReadsTheRingAndWhatLiesFlat) {
    const Mesh mesh = made(grow(R"("rings": 4, "counts": "formula", "formula": "flat + ring * rings")"));
    for (int ring = 1; ring <= 4; ++ring)
        EXPECT_EQ(stitches_of(mesh, ring), static_cast<std::size_t>(10 * ring));
}

TEST_F(GrownSheets, ASeamLeavesItOpen) {
    const auto open_edges = [](const Mesh& mesh) { return faults_of(mesh, 0, plume::Run())->open.size(); };
    const Mesh round = made(grow(R"("rings": 4, "factor": 1)")),
               slit = made(grow(R"("rings": 4, "factor": 1, "seam": "open")"));
    EXPECT_EQ(open_edges(round), 24U);
    EXPECT_EQ(open_edges(slit), 24U + 2 * 4);
    EXPECT_EQ(slit.vertex_count(), round.vertex_count() + 4);
}

const std::string arc = R"({"step": "curve.arc", "result": "line", "slots": {}}, )";

TEST_F(GrownSheets, FromALineItsFirstRowStays) {
    const Mesh mesh =
        made(arc + grow(R"("from": "line", "line": {"result": "line"}, "rings": 4, "factor": 1.3)"));
    EXPECT_LT(spread(mesh, 0.1), 0.08);
    EXPECT_EQ(crossings(mesh), 0U);
    const Evaluation line = evaluated(arc.substr(0, arc.size() - 2));
    const SplineCurve curve = std::get<CurveSet>(test::value_of(line, "line")).curves.front();
    EXPECT_EQ(mesh.vertex(0), start_of(curve));
    const std::size_t row = stitches_of(mesh, 0);
    EXPECT_NEAR(length(mesh.vertex(row - 1) - end_of(curve)), 0, 1e-12);
    EXPECT_EQ(stitches_of(mesh, 2), static_cast<std::size_t>(std::llround(static_cast<double>(row) * 1.69)));
}

TEST_F(GrownSheets, OverAClosedLineItIsATube) {
    const std::string ring =
        R"({"step": "outline.shape", "result": "line", "slots": {"shape": "circle", "radius": "0.5 m"}}, )";
    const Mesh mesh =
        made(ring + grow(R"("from": "line", "line": {"result": "line"}, "rings": 5, "factor": 1)"));
    EXPECT_LT(spread(mesh, 0.1), 0.05);
    EXPECT_NEAR(mesh.bounds().size().z, 5 * 0.1 * std::sqrt(0.75), 0.03);
    EXPECT_NEAR(mesh.bounds().size().x, 1, 0.05);
    EXPECT_EQ(faults_of(mesh, 0, plume::Run())->open.size(), 2 * stitches_of(mesh, 0));
}

TEST_F(GrownSheets, PatchworksKeepTheirPolygonsEqual) {
    for (const char* slots :
         {R"("sides": 3, "around": 7, "rings": 2)", R"("sides": 5, "around": 4, "rings": 2)",
          R"("sides": 7, "around": 3, "rings": 3)"}) {
        const Mesh mesh = made(sew(slots));
        EXPECT_LT(spread(mesh, 0.1), 0.05) << slots;
        EXPECT_EQ(crossings(mesh), 0U) << slots;
        EXPECT_GT(mesh.bounds().size().z, 0.05) << slots;
    }
}

TEST_F(GrownSheets, OneThreadAndManyAgreeToTheBitAndSeedsDiffer) {
    const std::string page = grow(R"("rings": 5, "factor": 1.2)");
    const std::vector<Vec3> many = vertex_places(made(page));
    {
        const oneapi::tbb::global_control one_thread(oneapi::tbb::global_control::max_allowed_parallelism, 1);
        EXPECT_EQ(vertex_places(made(page)), many);
    }
    EXPECT_NE(vertex_places(made(grow(R"("rings": 5, "factor": 1.2, "seed": 2)"))), many);
}

TEST_F(GrownSheets, WhatCannotBeIsSaid) {
    EXPECT_NE(error_of(grow(R"("rings": 12, "factor": 0.5)")).find("stitches in ring"), std::string::npos);
    EXPECT_NE(error_of(grow(R"("rings": 300, "factor": 1.5)")).find("more memory"), std::string::npos);
    EXPECT_NE(error_of(grow(R"("rings": 3, "counts": "formula", "formula": "flat - 20")"))
                  .find("would give ring 1"),
              std::string::npos);
    EXPECT_NE(error_of(arc + grow(R"("from": "line", "line": {"result": "line"}, "edge": "900 m")"))
                  .find("longer than a third of the line, which is 13.91 m"),
              std::string::npos);
    EXPECT_NE(error_of(sew(R"("sides": 4, "around": 4)")).find("lie flat or close up"), std::string::npos);
}

// What is asked more closely than triangles can be is told, and is there all the same.
TEST_F(GrownSheets, WhatIsNotAsAlikeAsAskedIsTold) {
    const Evaluation made = evaluated(grow(R"("rings": 5, "factor": 1.3, "spread": 0)"));
    EXPECT_NE(test::remarks_of(made, "sheet").find("came no nearer"), std::string::npos);
    EXPECT_EQ(test::remarks_of(evaluated(grow(R"("rings": 3, "factor": 1)")), "sheet").find("no nearer"),
              std::string::npos);
}

}  // namespace
}  // namespace plume

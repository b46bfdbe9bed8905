// Exact shapes in IFC: as web-ifc reads them, and as the kernel does when the same entities stand in a STEP
// file (tests/judges/ifc_shapes.py).

#include <cmath>
#include <map>
#include <numbers>
#include <regex>

#include "core/exchange/study_file.hpp"
#include "core/geometry/surfaces/patch_figures.hpp"
#include "core/geometry/surfaces/spline_interpolation.hpp"
#include "folders.hpp"
#include "judged/judges.hpp"

namespace plume {
namespace {

using test::Folder;
using test::judged;
using Json = nlohmann::json;

// Of areas and volumes of samples as fine as the judge makes them.
constexpr double by_facets = 1e-3;

ExportJob exact_job(const Value& value, const std::string& name, LengthUnit unit = LengthUnit::metre) {
    ExportJob job = test::job_of(value, name, unit);
    job.exact = true;
    return job;
}

struct Read {
    Json elements;                // by web-ifc
    double area = 0, volume = 0;  // of all exact shapes, by the kernel
    std::size_t shapes = 0, faces = 0;
    std::string text;
};

Read written_and_read(const ExportJob& job, const Folder& folder) {
    const auto report = export_results(job, folder / "it.ifc", plume::Run());
    EXPECT_TRUE(report) << sentence(report.error());
    const std::string step = (folder / "it.step").string();
    test::output_of(std::string("/usr/bin/python3 ") + test::judges_folder + "/ifc_shapes.py '" +
                    (folder / "it.ifc").string() + "' '" + step + '\'');
    Read read;
    read.elements = judged("ifc.mjs", folder / "it.ifc")["elements"];
    const Json kernel = judged("exact.mjs", step);
    EXPECT_TRUE(kernel["success"].get<bool>());
    for (const Json& mesh : kernel["meshes"]) {
        ++read.shapes;
        read.faces += mesh["faces"].get<std::size_t>();
        read.area += mesh["area"].get<double>() / 1e6;
        read.volume += mesh["volume"].get<double>() / 1e9;
    }
    read.text = *read_file(folder / "it.ifc", 100'000'000);
    return read;
}

std::size_t count_of(const std::string& text, const std::string& entity) {
    std::size_t count = 0;
    for (std::size_t at = text.find('=' + entity + '('); at != std::string::npos;
         at = text.find('=' + entity + '(', at + 1))
        ++count;
    return count;
}

// How often each edge is used along its way, less how often against it; and how often at all.
std::map<std::string, std::pair<int, int>> uses_of_edges(const std::string& text) {
    std::map<std::string, std::pair<int, int>> uses;
    const std::regex use(R"(IFCORIENTEDEDGE\(\*,\*,(#\d+),\.([TF])\.\))");
    for (std::sregex_iterator at(text.begin(), text.end(), use), end; at != end; ++at) {
        auto& [balance, count] = uses[(*at)[1]];
        balance += (*at)[2] == "T" ? 1 : -1;
        ++count;
    }
    return uses;
}

TEST(JudgedIfcShapes, TheCanopyIsOneTrimmedSpline) {
    const Folder folder;
    const Value canopy = test::value_of(
        test::run(*load_study(std::string(test::demo_folder) + "/wing-canopy.plume")), "canopy");
    const Read read = written_and_read(exact_job(canopy, "canopy"), folder);
    const double area = *area_of(std::get<SurfaceSet>(canopy), plume::Run());
    EXPECT_EQ(read.faces, 1U);
    EXPECT_NEAR(read.area, area, by_facets * area);
    ASSERT_EQ(read.elements.size(), 1U);
    EXPECT_EQ(read.elements[0]["kind"], "IfcRoof");
    EXPECT_NEAR(read.elements[0]["numbers"]["GrossSurfaceArea"].get<double>(), area, 1e-9 * area);
    EXPECT_NEAR(read.elements[0]["low"][0].get<double>(), -18, 0.05) << "its own samples are coarse";
    EXPECT_EQ(count_of(read.text, "IFCTRIANGULATEDFACESET"), 0U);
    // Every pole in full.
    const SplinePatch& patch = std::get<SurfaceSet>(canopy).patches.front();
    std::vector<Vec3> places;
    const std::regex point(R"(IFCCARTESIANPOINT\(\(([-+.E0-9]+),([-+.E0-9]+),([-+.E0-9]+)\)\))");
    for (std::sregex_iterator at(read.text.begin(), read.text.end(), point), end; at != end; ++at)
        places.push_back({std::stod((*at)[1]), std::stod((*at)[2]), std::stod((*at)[3])});
    for (std::size_t pole = 0; pole < patch.x().size(); ++pole) {
        const Vec3 wanted{patch.x()[pole], patch.y()[pole], patch.z()[pole]};
        ASSERT_TRUE(std::ranges::any_of(places, [&](Vec3 place) {
            return length(place - wanted) < 36 * 1e-12;
        })) << pole;
    }
}

TEST(JudgedIfcShapes, BodiesAreClosedOverSharedEdges) {
    const Folder folder;
    const Value roof =
        test::value_of(test::run(*load_study(std::string(test::demo_folder) + "/ridge-roof.plume")), "roof");
    const BodyFigures figures = figures_of(std::get<SolidSet>(roof));
    for (const LengthUnit unit : {LengthUnit::metre, LengthUnit::millimetre}) {
        const Read read = written_and_read(exact_job(roof, "roof", unit), folder);
        EXPECT_EQ(count_of(read.text, "IFCADVANCEDBREP"), 1U);
        EXPECT_EQ(read.shapes, 1U);
        EXPECT_NEAR(read.volume, figures.volume, by_facets * figures.volume) << symbol(unit);
        EXPECT_NEAR(read.area, figures.area, by_facets * figures.area);
        EXPECT_NEAR(read.elements[0]["numbers"]["NetVolume"].get<double>(), figures.volume,
                    1e-9 * figures.volume);
        for (const auto& [edge, use] : uses_of_edges(read.text)) {
            EXPECT_EQ(use.second, 2) << edge;
            EXPECT_EQ(use.first, 0) << edge << " is run along in both directions";
        }
    }
}

TEST(JudgedIfcShapes, TrimsAreLoopsOfTheirOwn) {
    const Folder folder;
    const Value boards = test::value_of(
        test::run(*load_study(std::string(test::examples_folder) + "/surface.trim.plume")), "open_boards");
    const Read read = written_and_read(exact_job(boards, "boards"), folder);
    EXPECT_EQ(read.faces, 1U);
    EXPECT_EQ(count_of(read.text, "IFCFACEBOUND"), 1U) << "one hole";
    EXPECT_NEAR(read.area, 24 - std::numbers::pi, by_facets * 24);
}

TEST(JudgedIfcShapes, ClosedSurfacesCloseAtTheirSeams) {
    const Folder folder;
    const SurfaceSet ring{{*interpolate_grid(test::torus(24, 16, 3, 1), plume::Run())}};
    const double area = *area_of(ring, plume::Run());
    const Read read = written_and_read(exact_job(Value(ring), "ring"), folder);
    EXPECT_NEAR(read.area, area, 3 * by_facets * area);
}

TEST(JudgedIfcShapes, WeightsAreKept) {
    const Folder folder;
    test::StudyMaker maker;
    maker.add("outline.shape", "ring");
    maker.word("ring", "shape", "circle").number("ring", "radius", "2 m");
    maker.add("body.extrude", "drum");
    maker.set("drum", "curves", ResultName{"ring"}).number("drum", "by", "3 m");
    const Value drum = test::value_of(test::run(maker.study), "drum");
    const Read read = written_and_read(exact_job(drum, "drum"), folder);
    EXPECT_GT(count_of(read.text, "IFCRATIONALBSPLINESURFACEWITHKNOTS"), 0U);
    EXPECT_EQ(count_of(read.text, "IFCPLANE"), 2U);
    const double volume = 12 * std::numbers::pi;
    EXPECT_NEAR(read.volume, volume, by_facets * volume);
    EXPECT_NEAR(read.elements[0]["numbers"]["NetVolume"].get<double>(), volume, 1e-8 * volume);
}

TEST(JudgedIfcShapes, FlatPartsStayAsTheyWereAndCurvedOnesAreFacetsUnlessWanted) {
    const Folder folder;
    const Evaluation evaluation =
        test::run(*load_study(std::string(test::examples_folder) + "/mesh.bars.plume"));
    ASSERT_TRUE(export_results(exact_job(test::value_of(evaluation, "beams"), "beams"), folder / "it.ifc",
                               plume::Run()));
    EXPECT_EQ(count_of(*read_file(folder / "it.ifc", 100'000'000), "IFCEXTRUDEDAREASOLID"), 58U);
    const SurfaceSet ring{{*interpolate_grid(test::torus(24, 16, 3, 1), plume::Run())}};
    const auto said = export_results(test::job_of(Value(ring), "ring"), folder / "it.ifc", plume::Run());
    ASSERT_TRUE(said);
    EXPECT_NE(said->find("left out: exact curvature"), std::string::npos) << *said;
    EXPECT_EQ(count_of(*read_file(folder / "it.ifc", 100'000'000), "IFCTRIANGULATEDFACESET"), 1U);
}

}  // namespace
}  // namespace plume

// STEP and IGES as another build of the kernel reads them (occt-import-js), and their text by itself.

#include <cmath>
#include <fstream>
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

constexpr const char* formats[] = {"it.step", "it.igs"};

nlohmann::json written_and_read(const ExportJob& job, const std::filesystem::path& path) {
    const auto report = export_results(job, path, plume::Run());
    EXPECT_TRUE(report) << sentence(report.error());
    auto read = judged("exact.mjs", path);
    EXPECT_TRUE(read["success"].get<bool>());
    return read;
}

double sum_of(const nlohmann::json& read, const char* figure) {
    double sum = 0;
    for (const auto& mesh : read["meshes"])
        sum += mesh[figure].get<double>();
    return sum;
}

Value from_demo(const std::string& study, const std::string& result) {
    return test::value_of(test::run(*load_study(std::string(test::demo_folder) + '/' + study)), result);
}
Value from_example(const std::string& study, const std::string& result) {
    return test::value_of(test::run(*load_study(std::string(test::examples_folder) + '/' + study)), result);
}

// Square metres of samples as fine as the judge makes them.
constexpr double by_facets = 1e-3;

TEST(JudgedExact, TheCanopyIsOneSurfaceOfItsArea) {
    const Folder folder;
    const Value canopy = from_demo("wing-canopy.plume", "canopy");
    const double area = *area_of(std::get<SurfaceSet>(canopy), plume::Run());
    for (const char* name : formats) {
        const auto read = written_and_read(test::job_of(canopy, "canopy"), folder / name);
        ASSERT_EQ(read["meshes"].size(), 1U);
        EXPECT_EQ(read["root"]["children"][0]["name"], "canopy");
        EXPECT_EQ(read["meshes"][0]["faces"], 1);
        EXPECT_NEAR(sum_of(read, "area") / 1e6, area, by_facets * area);
        EXPECT_NEAR(read["meshes"][0]["low"][0].get<double>(), -18'000, 1e-3);
        EXPECT_NEAR(read["meshes"][0]["high"][1].get<double>(), 12'000, 1e-3);
    }
}

TEST(JudgedExact, PolesAndKnotsStandInTheFileInFull) {
    const Folder folder;
    const Value canopy = from_demo("wing-canopy.plume", "canopy");
    ASSERT_TRUE(export_results(test::job_of(canopy, "canopy"), folder / "it.step", plume::Run()));
    std::string text = *read_file(folder / "it.step", 100'000'000);
    text = std::regex_replace(text, std::regex("\\s"), "");
    std::vector<Vec3> places;
    const std::regex point(R"(CARTESIAN_POINT\('[^']*',\(([-+.E0-9]+),([-+.E0-9]+),([-+.E0-9]+)\)\))");
    for (std::sregex_iterator at(text.begin(), text.end(), point), end; at != end; ++at)
        places.push_back({std::stod((*at)[1]), std::stod((*at)[2]), std::stod((*at)[3])});
    const SplinePatch& patch = std::get<SurfaceSet>(canopy).patches.front();
    std::ranges::sort(places, {}, [](Vec3 p) { return std::tuple(p.x, p.y, p.z); });
    for (std::size_t pole = 0; pole < patch.x().size(); ++pole) {
        const Vec3 wanted{patch.x()[pole], patch.y()[pole], patch.z()[pole]};
        auto near = std::ranges::lower_bound(places, wanted.x - 1e-11, {}, &Vec3::x);
        double off = 1;
        for (; near != places.end() && near->x <= wanted.x + 1e-11; ++near)
            off = std::min(off, length(*near - wanted));
        ASSERT_LT(off, 36 * 1e-12) << pole;
    }
    // Knots within the domain, each once.
    for (const double knot : patch.u().knots) {
        if (knot <= patch.u().start() || knot >= patch.u().end()) continue;
        std::array<char, 40> written{};
        std::snprintf(written.data(), written.size(), "%.16E", knot);
        EXPECT_NE(text.find(written.data()), std::string::npos) << knot;
    }
}

TEST(JudgedExact, BodiesAreSolidsOfTheirVolume) {
    const Folder folder;
    const Value roof = from_demo("ridge-roof.plume", "roof");
    const BodyFigures figures = figures_of(std::get<SolidSet>(roof));
    for (const char* name : formats) {
        const auto read = written_and_read(test::job_of(roof, "roof"), folder / name);
        ASSERT_EQ(read["meshes"].size(), 1U);
        EXPECT_NEAR(sum_of(read, "volume") / 1e9, figures.volume, by_facets * figures.volume);
        EXPECT_NEAR(sum_of(read, "area") / 1e6, figures.area, by_facets * figures.area);
    }
    const std::string text = *read_file(folder / "it.step", 100'000'000);
    EXPECT_NE(text.find("MANIFOLD_SOLID_BREP"), std::string::npos);
    EXPECT_NE(text.find("AP242"), std::string::npos);
}

TEST(JudgedExact, TrimsStayTrims) {
    const Folder folder;
    const Value boards = from_example("surface.trim.plume", "open_boards");
    for (const char* name : formats) {
        const auto read = written_and_read(test::job_of(boards, "boards"), folder / name);
        EXPECT_EQ(read["meshes"][0]["faces"], 1) << "one face with a hole";
        EXPECT_NEAR(sum_of(read, "area") / 1e6, 24 - std::numbers::pi, by_facets * 24);
    }
}

TEST(JudgedExact, ClosedSurfacesCloseAtTheirSeams) {
    const Folder folder;
    const SurfaceSet ring{{*interpolate_grid(test::torus(24, 16, 3, 1), plume::Run())}};
    const double area = *area_of(ring, plume::Run());
    for (const char* name : formats) {
        const auto read = written_and_read(test::job_of(Value(ring), "ring"), folder / name);
        EXPECT_NEAR(sum_of(read, "area") / 1e6, area, 3 * by_facets * area);
        EXPECT_NEAR(std::abs(sum_of(read, "volume")) / 1e9, 6 * std::numbers::pi * std::numbers::pi, 0.3);
    }
}

TEST(JudgedExact, PartsAreNamedSolidsInAnAssembly) {
    const Folder folder;
    ExportJob job = test::job_of(from_example("mesh.bars.plume", "beams"), "Träger");
    job.results[0].show.material.key = "timber";
    const auto read = written_and_read(job, folder / "it.step");
    ASSERT_EQ(read["meshes"].size(), 58U);
    double volume = 0;
    for (const auto& mesh : read["meshes"]) {
        EXPECT_TRUE(mesh["name"].get<std::string>().starts_with("Träger ")) << mesh["name"];
        EXPECT_EQ(mesh["faces"], 6);
        EXPECT_GT(mesh["volume"].get<double>(), 0);
        // Timber, 0xBE9569, as light adds up.
        EXPECT_NEAR(mesh["colour"][0].get<double>(), std::pow((0xBE / 255.0 + 0.055) / 1.055, 2.4), 2e-3);
        volume += mesh["volume"].get<double>() / 1e9;
    }
    EXPECT_NEAR(volume, 58 * 0.08 * 0.2, 1e-6) << "58 m of 80 by 200 mm";
    ASSERT_EQ(read["root"]["children"].size(), 1U);
    EXPECT_EQ(read["root"]["children"][0]["name"], "Träger");
    EXPECT_EQ(read["root"]["children"][0]["children"].size(), 58U);
}

TEST(JudgedExact, UnitsAreSaidAndConverted) {
    const Folder folder;
    Mesh::Parts plate;
    plate.x = Doubles{0, 2, 2, 0};
    plate.y = Doubles{0, 0, 3, 3};
    plate.z = Doubles(4, 0.5);
    plate.first = {0, 4};
    plate.corners = {0, 1, 2, 3};
    const Value value = *Mesh::make(std::move(plate));
    for (const auto& [unit, name] : {std::pair{LengthUnit::metre, "it.step"},
                                     {LengthUnit::centimetre, "it.step"},
                                     {LengthUnit::foot, "it.step"},
                                     {LengthUnit::inch, "it.igs"}}) {
        ExportJob job = test::job_of(value, "plate", unit);
        job.study_units.length = LengthUnit::foot;  // as if it were one in feet
        const auto read = written_and_read(job, folder / name);
        EXPECT_NEAR(sum_of(read, "area") / std::pow(304.8, 2), 6, 1e-9) << name << ' ' << symbol(unit);
        EXPECT_NEAR(read["meshes"][0]["high"][2].get<double>(), 152.4, 1e-9);
    }
}

TEST(JudgedExact, WhatCannotGoIsSaid) {
    const Folder folder;
    const auto empty =
        export_results(test::job_of(Value(CurveSet{}), "none"), folder / "it.step", plume::Run());
    ASSERT_FALSE(empty);
    EXPECT_EQ(empty.error().code, ErrorCode::nothing_to_write);
    const auto number =
        export_results(test::job_of(Value(Quantity{1, a_length}), "n"), folder / "it.step", plume::Run());
    ASSERT_FALSE(number);
    EXPECT_EQ(number.error().code, ErrorCode::wrong_kind);
    const auto odd =
        export_results(test::job_of(test::grid(
                           2, 2, [](double, double) { return std::numeric_limits<double>::quiet_NaN(); })),
                       folder / "it.step", plume::Run());
    ASSERT_FALSE(odd);
    EXPECT_EQ(odd.error().code, ErrorCode::not_finite);
    EXPECT_FALSE(std::filesystem::exists(folder / "it.step"));
    const plume::Run stopped;
    stopped.cancel();
    EXPECT_EQ(
        export_results(test::job_of(from_example("mesh.bars.plume", "beams")), folder / "it.step", stopped)
            .error()
            .code,
        ErrorCode::cancelled);
}

}  // namespace
}  // namespace plume

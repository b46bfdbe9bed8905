// Plans as an XML reader and poppler find them.

#include <cmath>
#include <sstream>

#include "core/exchange/study_file.hpp"
#include "judged/judges.hpp"

namespace plume {
namespace {

using test::Folder;
using test::judged;
using test::StudyMaker;
using Json = nlohmann::json;

// A ring of 2 m, a slab with round corners of 6 by 4 m and a row of three points.
ExportJob job() {
    StudyMaker maker;
    maker.add("outline.shape", "ring");
    maker.word("ring", "shape", "circle").number("ring", "radius", "2 m");
    maker.add("outline.shape", "slab");
    maker.word("slab", "shape", "rectangle").number("slab", "width", "6 m").number("slab", "depth", "4 m");
    maker.add("lattice.rectangular", "plot");
    maker.number("plot", "columns", "2").number("plot", "rows", "1");
    maker.number("plot", "width", "4 m").number("plot", "depth", "2 m");
    const Evaluation made = test::run(maker.study);
    ExportJob job{{}, {}, LengthUnit::millimetre};
    for (const char* name : {"ring", "slab", "plot"})
        job.results.push_back({made.outcome(name)->value, name});
    job.results[2].name = "Beete <&> \"1\"";
    job.results[2].show.labels = true;
    return job;
}

std::string written(const ExportJob& job, const std::filesystem::path& path) {
    const auto report = export_results(job, path, plume::Run());
    EXPECT_TRUE(report) << sentence(report.error());
    return report ? *report : "";
}

TEST(JudgedPlans, SvgIsToScaleOnLayersWithExactArcs) {
    const Folder folder;
    ExportJob wanted = job();
    wanted.plan_scale = 50;
    const std::string report = written(wanted, folder / "it.svg");
    EXPECT_NE(report.find("at 1:50 on 140 × 100 mm"), std::string::npos) << report;
    const Json read = judged("svg.py", folder / "it.svg");
    EXPECT_EQ(read["width"], "140mm");
    EXPECT_EQ(read["height"], "100mm");
    EXPECT_EQ(read["viewBox"], "0 0 140 100");
    ASSERT_EQ(read["layers"].size(), 4U);
    EXPECT_EQ(read["layers"][0]["title"], "ring");
    const std::string ring = read["layers"][0]["paths"][0];
    EXPECT_EQ(ring, "M110 50A40 40 0 0 0 30 50A40 40 0 0 0 110 50Z");
    const std::string slab = read["layers"][1]["paths"][0];
    EXPECT_EQ(std::ranges::count(slab, 'L'), 4) << slab;
    EXPECT_EQ(read["layers"][2]["title"], "Beete <&> \"1\"");
    ASSERT_EQ(read["layers"][2]["dots"].size(), 6U);
    EXPECT_EQ(read["layers"][2]["dots"][0], (Json::array({30.0, 70.0})));
    EXPECT_EQ(read["layers"][3]["texts"].size(), 6U);
}

TEST(JudgedPlans, ScalesFitASheetWhereNoneIsAsked) {
    const Folder folder;
    ExportJob wanted = job();
    EXPECT_NE(written(wanted, folder / "it.svg").find("at 1:10 on 620 × 420 mm"), std::string::npos);
    wanted.plan_scale = 0.01;
    const auto refused = export_results(wanted, folder / "it.svg", plume::Run());
    ASSERT_FALSE(refused);
    EXPECT_EQ(refused.error().code, ErrorCode::out_of_range);
}

TEST(JudgedPlans, PdfHasTheSheetTheLettersAndTheInk) {
    const Folder folder;
    ExportJob wanted = job();
    wanted.plan_scale = 50;
    written(wanted, folder / "it.pdf");
    const std::string file = '\'' + (folder / "it.pdf").string() + '\'';
    const std::string info = test::output_of("pdfinfo " + file);
    EXPECT_NE(info.find("Pages:           1"), std::string::npos) << info;
    double width = 0, height = 0;
    std::istringstream(info.substr(info.find("Page size:") + 10)) >> width;
    std::istringstream(info.substr(info.find(" x ", info.find("Page size:")) + 3)) >> height;
    EXPECT_NEAR(width, 140 / 25.4 * 72, 0.01);
    EXPECT_NEAR(height, 100 / 25.4 * 72, 0.01);
    EXPECT_NE(test::output_of("pdftotext " + file + " -").find("2, 1"), std::string::npos);
    // At 254 dots an inch a millimetre is ten: where the circle is at its right there is ink, inside there is
    // none.
    test::output_of("pdftoppm -r 254 -gray -singlefile " + file + " '" + (folder / "it").string() + '\'');
    const std::string picture = *read_file(folder / "it.pgm", 10'000'000);
    std::istringstream head(picture);
    std::string magic;
    std::size_t columns = 0, rows = 0, most = 0;
    head >> magic >> columns >> rows >> most;
    EXPECT_EQ(columns, 1400U);
    ASSERT_NEAR(static_cast<double>(rows), 1000, 1) << "a row more where the height is no whole number";
    const std::size_t first = picture.size() - columns * rows;
    const auto grey = [&](std::size_t x_mm10, std::size_t y_mm10) {
        unsigned darkest = 255;
        for (std::size_t y = y_mm10 - 2; y <= y_mm10 + 2; ++y)
            for (std::size_t x = x_mm10 - 2; x <= x_mm10 + 2; ++x)
                darkest =
                    std::min<unsigned>(darkest, static_cast<unsigned char>(picture[first + x + columns * y]));
        return darkest;
    };
    const double eighth = 400 * std::sqrt(0.5);
    EXPECT_LT(grey(700 + static_cast<std::size_t>(eighth), 500 + static_cast<std::size_t>(eighth)), 128U);
    EXPECT_LT(grey(1100, 480), 128U) << "the right end of the ring";
    EXPECT_LT(grey(100, 400), 128U) << "the slab's left side";
    EXPECT_GT(grey(850, 420), 250U) << "nothing inside";
}

TEST(JudgedPlans, PdfNamesItsLayersAndCountsLargePagesInLargerUnits) {
    const Folder folder;
    ExportJob wanted = job();
    wanted.plan_scale = 0.5;
    written(wanted, folder / "it.pdf");
    const std::string text = *read_file(folder / "it.pdf", 10'000'000);
    // Lenient readers take whatever the tree of pages names.
    EXPECT_NE(text.find("/Type /Page /Parent 2 0 R"), std::string::npos);
    EXPECT_NE(text.find("/Type /OCG /Name <FEFF00720069006E0067>"), std::string::npos) << "ring";
    EXPECT_NE(text.find("/UserUnit 3"), std::string::npos) << "12 m are 34 000 points";
    EXPECT_NE(test::output_of("pdfinfo '" + (folder / "it.pdf").string() + "'").find("Pages:           1"),
              std::string::npos);
}

TEST(JudgedPlans, ContoursOfTheCanopyAreCubicsAndItsRimIsDrawn) {
    const Folder folder;
    const Evaluation canopy = test::run(*load_study(std::string(PLUME_DEMO_DIR) + "/wing-canopy.plume"));
    ExportJob wanted{{}, {}, LengthUnit::millimetre};
    for (const char* name : {"canopy", "contours"})
        wanted.results.push_back({canopy.outcome(name)->value, name});
    wanted.layers_by = "level";
    written(wanted, folder / "it.svg");
    const Json read = judged("svg.py", folder / "it.svg");
    EXPECT_EQ(read["layers"][0]["title"], "canopy");
    EXPECT_GT(read["layers"].size(), 10U) << "a layer a level";
    std::size_t cubics = 0;
    for (const Json& layer : read["layers"])
        for (const Json& path : layer["paths"])
            cubics += path.get<std::string>().find('C') != std::string::npos ? 1 : 0;
    EXPECT_GT(cubics, 30U);
}

}  // namespace
}  // namespace plume

// Plans as an XML reader and poppler find them.

#include <algorithm>
#include <cmath>
#include <sstream>

#include "core/exchange/drawing.hpp"
#include "core/exchange/study_file.hpp"
#include "core/made_forms.hpp"
#include "folders.hpp"
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

// A page as poppler draws it, at 254 dots an inch: a millimetre is ten; rows from above.
struct Sheet {
    std::size_t columns = 0, rows = 0;
    std::string grey;

    unsigned at(std::size_t x, std::size_t y) const {
        return static_cast<unsigned char>(grey[x + columns * y]);
    }
    unsigned darkest_around(std::size_t x, std::size_t y) const {
        unsigned darkest = 255;
        for (std::size_t row = y - 2; row <= y + 2; ++row)
            for (std::size_t column = x - 2; column <= x + 2; ++column)
                darkest = std::min(darkest, at(column, row));
        return darkest;
    }
};
Sheet rendered(const std::filesystem::path& pdf) {
    const std::string stem = pdf.parent_path() / pdf.stem();
    test::output_of("pdftoppm -r 254 -gray -singlefile '" + pdf.string() + "' '" + stem + '\'');
    const std::string picture = *read_file(stem + ".pgm", 100'000'000);
    std::istringstream head(picture);
    std::string magic;
    std::size_t most = 0;
    Sheet sheet;
    head >> magic >> sheet.columns >> sheet.rows >> most;
    sheet.grey = picture.substr(picture.size() - sheet.columns * sheet.rows);
    return sheet;
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
    const Sheet sheet = rendered(folder / "it.pdf");
    EXPECT_EQ(sheet.columns, 1400U);
    ASSERT_NEAR(static_cast<double>(sheet.rows), 1000, 1) << "a row more where the height is no whole number";
    const auto grey = [&](std::size_t x, std::size_t y) { return sheet.darkest_around(x, y); };
    const double eighth = 400 * std::sqrt(0.5);
    EXPECT_LT(grey(700 + static_cast<std::size_t>(eighth), 500 + static_cast<std::size_t>(eighth)), 128U);
    EXPECT_LT(grey(1100, 480), 128U) << "the right end of the ring";
    EXPECT_LT(grey(100, 400), 128U) << "the slab's left side";
    EXPECT_GT(grey(850, 420), 250U) << "nothing inside";
}

// A block of 4 by 2 m in plan at 1:50: ink stands 80 mm and 40 mm apart, measured on the page.
TEST(JudgedPlans, DrawingsAreToScaleOnThePage) {
    const Evaluation made = test::run(test::boxes_of({}, "4 m", "2 m", "3 m").study);
    const PaperSize& a3 = *std::ranges::find(paper_sizes(), "a3", &PaperSize::key);
    DrawingJob drawing{{{made.outcome("boxes")->value, "block"}}, {}, {SheetView::plan}, a3};
    drawing.scale = 50;
    drawing.title = "Hide";
    const Folder folder;
    ASSERT_TRUE(write_drawing(drawing, folder / "it.pdf", plume::Run()));
    const Sheet sheet = rendered(folder / "it.pdf");
    EXPECT_EQ(sheet.columns, 4200U);
    ASSERT_NEAR(static_cast<double>(sheet.rows), 2970, 1);
    // From the middle of the block, which the layout puts at 203 and 167.5 mm, to the ink on each side.
    const std::size_t x = 2030, y = sheet.rows - 1675;
    const auto ink = [&](int right, int down) {
        std::size_t steps = 0;
        while (steps < 1000 && sheet.at(x + static_cast<std::size_t>(right) * steps,
                                        y + static_cast<std::size_t>(down) * steps) > 128)
            ++steps;
        return static_cast<double>(steps) / 10;
    };
    EXPECT_NEAR(ink(1, 0) + ink(-1, 0), 80 - 0.35, 0.25) << "between the inner sides of strokes of 0.35 mm";
    EXPECT_NEAR(ink(0, 1) + ink(0, -1), 40 - 0.35, 0.25);
    EXPECT_NE(test::output_of("pdftotext '" + (folder / "it.pdf").string() + "' -").find("1 : 50"),
              std::string::npos);
    // The same lines in the drawing and in the vector file, by other readers.
    ASSERT_TRUE(write_drawing(drawing, folder / "it.dxf", plume::Run()));
    ASSERT_TRUE(write_drawing(drawing, folder / "it.svg", plume::Run()));
    const Json svg = judged("svg.py", folder / "it.svg");
    EXPECT_EQ(svg["width"], "420mm");
    EXPECT_EQ(svg["layers"][0]["title"], "block");
    EXPECT_EQ(svg["layers"][0]["paths"].size(), 4U);
    const Json dxf = judged("dxf.py", folder / "it.dxf");
    EXPECT_TRUE(dxf["errors"].empty()) << dxf;
}

TEST(JudgedPlans, CutFacesAreFilledInEveryFormat) {
    const Evaluation made = test::run(test::boxes_of({}, "4 m", "2 m", "3 m").study);
    const PaperSize& a3 = *std::ranges::find(paper_sizes(), "a3", &PaperSize::key);
    DrawingJob drawing{{{made.outcome("boxes")->value, "block"}}, {}, {SheetView::section_north}, a3};
    drawing.scale = 50;
    const Folder folder;
    ASSERT_TRUE(write_drawing(drawing, folder / "it.pdf", plume::Run()));
    const auto plan = drawing_of(drawing, plume::Run());
    ASSERT_TRUE(plan);
    const PlanItem& item = plan->items.front();
    // Grey inside of its outline, white beside it.
    const Sheet sheet = rendered(folder / "it.pdf");
    const auto grey_at = [&](double x, double y) {
        return sheet.at(static_cast<std::size_t>(x * 10), sheet.rows - static_cast<std::size_t>(y * 10));
    };
    const double x = item.low.x + 20, y = item.low.y + item.height - 10;
    EXPECT_LT(grey_at(x, y), 250U);
    EXPECT_GT(grey_at(x, y), 100U);
    EXPECT_GT(grey_at(item.low.x - 5, y), 250U);
    ASSERT_TRUE(write_drawing(drawing, folder / "it.dxf", plume::Run()));
    const Json dxf = judged("dxf.py", folder / "it.dxf");
    EXPECT_TRUE(dxf["errors"].empty()) << dxf;
    EXPECT_NE(dxf.dump().find("HATCH"), std::string::npos) << dxf;
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
    const Evaluation canopy = test::run(*load_study(std::string(test::demo_folder) + "/wing-canopy.plume"));
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

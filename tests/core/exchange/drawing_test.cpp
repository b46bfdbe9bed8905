// Drawings: what stands where on the sheet, by closed forms.

#include "core/exchange/drawing.hpp"

#include <algorithm>
#include <cmath>
#include <fstream>

#include "core/base/file.hpp"
#include "core/exchange/drawing_sheet.hpp"
#include "core/made_forms.hpp"

namespace plume {
namespace {

// A block of 4 by 2 by 3 m.
Value block() {
    return test::value_of(test::run(test::boxes_of({}, "4 m", "2 m", "3 m").study), "boxes");
}

const PaperSize& paper(std::string_view key) {
    return *std::ranges::find(paper_sizes(), key, &PaperSize::key);
}

DrawingJob job_of(const Value& value, std::vector<SheetView> views, double scale = 0) {
    DrawingJob job{{{std::make_shared<const Value>(value), "block"}}, {}, std::move(views), paper("a3")};
    job.scale = scale;
    job.title = "Hide, Sallow Reach";
    return job;
}

Plan drawn(const DrawingJob& job) {
    auto plan = drawing_of(job, plume::Run());
    if (!plan) throw std::runtime_error(sentence(plan.error()));
    return *std::move(plan);
}

const PlanLayer& layer_of(const Plan& plan, std::string_view name) {
    const auto found = std::ranges::find(plan.layers, name, &PlanLayer::name);
    if (found == plan.layers.end()) throw std::runtime_error("no layer " + std::string(name));
    return *found;
}

double length_on_paper(const PlanPath& path) {
    return std::hypot(path.steps.front().to.x - path.start.x, path.steps.front().to.y - path.start.y);
}

std::vector<double> lengths(const PlanLayer& layer) {
    std::vector<double> all;
    for (const PlanPath& path : layer.paths)
        all.push_back(std::round(length_on_paper(path) * 1e6) / 1e6);
    std::ranges::sort(all);
    return all;
}

bool says(const PlanLayer& layer, const std::string& text) {
    return std::ranges::find(layer.texts, text, &PlanText::text) != layer.texts.end();
}

TEST(Drawings, ViewsAreToScale) {
    // 1:50: 80 by 40 by 60 mm.
    const Plan plan = drawn(job_of(block(), {SheetView::plan}, 50));
    EXPECT_EQ(plan.width, 420);
    EXPECT_EQ(plan.height, 297);
    EXPECT_EQ(lengths(layer_of(plan, "block")), (std::vector<double>{40, 40, 80, 80}));
    const PlanLayer& dimensions = layer_of(plan, "dimensions");
    EXPECT_TRUE(says(dimensions, "4 m") && says(dimensions, "2 m") && says(dimensions, "In plan"));
    EXPECT_EQ(lengths(layer_of(drawn(job_of(block(), {SheetView::from_south}, 50)), "block")),
              (std::vector<double>{60, 60, 80, 80}));
    EXPECT_EQ(lengths(layer_of(drawn(job_of(block(), {SheetView::from_west}, 50)), "block")),
              (std::vector<double>{40, 40, 60, 60}));
    // Isometric: all three axes by the root of two thirds; nine edges.
    const Plan angle = drawn(job_of(block(), {SheetView::at_an_angle}, 50));
    std::vector<double> wanted;
    for (const double side : {40.0, 60.0, 80.0})
        wanted.insert(wanted.end(), 3, std::round(side * std::sqrt(2.0 / 3) * 1e6) / 1e6);
    EXPECT_EQ(lengths(layer_of(angle, "block")), wanted);
    EXPECT_EQ(plan.report.what, "1 view of 1 result at 1:50 on A3 (4 lines)");
}

TEST(Drawings, WhatIsHiddenIsLeftOutOrDashed) {
    DrawingJob job = job_of(block(), {SheetView::at_an_angle}, 50);
    job.dashed = true;
    const Plan plan = drawn(job);
    EXPECT_EQ(layer_of(plan, "block").paths.size(), 9U);
    const PlanLayer& hidden = layer_of(plan, "block hidden");
    ASSERT_EQ(hidden.paths.size(), 3U);
    for (const PlanPath& path : hidden.paths)
        EXPECT_TRUE(path.dashed);
}

TEST(Drawings, SeveralViewsFitTheSheetAndDoNotOverlap) {
    const std::vector<SheetView> all = {SheetView::plan,       SheetView::from_south, SheetView::from_east,
                                        SheetView::from_north, SheetView::from_west,  SheetView::at_an_angle};
    const Plan plan = drawn(job_of(block(), all));
    // The first of 1, 2, 5, 10, 20, 25 … at which they fit: at the one before they do not.
    EXPECT_EQ(plan.scale, 50);
    EXPECT_EQ(drawing_of(job_of(block(), all, 25), plume::Run()).error().code, ErrorCode::out_of_range);
    for (const PlanLayer& layer : plan.layers)
        for (const PlanPath& path : layer.paths)
            for (const PaperPlace end : {path.start, path.steps.front().to}) {
                EXPECT_GE(end.x, plan_margin - 1e-9) << layer.name;
                EXPECT_LE(end.x, 420 - plan_margin + 1e-9) << layer.name;
                EXPECT_GE(end.y, plan_margin - 1e-9) << layer.name;
                EXPECT_LE(end.y, 297 - plan_margin + 1e-9) << layer.name;
            }
    EXPECT_TRUE(says(layer_of(plan, "sheet"), "1 : 50   A3"));
    EXPECT_TRUE(says(layer_of(plan, "sheet"), "Hide, Sallow Reach"));
    EXPECT_TRUE(says(layer_of(plan, "sheet"), "N"));
    EXPECT_FALSE(says(layer_of(drawn(job_of(block(), {SheetView::from_south})), "sheet"), "N"))
        << "where no plan is";
}

TEST(Drawings, ViewsAreLaidOutInRows) {
    const auto one = laid_out({{100, 50}, {100, 80}, {150, 40}}, {250, 200});
    ASSERT_TRUE(one);
    EXPECT_EQ((*one)[0].x, 20) << "two of 100 and 10 between them, in the middle of 250";
    EXPECT_EQ((*one)[1].x, 130);
    EXPECT_EQ((*one)[2].x, 50);
    EXPECT_EQ((*one)[0].y, (*one)[1].y) << "one row";
    EXPECT_NEAR((*one)[0].y - (*one)[2].y, 50, 1e-12) << "40 and 10 between rows";
    EXPECT_FALSE(laid_out({{100, 50}, {100, 80}, {151, 70}, {100, 60}}, {250, 200}));
    EXPECT_FALSE(laid_out({{251, 50}}, {250, 200}));
    EXPECT_TRUE(laid_out({}, {250, 200}));
}

TEST(Drawings, WhatCannotBeDrawnIsSaid) {
    const auto too_large = drawing_of(job_of(block(), {SheetView::plan}, 5), plume::Run());
    ASSERT_FALSE(too_large);
    EXPECT_EQ(sentence(too_large.error()),
              "of 1 : 5 makes the views larger than A3. Type 20 or more, or choose larger paper.");
    EXPECT_EQ(too_large.error().slot, "scale");
    std::vector<SheetView> many(150, SheetView::plan);
    const auto crowd = drawing_of(job_of(block(), many), plume::Run());
    ASSERT_FALSE(crowd);
    EXPECT_EQ(crowd.error().code, ErrorCode::out_of_range);
    plume::Run cancelled;
    cancelled.cancel();
    EXPECT_EQ(drawing_of(job_of(block(), {SheetView::plan}), cancelled).error().code, ErrorCode::cancelled);
    EXPECT_FALSE(sheet_view_from("from below"));
    EXPECT_EQ(sheet_view_from("from the west"), SheetView::from_west);
}

TEST(Drawings, AreWrittenInThreeFormats) {
    const test::Folder folder;
    for (const char* name : {"it.pdf", "it.svg", "it.dxf"}) {
        const auto report =
            write_drawing(job_of(block(), {SheetView::plan}, 50), folder / name, plume::Run());
        ASSERT_TRUE(report) << sentence(report.error());
        EXPECT_EQ(*report, "Drew 1 view of 1 result at 1:50 on A3 (4 lines) to ‘" + std::string(name) + "’.");
        EXPECT_GT(read_file(folder / name, 1'000'000)->size(), 1000U);
    }
    EXPECT_FALSE(write_drawing(job_of(block(), {SheetView::plan}, 5), folder / "no.pdf", plume::Run()));
    EXPECT_FALSE(std::filesystem::exists(folder / "no.pdf"));
}

}  // namespace
}  // namespace plume

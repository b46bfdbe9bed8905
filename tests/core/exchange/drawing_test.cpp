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
        EXPECT_EQ(path.dashes, PlanDashes::dashed);
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

// A ramp from 0 to 2 m over 4 m, rising east.
Value ramp() {
    return Value(test::mesh_of_faces({{0, 0, 0}, {4, 0, 2}, {4, 3, 2}, {0, 3, 0}}, {{0, 1, 2, 3}}));
}
ExportedResult line_result(const char* name, const std::vector<Vec3>& corners) {
    return {std::make_shared<const Value>(CurveSet{{test::polyline(corners)}}), name};
}

TEST(Drawings, SectionsCutAndFill) {
    const Plan plan = drawn(job_of(block(), {SheetView::plan, SheetView::section_north}, 50));
    // 4 by 3 m, as heavy lines and as a face; nothing behind is seen of a block.
    const PlanLayer& cut = layer_of(plan, "block cut");
    EXPECT_EQ(lengths(cut), (std::vector<double>{60, 60, 80, 80}));
    for (const PlanPath& path : cut.paths)
        EXPECT_EQ(path.stroke, 0.5);
    ASSERT_EQ(cut.fills.size(), 1U);
    ASSERT_EQ(cut.fills.front().rings.size(), 1U);
    double twice = 0;
    const std::vector<PaperPlace>& ring = cut.fills.front().rings.front();
    for (std::size_t at = 0; at < ring.size(); ++at) {
        const PaperPlace from = ring[at], to = ring[(at + 1) % ring.size()];
        twice += from.x * to.y - from.y * to.x;
    }
    EXPECT_NEAR(std::abs(twice) / 2, 60 * 80, 1e-6);
    EXPECT_TRUE(says(layer_of(plan, "dimensions"), "Section A-A, looking north"));
    // In plan it is marked at both ends, half of the way up the 40 mm.
    const PlanLayer& marks = layer_of(plan, "sections");
    EXPECT_EQ(std::ranges::count(marks.texts, "A", &PlanText::text), 2);
    const PlanItem& in_plan = plan.items.front();
    const PlanPath& chain = marks.paths.back();
    EXPECT_EQ(chain.dashes, PlanDashes::chain);
    EXPECT_NEAR(chain.start.y, chain.steps.front().to.y, 1e-9);
    EXPECT_NEAR(length_on_paper(chain), 80, 1e-9);
    EXPECT_EQ(in_plan.name, "in plan");
}

TEST(Drawings, SectionsPassThePlaceTheyAreGiven) {
    DrawingJob job = job_of(ramp(), {SheetView::section_west}, 50);
    // Looking west at 3 m east: the ramp is cut 1.5 m up, and what is before, further east, is gone.
    job.cut = Vec3{3, 0, 0};
    const Plan plan = drawn(job);
    EXPECT_EQ(lengths(layer_of(plan, "block cut")), (std::vector<double>{60}));
    EXPECT_TRUE(layer_of(plan, "block cut").fills.empty()) << "an open sheet has no face to be cut";
    EXPECT_TRUE(says(layer_of(plan, "dimensions"), "1.5 m"));
    EXPECT_FALSE(says(layer_of(plan, "dimensions"), "2 m"));
    job.cut = Vec3{-1, 0, 0};
    const auto beyond = drawing_of(job, plume::Run());
    ASSERT_FALSE(beyond);
    EXPECT_EQ(sentence(beyond.error()),
              "shows nothing section looking west. Move where it is cut, or pick another view.");
}

TEST(Drawings, LettersGoByTheOrderOfSections) {
    const Plan plan = drawn(job_of(
        block(), {SheetView::section_down, SheetView::from_south, SheetView::section_east, SheetView::plan},
        50));
    const PlanLayer& dimensions = layer_of(plan, "dimensions");
    EXPECT_TRUE(says(dimensions, "Section A-A, looking down"));
    EXPECT_TRUE(says(dimensions, "Section B-B, looking east"));
    // Level ones are marked from the side, upright ones from above: A from the south and in B, B in plan and
    // in A.
    const PlanLayer& marks = layer_of(plan, "sections");
    EXPECT_EQ(std::ranges::count(marks.texts, "A", &PlanText::text), 4);
    EXPECT_EQ(std::ranges::count(marks.texts, "B", &PlanText::text), 4);
}

TEST(Drawings, ContoursStandAtTheirHeights) {
    DrawingJob job = job_of(ramp(), {SheetView::plan}, 50);
    job.contour_step = 0.5;
    const Plan plan = drawn(job);
    const PlanLayer& contours = layer_of(plan, "block contours");
    // At 0.5, 1 and 1.5 m; 2 m is the upper rim itself. Each runs 3 m north, a metre from the next.
    ASSERT_GE(contours.paths.size(), 3U);
    std::vector<double> x;
    for (const PlanPath& path : contours.paths) {
        EXPECT_NEAR(length_on_paper(path), 60, 1e-9);
        EXPECT_NEAR(path.start.x, path.steps.front().to.x, 1e-9);
        x.push_back(path.start.x);
    }
    std::ranges::sort(x);
    for (std::size_t at = 1; at < 3; ++at)
        EXPECT_NEAR(x[at] - x[at - 1], 20, 1e-9);
    EXPECT_TRUE(says(contours, "0.5 m") && says(contours, "1 m") && says(contours, "1.5 m"));
    job.contour_step = 1e-6;
    const auto many = drawing_of(job, plume::Run());
    ASSERT_FALSE(many);
    EXPECT_EQ(many.error().slot, "contour_step");
    EXPECT_EQ(sentence(many.error()), "makes more than 1000 levels of ‘block’. Type 0.02 m or more.");
}

TEST(Drawings, DistancesAreDrawnWhereTheyAreAsLongAsTheyAre) {
    DrawingJob job = job_of(block(), {SheetView::plan, SheetView::at_an_angle}, 50);
    job.distances = {line_result("spans", {{0, 0, 0}, {3, 4, 0}, {3, 4, 2}})};
    const Plan plan = drawn(job);
    const PlanLayer& distances = layer_of(plan, "distances");
    ASSERT_EQ(distances.texts.size(), 1U) << "the upright piece is a point in plan";
    EXPECT_EQ(distances.texts.front().text, "5 m");
    EXPECT_NEAR(length_on_paper(distances.paths.front()), 100, 1e-9);
    ASSERT_EQ(plan.report.left_out.size(), 1U);
    EXPECT_EQ(plan.report.left_out.front(), "1 distance that no view shows as long as it is");
}

TEST(Drawings, AxesAreNamedByTheWayTheyRun) {
    DrawingJob job = job_of(block(), {SheetView::plan, SheetView::from_south}, 50);
    job.axes = {line_result("east", {{2, -2, 0}, {2, 2, 0}}), line_result("west", {{-2, -2, 0}, {-2, 2, 0}}),
                line_result("level", {{-3, 0, 0}, {3, 0, 0}})};
    const Plan plan = drawn(job);
    const PlanLayer& axes = layer_of(plan, "axes");
    // In plan all three, at both ends; from the south the two that run north are seen as points and drawn
    // upright, and the third runs along.
    EXPECT_EQ(std::ranges::count(axes.texts, "1", &PlanText::text), 4);
    EXPECT_EQ(std::ranges::count(axes.texts, "2", &PlanText::text), 4);
    EXPECT_EQ(std::ranges::count(axes.texts, "A", &PlanText::text), 4);
    double first = 0, second = 0;
    for (const PlanText& text : axes.texts)
        (text.text == "1" ? first : text.text == "2" ? second : first) += text.text == "A" ? 0 : text.at.x;
    EXPECT_LT(first, second) << "from west to east";
    job.axes = {{std::make_shared<const Value>(block()), "block"}};
    const auto bodies = drawing_of(job, plume::Run());
    ASSERT_FALSE(bodies);
    EXPECT_EQ(sentence(bodies.error()),
              "gives ‘block’ as axes, which has no lines. Give curves or a frame as axes.");
}

TEST(Drawings, SchedulesStandBesideTheViews) {
    DrawingJob job = job_of(block(), {SheetView::plan}, 50);
    job.schedules = {{std::make_shared<const Value>(block()), "block"}};
    const Plan plan = drawn(job);
    ASSERT_EQ(plan.items.size(), 2U);
    EXPECT_EQ(plan.items[1].name, "schedule of block");
    const PlanLayer& table = layer_of(plan, "schedule of block");
    EXPECT_TRUE(says(table, "block") && says(table, "volume (m³)") && says(table, "24"));
    EXPECT_EQ(plan.report.what, "1 view of 1 result and 1 schedule at 1:50 on A3 (4 lines)");
    job.schedules_by = "nothing of the kind";
    EXPECT_EQ(drawing_of(job, plume::Run()).error().code, ErrorCode::unknown_name);
}

TEST(Drawings, LongSchedulesGoOnInAnotherBlockOrDoNotFit) {
    const auto boxes = [](int count) {
        const auto maker = test::boxes_of({count, 1, 1}, "400 m", "2 m", "3 m");
        return std::make_shared<const Value>(test::value_of(test::run(maker.study), "boxes"));
    };
    DrawingJob job = job_of(*boxes(1), {SheetView::plan});
    job.schedules = {{boxes(60), "boxes"}};
    const Plan plan = drawn(job);
    EXPECT_LT(plan.items[1].height, 297 - 2 * plan_margin - sheet_foot);
    const PlanLayer& table = layer_of(plan, "schedule of boxes");
    EXPECT_EQ(std::ranges::count(table.texts, "volume (m³)", &PlanText::text), 2) << "two blocks";
    job.schedules = {{boxes(4000), "boxes"}};
    const auto crowd = drawing_of(job, plume::Run());
    ASSERT_FALSE(crowd);
    EXPECT_EQ(sentence(crowd.error()),
              "has a schedule of ‘boxes’ with 4\u202f000 rows, which does not fit A3. Group its rows, choose "
              "larger paper, or give it as a table.");
}

TEST(Drawings, ViewsStandWhereTheyArePlaced) {
    DrawingJob job = job_of(block(), {SheetView::plan, SheetView::from_south}, 50);
    const Plan rows = drawn(job);
    job.placed = {{"from the south", 30, 120}, {"from the moon", 1, 1}};
    const Plan plan = drawn(job);
    EXPECT_EQ(plan.items[1].low.x, 30);
    EXPECT_EQ(plan.items[1].low.y, 120);
    EXPECT_EQ(plan.items[0].low.x, rows.items[0].low.x);
    EXPECT_EQ(plan.items[1].width, rows.items[1].width);
    // All of it has moved along.
    double left = 1e9, left_before = 1e9;
    const auto most_left = [](const Plan& of, double& to) {
        const PlanItem& item = of.items[1];
        for (const PlanPath& path : layer_of(of, "block").paths)
            if (path.start.x >= item.low.x && path.start.x <= item.low.x + item.width &&
                path.start.y >= item.low.y && path.start.y <= item.low.y + item.height)
                to = std::min(to, path.start.x - item.low.x);
    };
    most_left(plan, left);
    most_left(rows, left_before);
    EXPECT_NEAR(left, left_before, 1e-9);
    job.placed = {{"in plan", 400, 100}};
    const auto beyond = drawing_of(job, plume::Run());
    ASSERT_FALSE(beyond);
    EXPECT_EQ(beyond.error().slot, "places");
}

TEST(SheetPlaces, AreReadAndWritten) {
    const auto places = sheet_places_from("in plan at 20 140.5;\n schedule of the net at 3  -4 ;");
    ASSERT_TRUE(places);
    ASSERT_EQ(places->size(), 2U);
    EXPECT_EQ((*places)[1].of, "schedule of the net");
    EXPECT_EQ((*places)[1].y, -4);
    EXPECT_EQ(sheet_places_text(*places), "in plan at 20 140.5; schedule of the net at 3 -4");
    EXPECT_TRUE(sheet_places_from("")->empty());
    for (const char* wrong : {"in plan", "in plan at 20", "at 20 30", "in plan 20 30", "in plan at x 3",
                              "in plan at nan 3", "in plan at 1e999 3"}) {
        const auto refused = sheet_places_from(wrong);
        ASSERT_FALSE(refused) << wrong;
        EXPECT_NE(sentence(refused.error()).find("in millimetres"), std::string::npos);
    }
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

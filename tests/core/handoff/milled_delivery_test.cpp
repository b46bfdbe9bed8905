// Milling as a delivery: where the form lies in its board, what is refused, what the report says.

#include "core/handoff/milled_delivery.hpp"

#include "core/base/file.hpp"
#include "core/handoff/delivery_file.hpp"
#include "core/handoff/milled_work.hpp"
#include "core/handoff/moments.hpp"
#include "core/made_forms.hpp"
#include "core/milling/gcode.hpp"

namespace plume {
namespace {

using test::StudyMaker;

// A sheet over a lattice of one bay, 200 by 120 mm, in a plane; its form is given to be milled.
StudyMaker sheet(const char* plane = "xy") {
    StudyMaker maker;
    maker.add("lattice.rectangular", "corners");
    maker.number("corners", "columns", "2").number("corners", "rows", "2").word("corners", "plane", plane);
    maker.number("corners", "width", "200 mm").number("corners", "depth", "120 mm");
    maker.add("field.formula", "dip");
    maker.set("dip", "points", ResultName{"corners"}).formula("dip", "10 mm * i");
    maker.add("points.push", "pushed");
    maker.set("pushed", "points", ResultName{"corners"}).set("pushed", "amount", ResultName{"dip"});
    maker.word("pushed", "direction", plane == std::string("xy") ? "z" : "y");
    maker.add("skin", "form");
    maker.set("form", "points", ResultName{"pushed"}).word("form", "surface", "flat");
    maker.add("handoff.milling", "milling");
    maker.set("milling", "results", ResultList{ResultList::Of::listed, "", {{"form", ""}}});
    maker.number("milling", "margin", "15 mm").number("milling", "thickness", "30 mm");
    return maker;
}

Delivery given(const StudyMaker& maker) {
    return std::get<Delivery>(test::value_of(test::run(maker.study), "milling"));
}
std::string refused(const StudyMaker& maker) {
    const Evaluation made = test::run(maker.study);
    const Outcome& outcome = *made.outcome("milling");
    if (outcome.error) return sentence(*outcome.error);
    const auto form = form_in_board(*std::get<Delivery>(*outcome.value), {}, plume::Run());
    return form ? "not refused" : sentence(form.error());
}

TEST(MilledDeliveries, TheFormLiesInItsBoard) {
    const auto placed = form_in_board(*given(sheet()), {}, plume::Run());
    ASSERT_TRUE(placed) << sentence(placed.error());
    EXPECT_NEAR(placed->board.width, 230, 1e-9);
    EXPECT_NEAR(placed->board.depth, 150, 1e-9);
    EXPECT_NEAR(placed->board.thickness, 30, 1e-9);
    const Box bounds = placed->form.bounds();
    EXPECT_NEAR(length(bounds.low - Vec3{15, 15, -20}), 0, 1e-9);
    EXPECT_NEAR(length(bounds.high - Vec3{215, 135, 0}), 0, 1e-9);
    // Rising to the right.
    for (std::size_t vertex = 0; vertex < placed->form.vertex_count(); ++vertex) {
        const Vec3 place = placed->form.vertex(vertex);
        EXPECT_NEAR(place.z, -20 + (place.x - 15) / 10, 1e-9);
    }
}

TEST(MilledDeliveries, UprightFormsLieOnTheirBacks) {
    StudyMaker maker = sheet("xz");
    maker.word("milling", "seen", "south");
    const auto placed = form_in_board(*given(maker), {}, plume::Run());
    ASSERT_TRUE(placed) << sentence(placed.error());
    EXPECT_NEAR(placed->board.width, 230, 1e-9);
    EXPECT_NEAR(placed->board.depth, 150, 1e-9);
    // What is further north is further away, and so lower: to the right.
    for (std::size_t vertex = 0; vertex < placed->form.vertex_count(); ++vertex) {
        const Vec3 place = placed->form.vertex(vertex);
        EXPECT_NEAR(place.z, -(place.x - 15) / 10, 1e-9);
    }
}

TEST(MilledDeliveries, WhatCannotBeMilledIsSaid) {
    StudyMaker maker = sheet();
    maker.number("milling", "thickness", "19 mm");
    EXPECT_EQ(refused(maker), "of 0.019 m is less than the relief is deep, 0.02 m. Type at least that.");
    maker = sheet();
    maker.number("milling", "diameter", "130 mm");
    EXPECT_EQ(refused(maker), "of 0.13 m is more than the form is wide, 0.12 m. Choose a thinner cutter.");
    maker = sheet();
    maker.word("milling", "cutter", "flat").word("milling", "by", "ridge");
    EXPECT_NE(refused(maker).find("a flat cutter leaves none"), std::string::npos) << refused(maker);
    maker = sheet();
    maker.word("milling", "cutter", "rounded").number("milling", "corner", "7 mm");
    EXPECT_NE(refused(maker).find("more than half of the cutter’s diameter"), std::string::npos);
    maker = sheet();
    maker.word("milling", "by", "ridge").number("milling", "ridge", "7 mm");
    EXPECT_NE(refused(maker).find("higher than the cutter’s rounding"), std::string::npos);
    maker = sheet();
    maker.number("milling", "apart", "13 mm");
    EXPECT_NE(refused(maker).find("more than the cutter is wide"), std::string::npos);
    maker = sheet();
    maker.word("milling", "roughing", "levels").number("milling", "rough_apart", "21 mm");
    EXPECT_NE(refused(maker).find("more than that cutter is wide"), std::string::npos);
    maker = sheet();
    maker.set("milling", "results", ResultList{ResultList::Of::listed, "", {{"form", "clamps"}}});
    EXPECT_NE(refused(maker).find("hold nothing but clamps"), std::string::npos);
}

TEST(MilledDeliveries, TheReportIsThatOfTheRehearsedFile) {
    StudyMaker maker = sheet();
    maker.word("milling", "roughing", "levels").number("milling", "apart", "1 mm");
    const Delivery delivery = given(maker);
    const test::Folder folder;
    const auto written =
        write_delivery(*delivery, test::moments_of(Study()), folder / "form.nc", plume::Run());
    ASSERT_TRUE(written) << sentence(written.error());
    EXPECT_TRUE(written->report.starts_with("Milled in ")) << written->report;
    EXPECT_NE(written->report.find("of the form; "), std::string::npos) << written->report;
    EXPECT_NE(written->report.find(" to ‘form.nc’."), std::string::npos) << written->report;
    const std::string text = *read_file(folder / "form.nc", 100'000'000);
    EXPECT_NE(text.find("(form, milled from above)\n(board 230 x 150 x 30 mm"), std::string::npos);
    EXPECT_NE(text.find("(flat, 20 mm)\nT1 M6\n"), std::string::npos);
    EXPECT_NE(text.find("(ball, 12 mm)\nT2 M6\n"), std::string::npos);
    const auto placed = form_in_board(*delivery, {}, plume::Run());
    const auto read = gcode_from(text, plume::Run());
    ASSERT_TRUE(read) << sentence(read.error());
    const auto rehearsal = rehearsed(read->path, rehearsal_of(*delivery, *placed, {}), plume::Run());
    ASSERT_TRUE(rehearsal);
    EXPECT_LT(rehearsal->most_left, 0.05) << "a ramp of 1 in 10, paths a millimetre apart";
    EXPECT_LT(rehearsal->most_too_deep, 0.02);
    EXPECT_EQ(rehearsal->rapid_cuts, 0U);
    // In the wrong board it does not fit: the same file lies elsewhere.
    FormInBoard other = *placed;
    other.board.thickness = 15;
    EXPECT_NEAR(rehearsed(read->path, rehearsal_of(*delivery, other, {}), plume::Run())->below_board, 5, 0.5);
}

TEST(MilledDeliveries, OverhangsAreToldByTheirShare) {
    // A table's top over half of a plate.
    StudyMaker maker = test::boxes_of({}, "200 mm", "100 mm", "10 mm");
    maker.add("thing.move", "top");
    maker.set("top", "thing", ResultName{"boxes"}).number("top", "x", "100 mm").number("top", "z", "30 mm");
    maker.add("handoff.milling", "milling");
    maker.set("milling", "results", ResultList{ResultList::Of::listed, "", {{"boxes", ""}, {"top", ""}}});
    const Delivery delivery = given(maker);
    const auto placed = form_in_board(*delivery, {}, plume::Run());
    ASSERT_TRUE(placed) << sentence(placed.error());
    const auto rehearsal =
        rehearsed({{0, 0, 5}, {}}, {&placed->form, placed->board, {Cutter::ball(6)}}, plume::Run());
    ASSERT_TRUE(rehearsal);
    // 300 mm are covered, 100 of them twice.
    EXPECT_EQ(overhang_text(*rehearsal, true), "33 % of the form lies below overhangs and is lost");
    const auto alone = form_in_board(*given(sheet()), {}, plume::Run());
    EXPECT_EQ(overhang_text(
                  *rehearsed({{0, 0, 5}, {}}, {&alone->form, alone->board, {Cutter::ball(6)}}, plume::Run()),
                  false),
              "");
}

// A slot of 6 mm along the middle of a board.
RehearsedWorkPointer slot_milled(double length) {
    GcodeFile file;
    file.path.start = {0, 20, -5};
    ToolMove move{ToolMove::Form::line, {length, 20, -5}};
    move.feed = 1000;
    file.path.moves.push_back(move);
    return *milled_work(std::move(file), {nullptr, {60, 40, 10}, {Cutter::flat(3)}}, nullptr, plume::Run());
}
// How far to the right a drawn board is cut, in millimetres.
double cut_until(const RehearsedDrawing& drawing) {
    double right = 0;
    for (const DrawVertex& vertex : drawing.front()->vertices)
        if (std::abs(drawing.front()->absolute(vertex.x, vertex.y, vertex.z).z + 0.005) < 1e-6)
            right = std::max(right, 1000 * drawing.front()->absolute(vertex.x, vertex.y, vertex.z).x);
    return right;
}

TEST(MilledDeliveries, WhatStandsIsDrawnFinely) {
    const RehearsedWorkPointer work = slot_milled(60);
    const double half = work->minutes() / 2;
    work->go_to(half);
    const auto fine = work->drawn_finely(half, plume::Run());
    ASSERT_TRUE(fine) << sentence(fine.error());
    // Round the cutter's middle, to a cell of a 250 000th of the board and one of a 30 000th.
    EXPECT_NEAR(cut_until(*fine), 33, std::sqrt(60.0 * 40 / 250'000));
    EXPECT_NEAR(cut_until(work->drawn()), 33, std::sqrt(60.0 * 40 / 30'000));
    EXPECT_GT(fine->front()->vertices.size(), 7 * work->drawn().front()->vertices.size());
    // However it is reached.
    ASSERT_TRUE(work->drawn_finely(work->minutes(), plume::Run()));
    EXPECT_EQ(cut_until(*work->drawn_finely(half, plume::Run())), cut_until(*fine));
}

TEST(MilledDeliveries, DrawingFinelyIsCancelledAndDoneAfterwards) {
    const RehearsedWorkPointer work = slot_milled(60);
    plume::Run cancelled;
    cancelled.cancel();
    EXPECT_EQ(work->drawn_finely(work->minutes(), cancelled).error().code, ErrorCode::cancelled);
    EXPECT_NEAR(cut_until(*slot_milled(40)->drawn_finely(1, plume::Run())), 43, 0.1);
    EXPECT_NEAR(cut_until(*work->drawn_finely(work->minutes(), plume::Run())), 60, 0.1);
}

}  // namespace
}  // namespace plume

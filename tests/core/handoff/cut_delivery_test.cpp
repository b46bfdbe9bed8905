// Flat cutting as a delivery: which lines are what, what is refused, what the report says.

#include "core/handoff/cut_delivery.hpp"

#include "core/base/file.hpp"
#include "core/handoff/delivery_file.hpp"
#include "core/handoff/moments.hpp"
#include "core/handoff/rehearsed_work.hpp"
#include "core/made_forms.hpp"

namespace plume {
namespace {

using test::StudyMaker;

// Two boards of a deck, laid on a sheet, with all lines that are drawn there.
StudyMaker deck(const char* by = "beam") {
    StudyMaker maker;
    maker.add("lattice.rectangular", "deck");
    maker.number("deck", "columns", "2").number("deck", "rows", "1");
    maker.number("deck", "width", "2 m").number("deck", "depth", "1 m");
    maker.add("skin", "skin");
    maker.set("skin", "points", ResultName{"deck"}).word("skin", "surface", "flat");
    maker.add("mesh.panels", "boards");
    maker.set("boards", "mesh", ResultName{"skin"}).number("boards", "gap", "50 mm");
    maker.number("boards", "thickness", "18 mm").word("boards", "sizes", "formula");
    maker.formula("boards", "opening = 0.25 * mod(face, 2)");
    maker.add("mesh.on_sheets", "sheets");
    maker.set("sheets", "mesh", ResultName{"boards"});
    maker.add("curve.of_sheets", "lines");
    maker.set("lines", "sheets", ResultName{"sheets"});
    maker.add("handoff.cutting", "cutting");
    maker.set("cutting", "results", ResultList{ResultList::Of::listed, "", {{"lines", ""}}});
    maker.word("cutting", "by", by);
    return maker;
}

Delivery given(const StudyMaker& maker) {
    return std::get<Delivery>(test::value_of(test::run(maker.study), "cutting"));
}
std::string refused(const StudyMaker& maker) {
    const Evaluation made = test::run(maker.study);
    const Outcome& outcome = *made.outcome("cutting");
    if (outcome.error) return sentence(*outcome.error);
    const auto sheets = sheets_of(*std::get<Delivery>(*outcome.value), {}, plume::Run());
    return sheets ? "not refused" : sentence(sheets.error());
}

TEST(CutDeliveries, PensSayWhatLinesAre) {
    const auto sheets = sheets_of(*given(deck()), {}, plume::Run());
    ASSERT_TRUE(sheets) << sentence(sheets.error());
    ASSERT_EQ(sheets->size(), 1U);
    const FlatSheet& sheet = sheets->front();
    EXPECT_NEAR(sheet.width, 1250, 1e-6);
    EXPECT_NEAR(sheet.depth, 2500, 1e-6);
    // Two boards, of which one has an opening.
    ASSERT_EQ(sheet.rings.size(), 3U);
    EXPECT_EQ(std::ranges::count_if(sheet.rings, &CutRing::is_hole), 1);
    EXPECT_GT(sheet.marks.size(), 5U);
    EXPECT_TRUE(sheet.open.empty());
}

TEST(CutDeliveries, ResultsSayWhatLinesAre) {
    StudyMaker maker = deck();
    for (const char* what : {"cuts", "marks"}) {
        const std::string name = std::string("only_") + what;
        maker.add("curve.of_sheets", name);
        maker.set(name, "sheets", ResultName{"sheets"}).word(name, "what", what);
    }
    // What it is given as goes before the pen.
    const auto give = [&](std::vector<ResultList::Entry> names) {
        maker.set("cutting", "results", ResultList{ResultList::Of::listed, "", std::move(names)});
        auto sheets = sheets_of(*given(maker), {}, plume::Run());
        EXPECT_TRUE(sheets) << sentence(sheets.error());
        return *std::move(sheets);
    };
    const auto only_marked = give({{"only_cuts", "marks"}});
    EXPECT_EQ(only_marked.front().rings.size(), 0U);
    EXPECT_EQ(only_marked.front().marks.size(), 3U);
    const auto sheets = give({{"only_cuts", ""}, {"only_marks", ""}});
    EXPECT_EQ(sheets.front().rings.size(), 3U);
    EXPECT_GT(sheets.front().marks.size(), 5U);
    // Without rims there is a margin of 20 mm around what is there.
    const auto& corners = sheets.front().rings.front().outline.corners();
    EXPECT_GE(std::ranges::min(corners, {}, &FlatPoint::x).x, 20 - 1e-6);
}

TEST(CutDeliveries, TheReportSaysWhatItComesTo) {
    const test::Folder folder;
    for (const char* by : {"beam", "cutter"}) {
        const auto written =
            write_delivery(*given(deck(by)), test::moments_of(Study()), folder / "deck.nc", plume::Run());
        ASSERT_TRUE(written) << sentence(written.error());
        EXPECT_NE(written->report.find("1 sheet · as drawn; "), std::string::npos) << written->report;
        const std::string text = *read_file(folder / "deck.nc", 1'000'000);
        EXPECT_NE(text.find("(sheet 1: 1250 x 2500 mm)"), std::string::npos) << text.substr(0, 300);
        EXPECT_EQ(text.find("M6") != std::string::npos, by == std::string("cutter"));
        EXPECT_EQ(text.find('Z') != std::string::npos, by == std::string("cutter"));
    }
}

TEST(CutDeliveries, LinesThatLeanAreSaid) {
    StudyMaker maker;
    maker.add("curve.arc", "vault");
    maker.set("vault", "places",
              Places{{"left", "-6 m", "0 m", "0 m", "1"},
                     {"crown", "0 m", "6 m", "1 m", "1"},
                     {"right", "6 m", "0 m", "0 m", "1"}});
    maker.add("handoff.cutting", "cutting");
    maker.set("cutting", "results", ResultList{ResultList::Of::listed, "", {{"vault", ""}}});
    const auto sheets = sheets_of(*given(maker), {}, plume::Run());
    ASSERT_TRUE(sheets) << sentence(sheets.error());
    const auto file = cutting_file(*given(maker), *sheets, {}, plume::Run());
    ASSERT_TRUE(file) << sentence(file.error());
    EXPECT_EQ(file->losses, std::vector<std::string>{"1 line leans and are cut as seen from above"});
}

TEST(CutDeliveries, WhatCannotBeIsSaid) {
    StudyMaker maker = deck();
    maker.number("cutting", "mark_power", "2000");
    EXPECT_EQ(refused(maker),
              "Strength of marks would mark as strongly as it cuts. Type less, or a higher feed for marks.");
    maker = deck("cutter");
    maker.number("cutting", "mark_depth", "18 mm");
    EXPECT_EQ(refused(maker),
              "Depth of marks of 0.018 m goes through the sheet. Type less than its thickness.");
    maker = deck();
    maker.number("cutting", "feed", "0 m");
    EXPECT_NE(refused(maker).find("has to be above 0 m"), std::string::npos) << refused(maker);
}

// Played forwards and backwards; foreign files in the sentence's place.
TEST(CutDeliveries, AreRehearsedAsOtherWorkIs) {
    const test::Folder folder;
    const Delivery delivery = given(deck());
    ASSERT_TRUE(is_rehearsed(*delivery));
    const auto work = rehearsed_work(*delivery, {}, {}, plume::Run());
    ASSERT_TRUE(work) << sentence(work.error());
    EXPECT_NE((*work)->summary().find("as drawn"), std::string::npos) << (*work)->summary();
    EXPECT_EQ((*work)->now(), (*work)->minutes());
    EXPECT_EQ((*work)->line(), 0U);
    const auto lines_at = [&](double share) {
        (*work)->go_to(share * (*work)->minutes());
        return (*work)->drawn().at(3)->edges.size();
    };
    const std::size_t all = lines_at(1), none = lines_at(0), half = lines_at(0.5);
    EXPECT_EQ(none, 0U);
    EXPECT_GT(half, 0U);
    EXPECT_LT(half, all);
    EXPECT_GT((*work)->line(), 0U);
    EXPECT_EQ(lines_at(1), all);
    write_file(folder / "foreign.nc", [](const ByteSink& sink) -> Status {
        sink("G21 G90\nS1000 M3\nG0 X100 Y100\nG1 X200 F1000\nM5\n");
        return Done{};
    }).value();
    const auto foreign = rehearsed_work(*delivery, {}, folder / "foreign.nc", plume::Run());
    ASSERT_TRUE(foreign) << sentence(foreign.error());
    EXPECT_NE((*foreign)->summary().find("uncut"), std::string::npos) << (*foreign)->summary();
    EXPECT_EQ(sentence(rehearsed_work(*delivery, {}, folder / "none.nc", plume::Run()).error()).empty(),
              false);
}

}  // namespace
}  // namespace plume

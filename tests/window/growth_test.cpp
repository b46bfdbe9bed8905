// Growth, by hand: rules written, a mistake mended, generations played, a part asked why it is there.

#include <QPlainTextEdit>
#include <QToolButton>
#include <algorithm>

#include "app/formula/formula_block.hpp"
#include "app/formula/note_column.hpp"
#include "app/parts/track_slider.hpp"
#include "core/geometry/parts/mesh_parts.hpp"
#include "core/results/items.hpp"
#include "window/fixture.hpp"

namespace plume::test {
namespace {

class Growth : public WindowTest {
protected:
    const Placements& grown() {
        return std::get<Placements>(*document().results().shown(study().step("grown")->id)->value);
    }
    FormulaEditor& editor(const std::string& step = "grown") {
        return window->sheet().step_block(study().step(step)->id)->formula()->editor();
    }
    const FormulaInsight* insight(const std::string& step = "grown") {
        return document().results().insight(study().step(step)->id);
    }
    // Replaces the rules, line by line.
    void write(const QStringList& lines, const std::string& step = "grown") {
        scroll_to(&editor(step));
        driver.click(&editor(step));
        driver.key("ctrl+a");
        for (qsizetype at = 0; at < lines.size(); ++at) {
            if (at > 0) driver.key("Return");
            driver.type(lines[at]);
            driver.key("Escape");  // puts a list of names away
            editor(step).setFocus();
        }
        computed();
    }
    // At what stands beside a line, of so many.
    void point_at_note(std::size_t note, std::size_t count, const std::string& step = "grown") {
        ASSERT_TRUE(Driver::until([&] { return insight(step) && insight(step)->notes.size() == count; }));
        auto* notes = qobject_cast<NoteColumn*>(child("line-notes"));
        scroll_to(notes);
        driver.move_to(notes->mapToGlobal(notes->note_rect(insight(step)->notes[note]).center()));
        ASSERT_TRUE(Driver::until([&] { return document().attention().looked_at() != nullptr; }));
    }
    // At a place in the model, until something of the step is known to be there.
    void point_at(Vec3 place, ItemId id) {
        const QPoint there = on_screen(place);
        ASSERT_TRUE(Driver::until([&] {
            driver.move_to(there);
            Driver::settle(100);
            return document().attention().hovered().step == id;
        }));
    }
};

TEST_F(Growth, RulesAreWrittenMendedPlayedAndAsked) {
    continue_with("Grow parts by rules");
    computed();
    EXPECT_EQ(grown().origins().point_count(), 364U);  // 1 + 3 + 9 + 27 + 81 + 243
    // The rules stand open below the sentence, each line with what it made.
    ASSERT_TRUE(Driver::until([&] { return insight() && insight()->notes.size() == 3; }));
    EXPECT_EQ(insight()->notes[0].text, "× 121");

    // A mistake: where, and what is meant.
    write({"trunk becomes", "trunk, moved sise up, turned 20 about along, sized 0.8",
           "twig times 3, moved size up, turned 120 * copy about up, turned 60 about along, sized 0.3"});
    const ItemId id = study().step("grown")->id;
    ASSERT_TRUE(Driver::until([&] { return document().results().shown(id)->error.has_value(); }));
    EXPECT_EQ(document().results().shown(id)->error->mend, "Did you mean ‘size’?");
    EXPECT_TRUE(document().results().shown(id)->value) << "what was there last stays";
    window->sheet().step_block(id)->formula()->editor().go_to_error();
    for (int letter = 0; letter < 4; ++letter)
        driver.key("BackSpace");
    driver.type("size");
    driver.key("Escape");
    computed();
    ASSERT_FALSE(document().results().shown(id)->error);
    EXPECT_EQ(grown().origins().point_count(), 1U + 5 * 4);

    // One generation more by a key, and all of them played from the first.
    QWidget* slider = child("growth-slider");
    scroll_to(slider);
    slider->setFocus();
    driver.key("Right");
    computed();
    EXPECT_EQ(slot_text_of("grown", "generations"), "6");
    EXPECT_EQ(grown().origins().point_count(), 25U);
    std::vector<std::string> seen;
    const auto watched = QObject::connect(&document(), &Document::study_changed,
                                          [&] { seen.push_back(slot_text_of("grown", "generations")); });
    driver.click(child("play-growth"));
    ASSERT_TRUE(Driver::until([&] { return !seen.empty() && seen.back() == "6"; }));
    QObject::disconnect(watched);
    EXPECT_EQ(seen, (std::vector<std::string>{"0", "1", "2", "3", "4", "5", "6"}));
    computed();
    EXPECT_EQ(grown().origins().point_count(), 25U);
    // One stroke of the history, however many generations were seen.
    int undone = 0;
    for (; undone < 9 && slot_text_of("grown", "generations") != "5"; ++undone) {
        driver.key("ctrl+z");
        Driver::settle(200);
        computed();
    }
    EXPECT_EQ(undone, 2);

    // A line is muted, and is no longer.
    FormulaEditor& rules = editor();
    scroll_to(&rules);
    driver.click(&rules);
    driver.key("ctrl+End");
    driver.key("ctrl+m");
    ASSERT_TRUE(Driver::until([&] { return rules.toPlainText().contains("# twig times 3"); }));
    computed();
    EXPECT_EQ(grown().origins().point_count(), 6U);
    driver.key("ctrl+m");
    computed();
    EXPECT_EQ(grown().origins().point_count(), 21U);

    // A line lights up what it made.
    point_at_note(1, 2);
    ASSERT_TRUE(Driver::until([&] {
        const auto& points = document().results().shown(id)->drawable->points;
        return std::ranges::any_of(points,
                                   [&](const DrawPoint& point) { return point.colour != points[0].colour; });
    }));

    // A part is asked why it is there.
    const std::size_t last = grown().origins().address_count() - 1;
    point_at(grown().placement(last).origin, id);
    const Items items = items_of(*document().results().shown(id)->value);
    ASSERT_TRUE(items.why);
    EXPECT_EQ(items.why(last).size(), 6U);
    // Clicked, it stays in Readings while others are pointed at.
    driver.click(on_screen(grown().placement(last).origin));
    const auto* descent = qobject_cast<QPlainTextEdit*>(child("descent"));
    ASSERT_TRUE(descent);
    const auto ends_with_it = [&] {
        // Of parts at one place the first is pointed at.
        const std::size_t held = document().attention().held().index;
        return held != 0 && descent->toPlainText().endsWith(QString::fromStdString(items.why(held).back()));
    };
    EXPECT_TRUE(Driver::until(ends_with_it)) << descent->toPlainText().toStdString();
    point_at(grown().placement(0).origin, id);
    Driver::settle(100);
    EXPECT_TRUE(ends_with_it());
}

// What is computed while the knob is drawn is what stands there in the end.
TEST_F(Growth, TheKnobIsDrawnThroughTheGenerations) {
    continue_with("Grow parts by rules");
    computed();
    QWidget* slider = child("growth-slider");
    scroll_to(slider);
    const QPoint from = slider->mapToGlobal(QPoint(8 + (slider->width() - 16) * 5 / 8, slider->height() / 2));
    const QPoint to = slider->mapToGlobal(QPoint(8 + (slider->width() - 16) * 2 / 8, slider->height() / 2));
    driver.drag(from, to);
    computed();
    EXPECT_EQ(slot_text_of("grown", "generations"), "2");
    EXPECT_EQ(grown().origins().point_count(), 13U);
    driver.key("ctrl+z");
    computed();
    EXPECT_EQ(grown().origins().point_count(), 364U);
}

TEST_F(Growth, FacesAreCutByRulesLitUpAndAsked) {
    continue_with("lattice");
    type_into("lattice", "columns", "4");
    type_into("lattice", "rows", "3");
    continue_with("skin");
    driver.click(part("surface", "surface"));
    choose("flat facets");
    continue_with("cut faces");
    computed();
    write({"slab becomes", "split 2 alang, 2 across", "slab, where i == 0", "bed", "bed becomes", "inset 0.2",
           "stone, inside", "joint, around"},
          "tiles");
    const ItemId id = study().step("tiles")->id;
    ASSERT_TRUE(Driver::until([&] { return document().results().shown(id)->error.has_value(); }));
    EXPECT_EQ(document().results().shown(id)->error->mend, "Write along or across behind the number.");
    window->sheet().step_block(id)->formula()->editor().go_to_error();
    for (int letter = 0; letter < 5; ++letter)
        driver.key("BackSpace");
    driver.type("along");
    driver.key("Escape");
    computed();
    ASSERT_FALSE(document().results().shown(id)->error) << sentence(*document().results().shown(id)->error);
    const auto mesh = [&] { return std::get<Mesh>(*document().results().shown(id)->value); };
    // 24 slabs and 24 beds; 48 and 48, and 24 stones with four joints each; of these all stay.
    EXPECT_EQ(mesh().face_count(), 120U + 432U);
    EXPECT_EQ(insight("tiles")->growth, "12, 48, 216, 432 faces; the next would be 864");

    // A line lights up what it named.
    point_at_note(2, 4, "tiles");
    ASSERT_TRUE(Driver::until([&] {
        const auto& shown = document().results().shown(id)->drawable;
        return shown && shown->colour_field == "made_here";
    }));

    // A face tells what it came of.
    point_at(part_place(mesh(), mesh().part_count() / 2), id);
    const Items items = items_of(*document().results().shown(id)->value);
    ASSERT_TRUE(items.why);
    EXPECT_GE(items.why(document().attention().hovered().index).size(), 2U);
}

// A line has no parts that are kept: its generations are counted all the same.
TEST_F(Growth, LinesAreTracedAndCounted) {
    continue_with("trace");
    computed();
    ASSERT_TRUE(Driver::until([&] { return insight("line") && insight("line")->notes.size() == 4; }));
    EXPECT_EQ(insight("line")->growth, "1, 4, 16, 64, 256 parts; the next would be 1\u202f024");
    QWidget* slider = child("growth-slider");
    scroll_to(slider);
    slider->setFocus();
    driver.key("Left");
    computed();
    const auto curves = std::get<CurveSet>(*document().results().shown("line")->value).curves;
    EXPECT_EQ(curves.front().x().size(), 65U);
}

}  // namespace
}  // namespace plume::test

// A script, by hand: written below its sentence, wrong, mended, its head become a sentence; kept for every
// study.

#include <QLabel>
#include <QListWidget>
#include <QToolButton>

#include "app/script/script_block.hpp"
#include "core/exchange/own_steps.hpp"
#include "core/steps/catalogue.hpp"
#include "window/fixture.hpp"

namespace plume::test {
namespace {

class Scripts : public WindowTest {
protected:
    Scripts() {
        // One's own steps are those of this test.
        before_ = qgetenv("XDG_DATA_HOME");
        qputenv("XDG_DATA_HOME", folder.path().toUtf8());
    }
    ~Scripts() override { qputenv("XDG_DATA_HOME", before_); }

    ScriptEditor& editor() {
        StepBlock* block = window->sheet().step_block(study().step("computed")->id);
        if (!block->script()) driver.click(part("computed", "script"));
        return block->script()->editor();
    }
    void click_into_editor() {
        scroll_to(&editor());
        driver.click(&editor());
    }
    void write(const QStringList& lines) {
        click_into_editor();
        driver.key("ctrl+a");
        for (qsizetype at = 0; at < lines.size(); ++at) {
            if (at > 0) driver.key("Return");
            driver.type(lines[at]);
            if (CompletionList* list = editor().findChild<CompletionList*>(); list->isVisible())
                driver.key("Escape");
        }
        driver.key("ctrl+Return");
        computed();
    }
    std::string kept_script() { return std::get<Lines>(study().step("computed")->slots.at("script")).text; }
    double top() { return document().results().shown("computed")->drawable->bounds.high.z; }

private:
    QByteArray before_;
};

TEST_F(Scripts, AHeadBecomesASentenceAndAMistakeNamesItsLine) {
    continue_with("lattice");
    continue_with("script");
    computed();
    EXPECT_NEAR(top(), 0.5, 0.01);
    ASSERT_TRUE(window->sheet().step_block(study().step("computed")->id)->script())
        << "a new script stands open";
    // What the head asks for is dragged and typed like any other slot.
    type_into("computed", "high", "2 m");
    EXPECT_NEAR(top(), 2, 0.05);
    const QStringList head{"-- Stairs", "-- sentence: Set {ground} in stairs of {rise}.", "-- ground: points",
                           "-- rise: length = 40 cm", "-- result: points"};
    write(head + QStringList{"local step = floor(ground.x / 3)", "return ground:with{z = stp * rise}"});
    const ItemId id = study().step("computed")->id;
    ASSERT_TRUE(document().results().shown(id)->error.has_value());
    EXPECT_NE(document().results().shown(id)->error->message.find("line 7"), std::string::npos)
        << document().results().shown(id)->error->message;
    EXPECT_TRUE(document().results().shown(id)->value) << "what was there last stays";
    // The line is marked, and mended where it stands.
    const auto marks = editor().extraSelections();
    EXPECT_TRUE(std::ranges::any_of(marks, [](const QTextEdit::ExtraSelection& mark) {
        return mark.format.underlineStyle() == QTextCharFormat::WaveUnderline &&
               mark.cursor.selectedText().contains("stp");
    }));
    QTextCursor cursor = editor().textCursor();
    cursor.setPosition(static_cast<int>(editor().toPlainText().indexOf("stp") + 2));
    driver.click(editor().viewport()->mapToGlobal(editor().cursorRect(cursor).center()));
    driver.type("e");
    computed();
    EXPECT_TRUE(Driver::until([&] { return kept_script().find("step * rise") != std::string::npos; }))
        << "a pause in typing runs it";
    computed();
    ASSERT_FALSE(document().results().shown(id)->error) << sentence(*document().results().shown(id)->error);
    EXPECT_EQ(slot_text_of("computed", "rise"), "40 cm") << "the new head has a slot of its own";
    EXPECT_EQ(document().kind_of(*study().step("computed"))->slot("high"), nullptr);
    EXPECT_NEAR(top(), 6 * 0.4, 1e-6);
    type_into("computed", "rise", "1 m");
    EXPECT_NEAR(top(), 6, 1e-6);
    driver.key("ctrl+z");
    computed();
    EXPECT_NEAR(top(), 6 * 0.4, 1e-6);
}

TEST_F(Scripts, NamesAreCompletedAndExplained) {
    continue_with("lattice");
    continue_with("script");
    computed();
    click_into_editor();
    driver.key("ctrl+End");
    driver.key("Return");
    driver.type("local h = hyp");
    auto* list = editor().findChild<CompletionList*>();
    ASSERT_TRUE(Driver::until([&] { return list->isVisible(); }));
    driver.key("Tab");
    EXPECT_TRUE(editor().toPlainText().endsWith("local h = hypot("));
    driver.type("ground.");
    driver.key("ctrl+space");
    ASSERT_TRUE(Driver::until([&] { return list->isVisible(); }));
    EXPECT_FALSE(list->findItems("with", Qt::MatchExactly).isEmpty());
    EXPECT_TRUE(list->findItems("hypot", Qt::MatchExactly).isEmpty());
    driver.key("Escape");
    driver.key("Left");
    const auto* hint = window->findChild<QLabel*>("script-hint");
    EXPECT_TRUE(Driver::until([&] { return hint->text().startsWith("ground: what the step is given"); }))
        << hint->text().toStdString();
}

TEST_F(Scripts, LinesAreSetInAndTabStaysInTheText) {
    continue_with("lattice");
    continue_with("script");
    write({"-- A", "-- sentence: A {ground}.", "-- ground: points", "-- result: points", "for i = 1, 2 do",
           "if i > 1 then", "print(i)", "end", "end", "return ground"});
    EXPECT_EQ(kept_script(),
              "-- A\n-- sentence: A {ground}.\n-- ground: points\n-- result: points\nfor i = 1, 2 do\n"
              "  if i > 1 then\n    print(i)\n  end\nend\nreturn ground");
    click_into_editor();
    driver.key("ctrl+End");
    driver.key("Home");
    driver.key("Tab");
    EXPECT_TRUE(editor().toPlainText().endsWith("\n  return ground"));
    driver.key("shift+Tab");
    EXPECT_TRUE(editor().toPlainText().endsWith("\nreturn ground"));
    driver.key("Escape");
    EXPECT_FALSE(editor().hasFocus());
}

TEST_F(Scripts, WhatIsTypedIsNotLost) {
    continue_with("lattice");
    continue_with("script");
    computed();
    document().mark_saved(file("s.plume"));
    click_into_editor();
    driver.key("ctrl+Home");
    driver.key("End");
    driver.type(" now");
    driver.key("ctrl+s");
    computed();
    EXPECT_TRUE(kept_script().starts_with("-- Raise points in rings now\n"));
    driver.type("!");
    driver.key("ctrl+z");
    computed();
    EXPECT_FALSE(kept_script().starts_with("-- Raise points in rings now!")) << "undone";
    // A number is dragged as in a formula.
    QTextCursor cursor = editor().textCursor();
    cursor.setPosition(static_cast<int>(editor().toPlainText().indexOf("* 2 *")) + 2);
    const QPoint at = editor().viewport()->mapToGlobal(editor().cursorRect(cursor).center() + QPoint(3, 0));
    driver.drag(at, at + QPoint(40, 0));
    computed();
    EXPECT_EQ(kept_script().find("* 2 *"), std::string::npos) << kept_script();
    // Nor what is typed right before.
    driver.key("ctrl+End");
    driver.type(" -- kept");
    cursor.setPosition(static_cast<int>(editor().toPlainText().indexOf("d / apart * ")) + 12);
    const QPoint number =
        editor().viewport()->mapToGlobal(editor().cursorRect(cursor).center() + QPoint(3, 0));
    driver.drag(number, number + QPoint(30, 0));
    computed();
    EXPECT_TRUE(kept_script().ends_with(" -- kept")) << kept_script();
}

TEST_F(Scripts, AStepOfOnesOwnIsFoundInAnotherStudy) {
    continue_with("lattice");
    continue_with("script");
    computed();
    write({"-- Terrace the ground", "-- sentence: Terrace {ground} by {rise}.", "-- ground: points",
           "-- rise: length = 40 cm", "-- result: points",
           "return ground:with{z = floor(ground.x / 3) * rise}"});
    StepBlock* block = window->sheet().step_block(study().step("computed")->id);
    driver.click(block->findChild<QToolButton*>("more"));
    choose("Keep among");
    ASSERT_TRUE(Driver::until(
        [] { return !read_own_steps(own_steps_folder(), standard_catalogue()).steps.empty(); }));
    reopen();
    continue_with("lattice");
    continue_with("terrace");
    computed();
    EXPECT_EQ(slot_text_of("computed", "rise"), "40 cm");
    EXPECT_NEAR(top(), 6 * 0.4, 1e-6);
    EXPECT_FALSE(window->sheet().step_block(study().step("computed")->id)->script()) << "it is to be used";
}

}  // namespace
}  // namespace plume::test

// Finding a step, and reading about it.

#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QSettings>
#include <QTextBlock>
#include <QTextBrowser>
#include <set>

#include "core/study/subjects.hpp"
#include "window/fixture.hpp"

namespace plume::test {
namespace {

class Finder : public WindowTest {
protected:
    QListWidget& offers() { return *window->findChild<QListWidget*>("offers"); }
    QString told(const char* name) {
        const QLabel* label = window->findChild<QLabel*>(name);
        QTextDocument plain;
        plain.setHtml(label->text());
        return label->isVisible() ? plain.toPlainText() : QString();
    }
    QString chosen() { return offers().currentItem()->text(); }
    void find(const QString& words) {
        driver.key("ctrl+Return");
        driver.key("ctrl+a");
        driver.type(words);
        Driver::settle();
    }
};

TEST_F(Finder, ShowsTheSentenceFilledInForTheResultInHand) {
    continue_with("rectangular");
    find("skin");
    EXPECT_TRUE(chosen().startsWith("Skin points"));
    EXPECT_EQ(told("finder-sentence"), "Skin lattice with a smooth surface.");
    EXPECT_TRUE(told("finder-help").startsWith("A surface over a lattice"));
    EXPECT_TRUE(told("finder-keys").contains("also found by: surface"));
    EXPECT_EQ(told("finder-first"), "") << "nothing is missing";
    const auto* picture = window->findChild<QLabel*>("finder-picture");
    EXPECT_TRUE(picture->isVisible() && !picture->pixmap().isNull());
    EXPECT_EQ(study().items.size(), 1U) << "looking adds nothing";
}

TEST_F(Finder, AnEmptyLineNamesOneOfEachOfThreeThingsThatCouldBeDone) {
    continue_with("rectangular");
    const auto* line = qobject_cast<QLineEdit*>(child("continue"));
    ASSERT_TRUE(line);
    const QStringList named = line->placeholderText().section("…  ", 1).split(", ");
    EXPECT_EQ(named.size(), 3);
    EXPECT_TRUE(named.contains("skin points")) << line->placeholderText().toStdString();
    std::set<std::string_view> subjects;
    for (const StepKind& kind : document().catalogue().kinds())
        if (named.contains(QString::fromStdString(kind.verb).toLower()))
            subjects.insert(subject_of(kind).key);
    EXPECT_EQ(subjects.size(), 3U);
}

TEST_F(Finder, NumbersBehindTheWordsFillTheSentence) {
    find("lattice 12 by 7 over 30 m by 14 m");
    EXPECT_TRUE(told("finder-sentence").startsWith("Lay a lattice of 12 by 7 bays over 30 m by 14 m"));
    driver.key("Return");
    computed();
    EXPECT_EQ(slot_text_of("lattice", "columns"), "12");
    EXPECT_EQ(slot_text_of("lattice", "depth"), "14 m");
    find("move 4 m up");
    driver.key("Return");
    computed();
    EXPECT_EQ(slot_text_of("moved", "z"), "4 m");
    EXPECT_EQ(slot_text_of("moved", "x"), "0 m");
}

TEST_F(Finder, WhatAStepNeedsIsAddedWithIt) {
    find("thicken 200 mm");
    EXPECT_TRUE(chosen().contains("after lattice, surface"));
    EXPECT_EQ(
        told("finder-first"),
        "It reads a surface, and there is none above. ‘Lay a rectangular lattice’ and ‘Skin points’ are "
        "added with it.");
    driver.key("Return");
    computed();
    ASSERT_EQ(study().items.size(), 3U);
    EXPECT_EQ(document().results().problem_count(), 0U);
    EXPECT_EQ(slot_text_of(step_of(study().items.back())->name, "by"), "200 mm");
    EXPECT_EQ(document().attention().selected(), id_of(study().items.back()));
    driver.key("ctrl+z");
    EXPECT_TRUE(Driver::until([&] { return study().items.empty(); })) << "all of it in one";
}

TEST_F(Finder, MistypedWordsAreUnderstood) {
    find("latice");
    EXPECT_TRUE(chosen().startsWith("Lay a rectangular lattice"));
    find("zzzz");
    EXPECT_EQ(offers().count(), 1);
    EXPECT_FALSE(offers().item(0)->flags() & Qt::ItemIsEnabled);
    driver.key("Return");
    EXPECT_TRUE(study().items.empty());
}

TEST_F(Finder, NothingTypedListsByWhatOneWantsToDo) {
    QSettings().remove("finder/lately");
    driver.key("ctrl+Return");
    QStringList captions;
    for (int row = 0; row < offers().count(); ++row)
        if (!(offers().item(row)->flags() & Qt::ItemIsEnabled)) captions << offers().item(row)->text();
    EXPECT_TRUE(captions.contains("Lay points"));
    EXPECT_TRUE(captions.contains("Make frames"));
    EXPECT_FALSE(captions.contains("Used lately"));
    driver.key("Page_Down");
    EXPECT_GT(offers().currentRow(), 5);
    driver.key("Page_Up");
    driver.key("Return");
    computed();
    ASSERT_EQ(study().items.size(), 1U);
    driver.key("ctrl+Return");
    EXPECT_EQ(offers().item(0)->text(), "Used lately");
    EXPECT_TRUE(offers().item(1)->text().startsWith("Lay a rectangular lattice"));
}

TEST_F(Finder, AClickTakesARow) {
    driver.key("ctrl+Return");
    driver.type("polar");
    Driver::settle();
    driver.click(offers().viewport()->mapToGlobal(offers().visualItemRect(offers().item(0)).center()));
    EXPECT_TRUE(Driver::until([&] { return study().step("wheel") != nullptr; }));
    EXPECT_FALSE(offers().isVisible());
}

TEST_F(Finder, StaysWithinANarrowWindow) {
    window->resize(1024, 640);
    Driver::settle(120);
    for (int n = 0; n < 6; ++n)
        continue_with("rectangular");
    driver.key("ctrl+Return");
    Driver::settle();
    const QWidget* panel = offers().parentWidget();
    EXPECT_TRUE(window->rect().contains(panel->geometry()));
    EXPECT_GE(offers().height(), 150);
}

class Reference : public Finder {
protected:
    QTextBrowser& page() { return *window->findChild<QTextBrowser*>("reference-page"); }
    bool open() {
        return Driver::until([&] { return child("reference-page") != nullptr; });
    }
    QPoint link(const QString& words) {
        QTextCursor cursor = page().document()->find(words);
        EXPECT_FALSE(cursor.isNull());
        cursor.setPosition(cursor.selectionStart() + 2);
        page().setTextCursor(cursor);
        page().ensureCursorVisible();
        return page().viewport()->mapToGlobal(page().cursorRect(cursor).center());
    }
    QString title() { return page().document()->begin().text(); }
};

TEST_F(Reference, IsAboutWhatIsInHand) {
    continue_with("rectangular");
    continue_with("skin");
    window->sheet().step_block(study().step("surface")->id)->setFocus();
    driver.key("F2");
    ASSERT_TRUE(open());
    EXPECT_EQ(title(), "Skin points");
    const QString text = page().toPlainText();
    for (const char* part : {"An example", "Sallow Reach", "Its parts", "a smooth surface", "See also"})
        EXPECT_TRUE(text.contains(part)) << part;
    driver.key("Escape");
    EXPECT_TRUE(Driver::until([&] { return child("reference-page") == nullptr; }));
    // In the finder about the row that is chosen.
    find("polar");
    driver.key("F2");
    ASSERT_TRUE(open());
    EXPECT_EQ(title(), "Lay a polar lattice");
}

TEST_F(Reference, IsSearchedAndItsExamplesOpenAsCopies) {
    driver.key("F2");
    ASSERT_TRUE(open());
    EXPECT_EQ(title(), "Steps");
    driver.click(child("reference-search"));
    driver.type("mend mesh");
    EXPECT_TRUE(Driver::until([&] { return title() == "Mend a mesh"; })) << title().toStdString();
    driver.click(link("Open a copy"));
    ASSERT_TRUE(Driver::until([&] { return document().study().title == "Mend a mesh"; }));
    computed();
    EXPECT_EQ(document().results().problem_count(), 0U);
    EXPECT_TRUE(document().path().isEmpty()) << "a copy, whose file is not there yet";
    EXPECT_TRUE(document().saved());
}

// One that reads a file brings it along.
TEST_F(Reference, ExamplesBringTheirFiles) {
    driver.key("F2");
    ASSERT_TRUE(open());
    driver.click(child("reference-search"));
    driver.type("read points table");
    ASSERT_TRUE(Driver::until([&] { return title() == "Read points from a table"; }))
        << title().toStdString();
    driver.click(link("Open a copy"));
    ASSERT_TRUE(Driver::until([&] { return study().step("soundings") != nullptr; }));
    computed();
    EXPECT_EQ(document().results().problem_count(), 0U);
}

}  // namespace
}  // namespace plume::test

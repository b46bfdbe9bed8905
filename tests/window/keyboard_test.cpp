// By the keyboard alone: all of the window is reached, says what it is, and shows where the keyboard is.

#include <QAbstractButton>
#include <QAccessible>
#include <QApplication>
#include <QFile>
#include <QLabel>
#include <QScrollArea>
#include <QSplitter>
#include <set>

#include "app/model/model_view.hpp"
#include "app/sheet/heading_block.hpp"
#include "app/sheet/sentence_widget.hpp"
#include "window/fixture.hpp"

namespace plume::test {
namespace {

class Keyboard : public WindowTest {
protected:
    static QString name_of(QObject* object) {
        QAccessibleInterface* interface = QAccessible::queryAccessibleInterface(object);
        return interface ? interface->text(QAccessible::Name) : QString();
    }
    // All that a screen reader can come to below.
    static void collect(QAccessibleInterface* from, QStringList& names) {
        if (!from || from->state().invisible) return;
        names += from->text(QAccessible::Name);
        for (int at = 0; at < from->childCount(); ++at)
            collect(from->child(at), names);
    }
    QStringList heard() {
        QStringList names;
        collect(QAccessible::queryAccessibleInterface(window.get()), names);
        return names;
    }
    // Whether a look at it, or at what is around it, tells that the keyboard is there.
    static bool shows_focus(QWidget* widget) {
        QWidget* around = widget->parentWidget() ? widget->parentWidget() : widget;
        if (auto* model = qobject_cast<ModelView*>(widget)) {
            const QImage with = model->picture();
            model->clearFocus();
            Driver::settle(100);
            const QImage without = model->picture();
            model->setFocus(Qt::TabFocusReason);
            Driver::settle(20);
            return with != without;
        }
        const QImage with = around->grab().toImage();
        widget->clearFocus();
        Driver::settle(20);
        const QImage without = around->grab().toImage();
        widget->setFocus(Qt::TabFocusReason);
        Driver::settle(20);
        return with != without;
    }
};

TEST_F(Keyboard, EveryStopOfTheTabulatorHasANameAndShowsTheFocus) {
    build_canopy();
    window->sheet().step_block(study().step("lattice")->id)->setFocus(Qt::TabFocusReason);
    // What is under the mouse looks as if it had the keyboard.
    driver.move_to(window->mapToGlobal(QPoint(4, window->height() - 4)));
    std::set<QWidget*> met;
    for (int stop = 0; stop < 400; ++stop) {
        QWidget* at = QApplication::focusWidget();
        ASSERT_TRUE(at) << "the focus got lost after " << stop;
        if (!met.insert(at).second) break;
        const std::string what =
            std::string(at->metaObject()->className()) + " " + at->objectName().toStdString();
        EXPECT_FALSE(name_of(at).isEmpty()) << what << " says nothing to who does not see it";
        EXPECT_TRUE(at->isVisible() && !at->visibleRegion().isEmpty()) << what << " cannot be seen";
        EXPECT_TRUE(shows_focus(at)) << what << " does not show that it has the keyboard";
        driver.key("Tab");
    }
    EXPECT_GT(met.size(), 40U);
    for (const char* slot : {"columns", "rows", "width"})
        EXPECT_TRUE(met.contains(part("lattice", slot))) << slot;
    EXPECT_TRUE(met.contains(part("pushed", "strength"))) << "the last step's parts too";
    bool model = false;
    for (QWidget* widget : met)
        model = model || widget == &view();
    EXPECT_TRUE(model);
}

TEST_F(Keyboard, AScreenReaderHearsSentencesWithTheirValues) {
    continue_with("rectangular");
    computed();
    QStringList names = heard();
    EXPECT_TRUE(
        names.contains("Lay a lattice of 24 by 16 bays over 36 m by 24 m, on the XY plane from its centre."))
        << names.join('\n').toStdString();
    EXPECT_TRUE(names.contains("Bays along i: 24"));
    EXPECT_TRUE(names.contains("Step lattice"));
    type_into("lattice", "columns", "30");
    computed();
    names = heard();
    EXPECT_TRUE(
        names.contains("Lay a lattice of 30 by 16 bays over 36 m by 24 m, on the XY plane from its centre."));
    EXPECT_TRUE(names.contains("Bays along i: 30"));
    // What is wrong is said, too.
    type_into("lattice", "columns", "0");
    computed();
    EXPECT_FALSE(heard().filter("Bays along i").filter("at least").isEmpty())
        << heard().join('\n').toStdString();
}

// The line that is typed into has the focus, so it says what stands beside the list.
TEST_F(Keyboard, WhatTheFinderTellsOfARowIsHeard) {
    continue_with("rectangular");
    computed();
    driver.key("ctrl+Return");
    QWidget* line = QApplication::focusWidget();
    ASSERT_TRUE(line);
    const auto described = [&] {
        return QAccessible::queryAccessibleInterface(line)->text(QAccessible::Description);
    };
    driver.type("move up");
    ASSERT_TRUE(Driver::until([&] { return described().startsWith("Move lattice by"); }))
        << described().toStdString();
    EXPECT_TRUE(described().contains("Return adds it") && described().contains("also found by"));
    EXPECT_FALSE(described().contains('<')) << "words, not how they are set";
    driver.key("Down");
    ASSERT_TRUE(Driver::until([&] { return !described().startsWith("Move lattice by"); }));
    driver.key("Escape");
    EXPECT_TRUE(Driver::until([&] { return !described().contains("adds it"); })) << described().toStdString();
}

TEST_F(Keyboard, FromAnEmptyPageToAFileWithoutAMouse) {
    continue_with("rectangular");
    continue_with("attractors");
    continue_with("distance");
    continue_with("range");
    continue_with("push");
    continue_with("skin");
    computed();
    ASSERT_TRUE(study().step("surface"));
    // A number is gone to and changed: up to the first step, into its sentence.
    for (int step = 0; step < 6; ++step)
        driver.key("Up");
    ASSERT_EQ(QApplication::focusWidget(), window->sheet().step_block(study().step("lattice")->id));
    driver.key("Return");
    ASSERT_EQ(QApplication::focusWidget(), part("lattice", "columns"));
    driver.type("12");
    driver.key("Return");
    computed();
    EXPECT_EQ(slot_text_of("lattice", "columns"), "12");
    window->sheet().step_block(study().step("lattice")->id)->setFocus(Qt::TabFocusReason);
    for (int step = 0; step < 6; ++step)
        driver.key("Down");
    EXPECT_EQ(QApplication::focusWidget()->objectName(), "continue") << "below the last step";
    driver.key("Up");
    const QString path = file("roof.obj");
    in_dialog([&] {
        driver.key("ctrl+a");
        driver.type(path);
        confirm(driver);
    });
    driver.key("ctrl+shift+e");
    ASSERT_TRUE(Driver::until([&] { return QFile::exists(path); }));
    EXPECT_GT(QFile(path).size(), 1000);
}

TEST_F(Keyboard, WhatIsRarelyChangedIsBehindMore) {
    continue_with("rectangular");
    continue_with("skin");
    continue_with("remesh");
    computed();
    const Step* even = nullptr;
    for (const Item& item : study().items)
        if (step_of(item)) even = step_of(item);
    ASSERT_EQ(even->kind, "mesh.remesh");
    const std::string name = even->name;
    SentenceWidget& sentence = window->sheet().step_block(even->id)->sentence();
    EXPECT_EQ(sentence.part("angle"), nullptr);
    auto* more = sentence.findChild<MorePart*>("sentence-more");
    ASSERT_TRUE(more && more->isVisible());
    EXPECT_TRUE(more->accessibleName().contains("40°")) << more->accessibleName().toStdString();
    more->setFocus(Qt::TabFocusReason);
    driver.key("Return");
    ASSERT_TRUE(sentence.part("angle"));
    EXPECT_EQ(QApplication::focusWidget(), sentence.part("angle")) << "one goes on with what came";
    driver.type("30");
    driver.key("Return");
    computed();
    EXPECT_EQ(slot_text_of(name, "angle"), "30");
    EXPECT_FALSE(more->isVisible()) << "nothing waits any more";
    driver.key("ctrl+z");
    computed();
    driver.click(more);
    EXPECT_EQ(sentence.part("angle"), nullptr) << "and it is held back again";
}

TEST_F(Keyboard, SentencesKeepToTwoLinesAtTheUsualWidth) {
    continue_with("rectangular");
    computed();
    const int usual = window->sheet().step_block(study().step("lattice")->id)->sentence().width();
    const int line = window->sheet().step_block(study().step("lattice")->id)->sentence().heightForWidth(4000);
    for (const StepKind& kind : document().catalogue().kinds()) {
        const auto added = add_step(Study(), document().catalogue(), kind, 0);
        if (!added) continue;
        document().apply(added->study, "one of its kind");
        SentenceWidget sentence(document(), added->id, nullptr);
        EXPECT_LE(sentence.heightForWidth(usual), line * (kind.key == "lattice.formula" ? 3 : 2))
            << kind.key << ": " << sentence.accessibleName().toStdString();
    }
}

TEST_F(Keyboard, HeadingsFoldToALineWithTheirFiguresAndAreGoneTo) {
    build_canopy();
    document().apply(add_heading(study(), 0, "Points & places").study, "heading");
    document().apply(add_heading(study(), 5, "Form").study, "heading");
    computed();
    auto* first = window->sheet().findChild<HeadingBlock*>("heading");
    first->setFocus(Qt::TabFocusReason);
    driver.key("space");
    computed();
    auto* figures = first->findChild<QLabel*>("heading-figures");
    ASSERT_TRUE(figures);
    EXPECT_TRUE(first->accessibleDescription().startsWith("4 steps · ranged 425 numbers, 0 m … 3.2 m"))
        << first->accessibleDescription().toStdString();
    EXPECT_LE(first->height(), 44) << "one line";
    EXPECT_FALSE(window->sheet().step_block(study().step("lattice")->id)->isVisible());
    EXPECT_TRUE(window->sheet().step_block(study().step("pushed")->id)->isVisible());
    driver.key("ctrl+shift+g");
    choose("Form");
    ASSERT_TRUE(Driver::until([&] {
        const Item* selected = nullptr;
        for (const Item& item : study().items)
            if (id_of(item) == document().attention().selected()) selected = &item;
        return selected && heading_of(*selected) && heading_of(*selected)->title == "Form";
    }));
    EXPECT_EQ(QApplication::focusWidget()->objectName(), "heading");
}

TEST_F(Keyboard, TheSheetCanBeNarrowWithoutLosingAnything) {
    build_canopy();
    auto* area = window->findChild<QScrollArea*>("sheet");
    QSplitter* columns = nullptr;
    for (QWidget* around = area; around && !columns; around = around->parentWidget())
        columns = qobject_cast<QSplitter*>(around);
    ASSERT_TRUE(columns);
    const QWidget* edge = columns->handle(1);
    const QPoint from = edge->mapToGlobal(edge->rect().center());
    driver.drag(from, from + QPoint(380 - area->width(), 0));
    EXPECT_NEAR(area->width(), 380, 2);
    EXPECT_LE(window->sheet().minimumSizeHint().width(), area->viewport()->width());
    for (const QWidget* widget : window->sheet().findChildren<QWidget*>()) {
        if (!widget->isVisible()) continue;
        const int right = widget->mapTo(&window->sheet(), QPoint(widget->width(), 0)).x();
        EXPECT_LE(right, area->viewport()->width())
            << widget->metaObject()->className() << " " << widget->objectName().toStdString();
    }
}

}  // namespace
}  // namespace plume::test

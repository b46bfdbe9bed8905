// The page: what can be done with steps, headings and controls.

#include <QApplication>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QMenu>
#include <QMessageBox>
#include <QPushButton>
#include <QTimer>
#include <QToolButton>
#include <QToolTip>
#include <set>

#include "core/geometry/measures/bounds.hpp"
#include "window/fixture.hpp"

namespace plume::test {
namespace {

class Sheet : public WindowTest {
protected:
    std::vector<std::string> names() {
        std::vector<std::string> all;
        for (const Item& item : study().items) {
            const Step* step = step_of(item);
            all.push_back(step ? step->name : "# " + heading_of(item)->title);
        }
        return all;
    }
    void focus(const std::string& result) {
        StepBlock* block = window->sheet().step_block(study().step(result)->id);
        scroll_to(block);
        // The empty corner under the result's name belongs to the block itself.
        driver.click(block->mapToGlobal(QPoint(block->width() - 14, block->height() - 4)));
        block->setFocus(Qt::TabFocusReason);
        Driver::settle(20);
    }
    void fill(const char* accessible_name, const QString& text) {
        for (auto* line : window->findChildren<QLineEdit*>())
            if (line->isVisible() && line->accessibleName() == accessible_name) {
                driver.click(line);
                driver.key("ctrl+a");
                driver.type(text);
                return;
            }
        FAIL() << "no line " << accessible_name;
    }
};

TEST_F(Sheet, WhatAStepMakesIsSeenWhole) {
    for (const char* words : {"lattice", "attractors", "distance", "push", "skin"})
        continue_with(words);
    const auto seen = [&](const char* result) {
        return view().camera().sees(document().results().shown(result)->drawable->bounds,
                                    double(view().width()) / view().height());
    };
    EXPECT_TRUE(Driver::until([&] { return seen("surface"); })) << "higher than what was there before";
    // What is there already grows without the eye being moved.
    const double distance = view().camera().distance;
    type_into("pushed", "factor", "9");
    computed();
    Driver::settle(100);
    EXPECT_FALSE(seen("surface"));
    EXPECT_EQ(view().camera().distance, distance);
}

TEST_F(Sheet, ContinueOffersWhatFitsAndSaysWhatIsMissing) {
    driver.key("ctrl+Return");
    auto* offers = window->findChild<QListWidget*>("offers");
    ASSERT_TRUE(offers->isVisible());
    const auto entry = [&](const QString& starts) -> QListWidgetItem* {
        for (int row = 0; row < offers->count(); ++row)
            if (offers->item(row)->text().startsWith(starts)) return offers->item(row);
        return nullptr;
    };
    EXPECT_TRUE(entry("Lay a rectangular lattice")->flags() & Qt::ItemIsEnabled);
    EXPECT_TRUE(entry("Skin points")->flags() & Qt::ItemIsEnabled) << "with what it needs";
    EXPECT_TRUE(entry("Skin points")->text().contains("after lattice"));
    driver.type("magnets perches");  // synonyms
    EXPECT_EQ(offers->count(), 1);
    EXPECT_TRUE(offers->item(0)->text().startsWith("Place attractors"));
    driver.key("Escape");
    EXPECT_FALSE(offers->isVisible());
    EXPECT_TRUE(study().items.empty());
}

TEST_F(Sheet, WordsAndResultsAreChosenFromWhatFits) {
    build_canopy();
    driver.click(part("lattice", "plane"));
    choose("XZ");
    computed();
    EXPECT_EQ(slot_text_of("lattice", "plane"), "XZ");
    driver.click(part("pushed", "amount"));
    choose("reach");
    computed();
    EXPECT_EQ(slot_text_of("pushed", "amount"), "reach");
    driver.click(part("lattice", "sizing"));
    choose("spaced");
    computed();
    type_into("lattice", "pitch_u", "200 cm");
    EXPECT_NEAR(bounds_of(*document().results().shown("lattice")->value).size().x, 48, 1e-9);
}

TEST_F(Sheet, RestingOnAPartTellsWhatItTakesItsLimitsItsWordsAndWhatReadsIt) {
    continue_with("rectangular");
    continue_with("skin");
    const QWidget* columns = part("lattice", "columns");
    driver.move_to(columns->mapToGlobal(columns->rect().center()));
    ASSERT_TRUE(Driver::until([] { return QToolTip::isVisible(); }));
    const QString told = QToolTip::text();
    for (const char* wanted : {"a whole number, at least 1", "<i>bay</i>: ", "Read by surface", "F2"})
        EXPECT_TRUE(told.contains(wanted)) << wanted << " in " << told.toStdString();
}

TEST_F(Sheet, WordsThatDifferToLookAtHavePictures) {
    continue_with("rectangular");
    driver.click(part("lattice", "plane"));
    ASSERT_TRUE(Driver::until([] { return QApplication::activePopupWidget() != nullptr; }));
    const auto* menu = qobject_cast<QMenu*>(QApplication::activePopupWidget());
    ASSERT_TRUE(menu);
    std::set<qint64> pictures;
    int words = 0;
    for (const QAction* action : menu->actions()) {
        if (action->data().isNull()) continue;
        ++words;
        EXPECT_FALSE(action->icon().isNull()) << action->text().toStdString();
        pictures.insert(action->icon().cacheKey());
    }
    EXPECT_GE(words, 3);
    EXPECT_EQ(static_cast<int>(pictures.size()), words) << "each its own";
    driver.key("Escape");
}

TEST_F(Sheet, KeyboardAloneChangesANumber) {
    continue_with("rectangular");
    focus("lattice");
    driver.key("Return");
    EXPECT_EQ(QApplication::focusWidget(), part("lattice", "columns"));
    driver.key("Up");
    EXPECT_EQ(slot_text_of("lattice", "columns"), "25");
    driver.key("ctrl+Down");
    EXPECT_EQ(slot_text_of("lattice", "columns"), "15");
    driver.type("9");  // typing begins to edit
    driver.key("Return");
    EXPECT_EQ(slot_text_of("lattice", "columns"), "9");
    driver.type("= 12");  // as files write it
    driver.key("Return");
    EXPECT_EQ(slot_text_of("lattice", "columns"), "12");
    driver.key("Tab");
    EXPECT_EQ(QApplication::focusWidget(), part("lattice", "rows"));
    driver.key("Return");
    driver.type("77");
    driver.key("Escape");
    EXPECT_EQ(slot_text_of("lattice", "rows"), "16") << "Escape gives up";
}

TEST_F(Sheet, MuteDuplicateMoveRename) {
    build_canopy();
    focus("pushed");
    driver.key("m");
    computed();
    EXPECT_EQ(document().results().shown("pushed")->state, StepState::muted);
    EXPECT_NEAR(top_of("surface"), 0, 1e-9);
    driver.key("m");
    computed();
    focus("pushed");
    driver.key("ctrl+d");
    computed();
    EXPECT_EQ(names(), (std::vector<std::string>{"lattice", "attractors", "reach", "ranged", "pushed",
                                                 "pushed_2", "surface"}));
    focus("attractors");
    driver.key("alt+Up");
    EXPECT_EQ(names().front(), "attractors");
    focus("lattice");
    driver.key("shift+F2");
    driver.type("ground");
    driver.key("Return");
    computed();
    EXPECT_EQ(slot_text_of("pushed", "points"), "ground") << "readers follow";
    EXPECT_EQ(document().results().problem_count(), 0U);
}

TEST_F(Sheet, AMoveThatWouldBreakReadersIsRefusedWithAReason) {
    build_canopy();
    focus("lattice");
    for (int n = 0; n < 3; ++n)
        driver.key("alt+Down");
    EXPECT_EQ(names(),
              (std::vector<std::string>{"attractors", "lattice", "reach", "ranged", "pushed", "surface"}));
    const auto* message = window->findChild<QLabel*>("message");
    EXPECT_TRUE(message->isVisible());
    EXPECT_TRUE(message->text().contains("has to stay below")) << message->text().toStdString();
}

TEST_F(Sheet, RemovingWhatOthersReadAsksAndNamesThem) {
    build_canopy();
    focus("lattice");
    QString question;
    in_dialog([&] {
        if (auto* box = qobject_cast<QMessageBox*>(QApplication::activeModalWidget())) question = box->text();
        Driver().key("Escape");
    });
    driver.key("Delete");
    ASSERT_TRUE(Driver::until([&] { return !question.isEmpty() && !QApplication::activeModalWidget(); }));
    EXPECT_TRUE(question.contains("‘reach’ and ‘pushed’")) << question.toStdString();
    EXPECT_EQ(study().items.size(), 6U);
    focus("surface");
    driver.key("Delete");
    EXPECT_EQ(study().items.size(), 5U) << "nobody reads the surface";
}

TEST_F(Sheet, AStepIsInsertedInTheMiddle) {
    build_canopy();
    focus("pushed");
    driver.key("Insert");
    driver.type("skin");
    driver.key("Return");
    computed();
    EXPECT_EQ(names(), (std::vector<std::string>{"lattice", "attractors", "reach", "ranged", "pushed",
                                                 "surface_2", "surface"}));
    EXPECT_EQ(slot_text_of("surface_2", "points"), "pushed");
}

TEST_F(Sheet, HeadingsFoldTheirStepsAway) {
    continue_with("heading");
    build_canopy();
    StepBlock* block = window->sheet().step_block(study().step("lattice")->id);
    EXPECT_TRUE(block->isVisible());
    auto* heading = window->findChild<QWidget*>("heading");
    const auto fold_or_unfold = [&] {
        auto* fold = heading->findChild<QToolButton*>();
        scroll_to(fold);
        driver.click(fold);
    };
    fold_or_unfold();
    EXPECT_FALSE(block->isVisible());
    EXPECT_TRUE(document().results().shown("surface")->drawable) << "folding hides sentences, not results";
    fold_or_unfold();
    EXPECT_TRUE(block->isVisible());
    heading->setFocus(Qt::TabFocusReason);
    driver.key("Return");
    fill("Title", "Ground");
    fill("Note", "where it stands");
    driver.key("Return");
    EXPECT_EQ(heading_of(study().items[0])->title, "Ground");
    EXPECT_EQ(heading_of(study().items[0])->note, "where it stands");
}

TEST_F(Sheet, ANumberBecomesAControlWithASlider) {
    build_canopy();
    driver.click(part("ranged", "high_length"), 3);
    choose("Make it a control");
    fill("Name", "swell");
    driver.key("Return");
    computed();
    EXPECT_EQ(slot_text_of("ranged", "high_length"), "swell");
    ASSERT_EQ(study().controls.size(), 1U);
    EXPECT_EQ(study().control("swell")->value, 3.2);
    QWidget* slider = child("control-slider");
    const int y = slider->height() / 2;
    driver.drag(slider->mapToGlobal(QPoint(slider->width() / 3, y)),
                slider->mapToGlobal(QPoint(slider->width() - 8, y)));
    computed();
    EXPECT_EQ(study().control("swell")->value, study().control("swell")->most);
    EXPECT_NEAR(top_of("surface"), study().control("swell")->most, 0.3);
    driver.key("ctrl+z");
    EXPECT_EQ(study().control("swell")->value, 3.2) << "a slide is one edit";
    driver.click(child("control-value"));
    driver.type("150 cm");
    driver.key("Return");
    EXPECT_DOUBLE_EQ(study().control("swell")->value, 1.5);
    driver.click(child("control-value"));
    driver.type("= 1 m / 4");
    driver.key("Return");
    EXPECT_DOUBLE_EQ(study().control("swell")->value, 0.25);
}

TEST_F(Sheet, AControlNameThatClashesIsRefusedInItsForm) {
    build_canopy();
    driver.key("ctrl+k");
    fill("Name", "lattice");
    driver.key("Return");
    EXPECT_TRUE(study().controls.empty());
    fill("Name", "lift");
    fill("To", "zehn");
    driver.key("Return");
    EXPECT_TRUE(study().controls.empty()) << "‘zehn’ is not a number";
    fill("To", "12");
    driver.key("Return");
    ASSERT_EQ(study().controls.size(), 1U);
    EXPECT_EQ(study().control("lift")->most, 12);
}

TEST_F(Sheet, OtherUnitsKeepTheForm) {
    build_canopy();
    driver.click(child("units"));
    choose("feet");
    computed();
    EXPECT_EQ(study().units.length, LengthUnit::foot);
    EXPECT_NEAR(bounds_of(*document().results().shown("lattice")->value).size().x, 36 / 0.3048, 1e-9);
    EXPECT_EQ(slot_text_of("lattice", "width"), "36 m") << "what was typed with a unit stays as typed";
    driver.key("ctrl+z");
    computed();
    EXPECT_EQ(study().units.length, LengthUnit::metre);
}

TEST_F(Sheet, TitleAndNoteAreTyped) {
    auto* page = &window->sheet();
    driver.click(page->mapToGlobal(QPoint(120, 28)));
    fill("Title", "Heron hide");
    fill("Note", "looks over the reeds");
    driver.key("Return");
    EXPECT_EQ(study().title, "Heron hide");
    EXPECT_EQ(study().note, "looks over the reeds");
    EXPECT_TRUE(window->windowTitle().startsWith("Heron hide"));
}

TEST_F(Sheet, AnUnknownNameInAnExpressionOffersTheClosest) {
    build_canopy();
    driver.key("ctrl+k");
    fill("Name", "swell");
    driver.key("Return");
    type_into("lattice", "columns", "swel * 3");
    const auto* error =
        window->sheet().step_block(study().step("lattice")->id)->findChild<QLabel*>("step-error");
    EXPECT_TRUE(error->text().contains("Did you mean ‘swell’?")) << error->text().toStdString();
    EXPECT_EQ(slot_text_of("lattice", "columns"), "swel * 3") << "what was typed is not lost";
}

TEST_F(Sheet, VeryLongNamesStayInsideTheSheet) {
    build_canopy();
    focus("pushed");
    driver.key("shift+F2");
    driver.type(QString(70, 'w'));
    driver.key("Return");
    computed();
    EXPECT_EQ(slot_text_of("surface", "points"), std::string(70, 'w'));
    SlotPart* longest = part("surface", "points");
    EXPECT_LE(longest->geometry().right(), longest->parentWidget()->width());
    EXPECT_GE(view().width(), 400) << "the model keeps its room";
}

TEST_F(Sheet, PlacesAreEditedInATable) {
    build_canopy();
    driver.click(part("attractors", "places"));
    ASSERT_TRUE(Driver::until([&] { return child("place-0-1") != nullptr; }));
    driver.click(child("place-0-1"));
    driver.key("ctrl+a");
    driver.type("-10 m");
    driver.key("Return");
    computed();
    EXPECT_EQ(std::get<Attractors>(*document().results().shown("attractors")->value).items()[0].position.x,
              -10);
    driver.click(part("attractors", "places"));
    ASSERT_TRUE(Driver::until([&] { return child("place-0-2") != nullptr; }));
    driver.click(child("place-0-2"));
    driver.key("ctrl+a");
    driver.type("= 2 * 3 m");
    driver.key("Return");
    computed();
    EXPECT_EQ(std::get<Attractors>(*document().results().shown("attractors")->value).items()[0].position.y,
              6);
}

TEST_F(Sheet, EveryControlCanBeNamedByAssistiveTechnology) {
    build_canopy();
    driver.key("ctrl+k");
    for (QWidget* widget : window->findChildren<QWidget*>()) {
        if (!widget->isVisible() || widget->focusPolicy() == Qt::NoFocus || !widget->isEnabled()) continue;
        const auto* button = qobject_cast<QAbstractButton*>(widget);
        const bool named = !widget->accessibleName().isEmpty() || (button && !button->text().isEmpty()) ||
                           widget->inherits("QMenuBar") || widget->inherits("QSplitter") ||
                           widget->inherits("QScrollArea") || widget->inherits("QLabel") ||
                           widget->inherits("QAbstractScrollArea");
        EXPECT_TRUE(named) << widget->metaObject()->className() << " " << widget->objectName().toStdString();
    }
}

TEST_F(Sheet, TabReachesEveryPartOfASentence) {
    continue_with("rectangular");
    focus("lattice");
    std::set<QString> reached;
    for (int n = 0; n < 30; ++n) {
        driver.key("Tab");
        if (QWidget* now = QApplication::focusWidget()) reached.insert(now->objectName());
    }
    for (const char* slot : {"columns", "rows", "sizing", "width", "depth", "plane", "origin"})
        EXPECT_TRUE(reached.contains(QString("slot-") + slot)) << slot;
}

TEST_F(Sheet, ASmallStudyIsBegunFromByItsPicture) {
    driver.key("ctrl+Return");
    driver.type("gasket of");
    auto* offers = qobject_cast<QListWidget*>(child("offers"));
    ASSERT_TRUE(Driver::until([&] { return offers && offers->isVisible() && offers->count() == 1; }));
    EXPECT_FALSE(offers->item(0)->icon().isNull());
    driver.key("Return");
    ASSERT_TRUE(Driver::until([&] { return study().items.size() == 6; }));
    computed();
    EXPECT_EQ(document().results().problem_count(), 0U);
    EXPECT_TRUE(document().attention().selected() == id_of(study().items.back()));
    driver.key("ctrl+z");
    EXPECT_TRUE(Driver::until([&] { return study().items.empty(); })) << "all of it in one";
}

TEST_F(Sheet, WhatWasDoneIsAListThatGoesAnywhere) {
    continue_with("rectangular");
    type_into("lattice", "columns", "12");
    continue_with("skin");
    Driver::settle(700);  // a picture is taken at rest
    driver.key("ctrl+h");
    auto* list = qobject_cast<QListWidget*>(child("history"));
    ASSERT_TRUE(list);
    ASSERT_EQ(list->count(), 4);
    EXPECT_EQ(list->item(0)->text(), "Skin lattice with a smooth surface.");
    EXPECT_EQ(list->item(1)->text(), "lattice: bays along i 24 to 12");
    EXPECT_TRUE(list->item(2)->text().startsWith("Lay a lattice of 24 by 16 bays"));
    EXPECT_EQ(list->item(3)->text(), "As it was opened");
    EXPECT_EQ(list->currentRow(), 0);
    driver.click(list->viewport()->mapToGlobal(list->visualItemRect(list->item(2)).center()));
    EXPECT_TRUE(Driver::until([&] { return study().items.size() == 1; }));
    EXPECT_EQ(slot_text_of("lattice", "columns"), "24");
    EXPECT_EQ(list->currentRow(), 2);
    // By the keyboard, all the way back and forth again.
    driver.key("Down");
    driver.key("Return");
    EXPECT_TRUE(Driver::until([&] { return study().items.empty(); }));
    driver.key("Home");
    driver.key("Return");
    EXPECT_TRUE(Driver::until([&] { return study().items.size() == 2; }));
    driver.key("Escape");
    EXPECT_TRUE(Driver::until([&] { return child("history") == nullptr; }));
    EXPECT_TRUE(document().can_undo());
}

}  // namespace
}  // namespace plume::test

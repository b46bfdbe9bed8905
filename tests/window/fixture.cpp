#include "window/fixture.hpp"

#include <QApplication>
#include <QDir>
#include <QLineEdit>
#include <QMenu>
#include <QPointer>
#include <QProgressBar>
#include <QScrollArea>
#include <QSettings>
#include <QStandardPaths>
#include <QTimer>
#include <QWindow>

#include "app/sheet/sentence_widget.hpp"
#include "core/study/sentence.hpp"

namespace plume::test {

WindowTest::WindowTest() {
    // Settings and recovery copies of one test are not those of the next, nor anyone's own.
    qputenv("XDG_CONFIG_HOME", folder.filePath("config").toUtf8());
    qputenv("XDG_DATA_HOME", folder.filePath("data").toUtf8());
    reopen();
}

WindowTest::~WindowTest() {
    window.reset();
    Driver::settle(20);
}

void WindowTest::reopen(const QString& study_path) {
    window.reset();
    Driver::settle(20);
    window = std::make_unique<MainWindow>();
    EXPECT_TRUE(study_path.isEmpty() || window->open_file(study_path));
    window->show();
    window->offer_recovery();
    window->activateWindow();
    EXPECT_TRUE(Driver::until([&] {
        return window->isActiveWindow() && window->windowHandle()->isExposed();
    })) << "the window never came up";
    computed();
}

void WindowTest::computed() {
    EXPECT_TRUE(Driver::until([&] {
        const Results& results = document().results();
        return !results.behind() && !results.progress().busy && !results.untold();
    })) << "never finished computing";
    Driver::settle(30);
}

SlotPart* WindowTest::part(const std::string& result, const char* slot) {
    const Step* step = study().step(result);
    StepBlock* block = step ? window->sheet().step_block(step->id) : nullptr;
    SlotPart* found = block ? block->sentence().part(slot) : nullptr;
    if (block && !found) {
        auto* more = block->findChild<MorePart*>("sentence-more");
        if (more && more->isVisible()) {
            scroll_to(more);
            driver.click(more);
        }
        found = block->sentence().part(slot);
    }
    if (!found) throw std::runtime_error("no part " + result + "." + slot);
    scroll_to(found);
    return found;
}

QWidget* WindowTest::child(const char* name) {
    for (QWidget* top : QApplication::topLevelWidgets()) {
        const auto all = top->findChildren<QWidget*>(name);
        for (QWidget* widget : all)
            if (widget->isVisible()) return widget;
    }
    return nullptr;
}

QPushButton* WindowTest::button_in_popup(const char* words) {
    for (QPushButton* button : child("popup")->findChildren<QPushButton*>())
        if (button->text().remove('&').contains(words)) return button;
    throw std::runtime_error(std::string("no button ") + words);
}

void WindowTest::scroll_to(QWidget* widget) {
    auto* area = window->findChild<QScrollArea*>("sheet");
    area->ensureWidgetVisible(widget, 0, 60);
    Driver::settle(20);
}

void WindowTest::type_into(const std::string& result, const char* slot, const QString& text) {
    driver.click(part(result, slot));
    ASSERT_TRUE(Driver::until([&] { return child("inline-editor") != nullptr; }));
    driver.type(text);
    driver.key("Return");
    computed();
}

void WindowTest::choose(const QString& starts_with) {
    ASSERT_TRUE(Driver::until([] { return QApplication::activePopupWidget() != nullptr; }))
        << "no menu is open";
    auto* menu = qobject_cast<QMenu*>(QApplication::activePopupWidget());
    ASSERT_NE(menu, nullptr);
    for (QAction* action : menu->actions()) {
        if (!action->text().remove('&').startsWith(starts_with)) continue;
        driver.click(menu->mapToGlobal(menu->actionGeometry(action).center()));
        return;
    }
    FAIL() << "no entry " << starts_with.toStdString();
}

// Looked for again and again instead of waited for: a dialog that opens within a wait would hold up the wait
// itself.
void WindowTest::in_dialog(std::function<void()> action, int rounds) {
    QTimer::singleShot(50, [action = std::move(action), rounds] {
        const QWidget* dialog = QApplication::activeModalWidget();
        if (!dialog || !dialog->isActiveWindow()) {
            if (rounds > 0)
                in_dialog(action, rounds - 1);
            else
                ADD_FAILURE() << "no dialogue came up";
            return;
        }
        Driver::settle(200);
        action();
    });
}

void WindowTest::confirm(Driver& hand) {
    const QPointer<QWidget> dialog = QApplication::activeModalWidget();
    const auto open = [&] { return dialog && dialog->isVisible(); };
    const auto busy = [&] {
        const auto* bar = open() ? dialog->findChild<QProgressBar*>() : nullptr;
        return bar && bar->isVisible();
    };
    for (int round = 0; round < 10 && open(); ++round) {
        hand.key("Return");
        Driver::settle(400);
        Driver::until([&] { return !busy(); });
    }
    EXPECT_FALSE(open()) << "the dialogue takes no Return";
    if (open()) dialog->close();
}

void WindowTest::continue_with(const QString& words) {
    driver.key("ctrl+Return");
    driver.type(words);
    driver.key("Return");
    computed();
}

std::string WindowTest::slot_text_of(const std::string& result, const char* slot) {
    const Step& step = *study().step(result);
    return slot_text(*document().kind_of(step)->slot(slot), step);
}

double WindowTest::top_of(const std::string& result) {
    const Shown* shown = document().results().shown(result);
    if (!shown || !shown->drawable) throw std::runtime_error(result + " is not drawn");
    return shown->drawable->bounds.high.z;
}

// The walk itself, with its keys, is a test of walks_test.cpp.
void WindowTest::build_canopy() {
    for (const char* kind : {"lattice.rectangular", "attractors.points", "field.distance", "field.range",
                             "points.push", "skin"}) {
        const auto added = add_step(study(), document().catalogue(), *document().catalogue().find(kind),
                                    study().items.size());
        ASSERT_TRUE(added) << kind;
        document().apply(added->study, "step");
        document().attention().select(added->id);
    }
    computed();
}

QPoint WindowTest::on_screen(Vec3 point) {
    return view().mapToGlobal(view().position_of(point)->toPoint());
}

}  // namespace plume::test

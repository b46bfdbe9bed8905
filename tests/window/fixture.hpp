#pragma once
// A window on the display, and ways to find what to click in it.

#include <gtest/gtest.h>

#include <QPushButton>
#include <QTemporaryDir>
#include <memory>

#include "app/model/model_panel.hpp"
#include "app/sheet/sheet_page.hpp"
#include "app/sheet/slot_parts.hpp"
#include "app/window/main_window.hpp"
#include "window/driver.hpp"

namespace plume::test {

using namespace plume::app;

class WindowTest : public testing::Test {
public:
    ~WindowTest() override;

protected:
    WindowTest();

    // Closes the window, unsaved work and all, and opens another.
    void reopen(const QString& study = {});
    Document& document() { return window->document(); }
    const Study& study() { return document().study(); }
    ModelView& view() { return *window->model().view(); }

    // Waits until what is shown is that of the present study.
    void computed();
    SlotPart* part(const std::string& result, const char* slot);
    QWidget* child(const char* name);  // visible, by object name, anywhere in the application
    QPushButton* button_in_popup(const char* words);
    void scroll_to(QWidget* widget);
    void type_into(const std::string& result, const char* slot, const QString& text);
    // Chooses an entry of the menu now open, by the keyboard.
    void choose(const QString& starts_with);
    // Runs while a dialog blocks the test's own thread, once that dialog is up and has the keyboard.
    static void in_dialog(std::function<void()> action, int rounds = 600);
    // Return until the dialogue is gone: the first may only take what a list of file names offers. A dialogue
    // that writes is given its time.
    static void confirm(Driver& hand);
    void continue_with(const QString& words);
    std::string slot_text_of(const std::string& result, const char* slot);
    double top_of(const std::string& result);  // highest z of its drawing
    // Like document().apply(), for tests that need a study to start from.
    void build_canopy();
    QPoint on_screen(Vec3 point);
    QString file(const char* name) const { return folder.filePath(name); }

    QTemporaryDir folder;
    Driver driver;
    std::unique_ptr<MainWindow> window;
};

}  // namespace plume::test

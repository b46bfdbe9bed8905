#pragma once
// A hand on the mouse and the keyboard: events go to the X server, which sends them to the window as it would
// those of a real mouse and keyboard.

#include <QPoint>
#include <QString>
#include <QWidget>
#include <functional>
#include <memory>

namespace plume::test {

class Echo;

class Driver {
public:
    Driver();
    ~Driver();
    Driver(const Driver&) = delete;
    Driver& operator=(const Driver&) = delete;

    void move_to(QPoint screen);
    void press(int button = 1);
    void release(int button = 1);
    void click(QPoint screen, int button = 1);
    // The middle of a widget.
    void click(const QWidget* widget, int button = 1);
    // In small steps, so that the widget sees a drag and not a jump.
    void drag(QPoint from, QPoint to, int steps = 12);

    // A key by its X name, with modifiers before it: "Return", "ctrl+z", "ctrl+shift+z".
    void key(const char* chord);
    void type(const QString& text);  // ASCII
    // Whatever is done meanwhile is done with Shift, or Ctrl, held down.
    void with_shift(const std::function<void()>& action);
    void with_ctrl(const std::function<void()>& action);

    // Lets events arrive and be handled until the condition holds; false after a long time.
    static bool until(const std::function<bool()>& condition);
    static void settle(int milliseconds = 60);

private:
    void with_held(unsigned long symbol, const std::function<void()>& action);
    void key_event(unsigned code, bool down);
    // Until the application has seen all that was done, however busy the machine is.
    void sync();
    void* display_;  // Display*
    std::unique_ptr<Echo> echo_;
};

}  // namespace plume::test

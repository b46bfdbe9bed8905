#include "window/driver.hpp"

#include <xcb/xcb.h>

#include <QAbstractNativeEventFilter>
#include <QApplication>
#include <QCursor>
#include <QElapsedTimer>
#include <QPointer>
#include <QStringList>
#include <QThread>
#include <QWidget>
#include <QWindow>
#include <algorithm>
#include <stdexcept>

// After Qt: these define names such as None and Bool.
#include <X11/XKBlib.h>
#include <X11/Xlib.h>
#include <X11/extensions/XTest.h>
#include <X11/keysym.h>

namespace plume::test {
namespace {

Display* x(void* display) {
    return static_cast<Display*>(display);
}

// The key and whether Shift is needed for a character on the server's layout.
std::pair<unsigned, bool> key_of(Display* display, KeySym symbol) {
    const KeyCode code = XKeysymToKeycode(display, symbol);
    if (code == 0) throw std::runtime_error("no key for a symbol on this display");
    return {code, XkbKeycodeToKeysym(display, code, 0, 0) != symbol};
}

KeySym symbol_of(QChar c) {
    return c.unicode();  // for ASCII the symbol is the character
}

}  // namespace

// Messages to a window of the application, which come to it after all events before them.
class Echo : public QAbstractNativeEventFilter {
public:
    explicit Echo(Display* display)
        : display_(display), sort_(XInternAtom(display, "PLUME_TEST_ECHO", False)) {
        qApp->installNativeEventFilter(this);
    }
    ~Echo() override { qApp->removeNativeEventFilter(this); }
    Echo(const Echo&) = delete;
    Echo& operator=(const Echo&) = delete;

    void call() {
        const QWindow* window = any_window();
        if (!window) return;
        XEvent message{};
        message.xclient.type = ClientMessage;
        message.xclient.window = window->winId();
        message.xclient.message_type = sort_;
        message.xclient.format = 32;
        message.xclient.data.l[0] = ++called_;
        XSendEvent(display_, window->winId(), False, NoEventMask, &message);
        XSync(display_, False);
        QElapsedTimer timer;
        timer.start();
        // The window may be gone before the message is there.
        while (heard_ < called_ && timer.elapsed() < 3000 && QApplication::allWindows().contains(window))
            Driver::settle(2);
    }

    bool nativeEventFilter(const QByteArray& /*type*/, void* message, qintptr* /*result*/) override {
        const auto* event = static_cast<const xcb_client_message_event_t*>(message);
        if ((event->response_type & 0x7FU) != XCB_CLIENT_MESSAGE || event->type != sort_) return false;
        heard_ = std::max(heard_, static_cast<long>(event->data.data32[0]));
        return true;
    }

private:
    static const QWindow* any_window() {
        for (const QWindow* window : QApplication::topLevelWindows())
            if (window->handle() && window->isVisible()) return window;
        return nullptr;
    }

    Display* display_;
    Atom sort_;
    long called_ = 0, heard_ = 0;
};

Driver::Driver() : display_(XOpenDisplay(nullptr)) {
    if (!display_) throw std::runtime_error("no display");
    echo_ = std::make_unique<Echo>(x(display_));
}

Driver::~Driver() {
    echo_.reset();
    XCloseDisplay(x(display_));
}

void Driver::sync() {
    XSync(x(display_), False);
    echo_->call();
    settle(12);
}

void Driver::move_to(QPoint screen) {
    XTestFakeMotionEvent(x(display_), -1, screen.x(), screen.y(), CurrentTime);
    sync();
}

void Driver::press(int button) {
    XTestFakeButtonEvent(x(display_), static_cast<unsigned>(button), True, CurrentTime);
    sync();
}

void Driver::release(int button) {
    XTestFakeButtonEvent(x(display_), static_cast<unsigned>(button), False, CurrentTime);
    sync();
}

void Driver::click(QPoint screen, int button) {
    move_to(screen);
    press(button);
    release(button);
    settle();
}

// As a hand would, it follows what moves on while the pointer comes or is pressed, as when a line appears
// above it, and waits until what is aimed at can be pressed and no tip lies over it; not for ever, since what
// cannot be pressed is tried, too.
void Driver::click(const QWidget* widget, int button) {
    const QPointer<const QWidget> aim(widget);
    const auto middle = [&] { return aim->mapToGlobal(aim->rect().center()); };
    const auto pressable = [&] {
        const QWidget* there = QApplication::widgetAt(QCursor::pos());
        return aim->isEnabled() && (there == aim || aim->isAncestorOf(there));
    };
    QElapsedTimer timer;
    timer.start();
    do {
        if (aim) move_to(middle());
    } while (aim && (QCursor::pos() != middle() || !pressable()) && timer.elapsed() < 3000);
    if (!aim) throw std::runtime_error("what was to be clicked is gone");
    move_to(middle());
    press(button);
    if (aim && !aim->rect().contains(aim->mapFromGlobal(QCursor::pos()))) move_to(middle());
    release(button);
    settle();
}

void Driver::drag(QPoint from, QPoint to, int steps) {
    move_to(from);
    press();
    for (int step = 1; step <= steps; ++step)
        move_to(from + (to - from) * step / steps);
    release();
    settle();
}

void Driver::key_event(unsigned code, bool down) {
    XTestFakeKeyEvent(x(display_), code, down ? True : False, CurrentTime);
    XFlush(x(display_));
}

void Driver::key(const char* chord) {
    const QStringList words = QString(chord).split('+');
    std::vector<unsigned> held;
    for (const QString& word : words) {
        const KeySym symbol =
            word == "ctrl"
                ? XK_Control_L
                : (word == "shift" ? XK_Shift_L
                                   : (word == "alt" ? XK_Alt_L : XStringToKeysym(word.toUtf8().constData())));
        held.push_back(key_of(x(display_), symbol).first);
    }
    for (const unsigned code : held)
        key_event(code, true);
    std::ranges::reverse(held);
    for (const unsigned code : held)
        key_event(code, false);
    sync();
    settle();
}

void Driver::with_shift(const std::function<void()>& action) {
    with_held(XK_Shift_L, action);
}

void Driver::with_ctrl(const std::function<void()>& action) {
    with_held(XK_Control_L, action);
}

void Driver::with_held(unsigned long symbol, const std::function<void()>& action) {
    const unsigned key = key_of(x(display_), symbol).first;
    key_event(key, true);
    action();
    key_event(key, false);
    sync();
    settle();
}

void Driver::type(const QString& text) {
    const unsigned shift = key_of(x(display_), XK_Shift_L).first;
    for (const QChar c : text) {
        const auto [code, shifted] = key_of(x(display_), symbol_of(c));
        if (shifted) key_event(shift, true);
        key_event(code, true);
        key_event(code, false);
        if (shifted) key_event(shift, false);
        sync();
    }
    settle();
}

bool Driver::until(const std::function<bool()>& condition) {
    QElapsedTimer timer;
    timer.start();
    while (!condition()) {
        if (timer.elapsed() > 120'000) return false;
        settle(10);
    }
    // What has just been shown stands where it will be seen.
    QCoreApplication::sendPostedEvents(nullptr, QEvent::LayoutRequest);
    return true;
}

void Driver::settle(int milliseconds) {
    QElapsedTimer timer;
    timer.start();
    do {
        QCoreApplication::processEvents(QEventLoop::AllEvents, 5);
        QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
        QThread::msleep(1);
    } while (timer.elapsed() < milliseconds);
}

}  // namespace plume::test

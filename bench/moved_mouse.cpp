#include "moved_mouse.hpp"

#include <X11/Xlib.h>
#include <X11/extensions/XTest.h>

#include <chrono>

namespace bench {
namespace {

constexpr std::chrono::milliseconds between_moves{8};

void move(QPoint from, int reach, const std::atomic<bool>& ends) {
    Display* const display = XOpenDisplay(nullptr);
    if (!display) return;
    const auto go_to = [&](int along) {
        XTestFakeMotionEvent(display, -1, from.x() + along, from.y(), CurrentTime);
    };
    go_to(0);
    XTestFakeButtonEvent(display, 1, True, CurrentTime);
    for (int step = 1; !ends; ++step) {
        const int along = step % (2 * reach);
        go_to(along < reach ? along : 2 * reach - along);
        XFlush(display);
        std::this_thread::sleep_for(between_moves);
    }
    XTestFakeButtonEvent(display, 1, False, CurrentTime);
    XCloseDisplay(display);
}

}  // namespace

MovedMouse::MovedMouse(QPoint screen, int reach)
    : hand_([this, screen, reach] { move(screen, reach, ends_); }) {}

MovedMouse::~MovedMouse() {
    ends_ = true;
    hand_.join();
}

}  // namespace bench

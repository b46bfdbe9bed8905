#pragma once
// Turns mouse and arrow keys on a number into ticks: a drag sideways, or Up and Down. Shift fine, Ctrl
// coarse.

#include <QMouseEvent>
#include <functional>

#include "core/study/edits/scrub.hpp"

namespace plume::app {

// Pixels sideways that make a click a drag.
inline constexpr int drag_beyond = 4;

class Scrubbing {
public:
    std::function<void(double ticks, ScrubPace pace)> moved;     // ticks since the press
    std::function<void(int direction, ScrubPace pace)> stepped;  // one step of a key
    std::function<void()> began, ended, clicked;

    void press(const QMouseEvent& event);
    // As if it had been pressed there, in pixels of the screen.
    void take_over(QPointF pressed_at);
    void move(const QMouseEvent& event);
    void release(const QMouseEvent& event);
    // True when the key was one of ours.
    bool key(const QKeyEvent& event);
    bool active() const { return dragging_; }

private:
    bool pressed_ = false, dragging_ = false;
    QPointF start_, last_;
    double ticks_ = 0;
};

ScrubPace pace_of(Qt::KeyboardModifiers modifiers);

}  // namespace plume::app

#include "app/parts/scrubbing.hpp"

#include <QApplication>
#include <QKeyEvent>

namespace plume::app {

ScrubPace pace_of(Qt::KeyboardModifiers modifiers) {
    if (modifiers & Qt::ShiftModifier) return ScrubPace::fine;
    return modifiers & Qt::ControlModifier ? ScrubPace::coarse : ScrubPace::usual;
}

void Scrubbing::press(const QMouseEvent& event) {
    if (event.button() == Qt::LeftButton) take_over(event.globalPosition());
}

void Scrubbing::take_over(QPointF pressed_at) {
    pressed_ = true;
    dragging_ = false;
    start_ = pressed_at;
    ticks_ = 0;
}

void Scrubbing::move(const QMouseEvent& event) {
    if (!pressed_) return;
    const double apart = event.globalPosition().x() - start_.x();
    if (!dragging_ && qAbs(apart) < drag_beyond) return;
    if (!dragging_) {
        dragging_ = true;
        last_ = start_;
        began();
    }
    // Ticks are counted at the usual pace, so that pressing Shift in the middle of a drag does not make a
    // jump.
    const ScrubPace pace = pace_of(event.modifiers());
    const double weight = pace == ScrubPace::fine ? 0.1 : (pace == ScrubPace::coarse ? 10 : 1);
    ticks_ += (event.globalPosition().x() - last_.x()) * weight;
    last_ = event.globalPosition();
    if (pace == ScrubPace::fine)
        moved(ticks_ * 10, ScrubPace::fine);
    else
        moved(ticks_, ScrubPace::usual);
}

void Scrubbing::release(const QMouseEvent& event) {
    if (event.button() != Qt::LeftButton || !pressed_) return;
    pressed_ = false;
    if (dragging_)
        ended();
    else
        clicked();
    dragging_ = false;
}

bool Scrubbing::key(const QKeyEvent& event) {
    if (event.key() != Qt::Key_Up && event.key() != Qt::Key_Down) return false;
    if (event.modifiers() & Qt::AltModifier) return false;
    stepped(event.key() == Qt::Key_Up ? 1 : -1, pace_of(event.modifiers()));
    return true;
}

}  // namespace plume::app

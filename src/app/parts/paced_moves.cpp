#include "app/parts/paced_moves.hpp"

#include <QGuiApplication>
#include <utility>

namespace plume::app {
namespace {

constexpr int look_ms = 3;

}  // namespace

PacedMoves::PacedMoves(QObject* parent, std::function<bool()> waits, int paced_ms)
    : QObject(parent), waits_(std::move(waits)), paced_ms_(paced_ms) {
    look_again_.setInterval(look_ms);
    look_again_.setTimerType(Qt::PreciseTimer);
    connect(&look_again_, &QTimer::timeout, this, [this] {
        if (!too_soon()) follow_held();
    });
    since_followed_.start();
    qGuiApp->installEventFilter(this);
}

bool PacedMoves::too_soon() const {
    return since_followed_.elapsed() < paced_ms_ && waits_();
}

bool PacedMoves::eventFilter(QObject* receiver, QEvent* event) {
    if (!receiver->isWindowType() || !event->isInputEvent()) return false;
    const bool dragged =
        event->type() == QEvent::MouseMove && static_cast<QMouseEvent*>(event)->buttons() != Qt::NoButton;
    if (dragged && event->spontaneous() && too_soon()) {
        window_ = static_cast<QWindow*>(receiver);
        held_.reset(static_cast<QMouseEvent*>(event)->clone());
        look_again_.start();
        return true;
    }
    if (dragged) {
        // Newer than the one that is held.
        held_.reset();
        since_followed_.start();
    }
    follow_held();
    return false;
}

void PacedMoves::follow_held() {
    look_again_.stop();
    const std::unique_ptr<QMouseEvent> move = std::move(held_);
    if (!move || !window_) return;
    since_followed_.start();
    QCoreApplication::sendEvent(window_, move.get());
}

}  // namespace plume::app

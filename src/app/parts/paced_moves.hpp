#pragma once
// A mouse that drags something tells of its moves more often than a screen shows what came of them, and each
// one that is followed takes time from computing what is seen. While a button is held down and what an
// earlier move changed waits to be computed, moves are followed thirty times a second; those between are left
// out, the newest never is. Nothing else overtakes it.

#include <QElapsedTimer>
#include <QMouseEvent>
#include <QPointer>
#include <QTimer>
#include <QWindow>
#include <functional>
#include <memory>

namespace plume::app {

class PacedMoves : public QObject {
public:
    // Of all windows of the application, as long as it lives. `waits`: whether a change waits to be computed.
    PacedMoves(QObject* parent, std::function<bool()> waits, int paced_ms = 33);

    bool eventFilter(QObject* receiver, QEvent* event) override;

private:
    bool too_soon() const;
    void follow_held();

    std::function<bool()> waits_;
    int paced_ms_;
    QPointer<QWindow> window_;
    std::unique_ptr<QMouseEvent> held_;
    QElapsedTimer since_followed_;
    QTimer look_again_;  // runs while a move is held
};

}  // namespace plume::app

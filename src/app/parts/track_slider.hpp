#pragma once
// A thin line with a knob that is drawn along it, or stepped by the arrow keys.

#include <QWidget>
#include <functional>
#include <optional>

#include "app/parts/scrubbing.hpp"

namespace plume::app {

class TrackSlider : public QWidget {
public:
    explicit TrackSlider(QWidget* parent);
    std::function<std::optional<double>()> share;                // where the knob stands, 0 to 1
    std::function<void(double share)> moved;                     // by the mouse
    std::function<void()> ended;                                 // of a stroke of the mouse
    std::function<void(int direction, ScrubPace pace)> stepped;  // by a key

protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override { follow(*event); }
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void focusInEvent(QFocusEvent* /*event*/) override { update(); }
    void focusOutEvent(QFocusEvent* /*event*/) override { update(); }

private:
    void follow(const QMouseEvent& event);
};

}  // namespace plume::app

#include "app/parts/track_slider.hpp"

#include <QKeyEvent>
#include <QPainter>

#include "app/theme/look.hpp"

namespace plume::app {
namespace {

// Room for half of the knob at either end.
constexpr double end = 8;

}  // namespace

TrackSlider::TrackSlider(QWidget* parent) : QWidget(parent) {
    setFocusPolicy(Qt::StrongFocus);
    setMinimumWidth(80);
    setFixedHeight(22);
    setCursor(Qt::PointingHandCursor);
}

void TrackSlider::paintEvent(QPaintEvent* /*event*/) {
    const auto where = share();
    if (!where) return;
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const double middle = height() / 2.0, at = end + *where * (width() - 2 * end);
    painter.setPen(QPen(look().hairline, 2, Qt::SolidLine, Qt::RoundCap));
    painter.drawLine(QPointF(end, middle), QPointF(width() - end, middle));
    painter.setPen(QPen(look().accent, 2, Qt::SolidLine, Qt::RoundCap));
    painter.drawLine(QPointF(end, middle), QPointF(at, middle));
    painter.setBrush(hasFocus() ? look().accent : look().page);
    painter.drawEllipse(QPointF(at, middle), 6, 6);
}

void TrackSlider::mouseMoveEvent(QMouseEvent* event) {
    if (event->buttons() & Qt::LeftButton) follow(*event);
}

void TrackSlider::mouseReleaseEvent(QMouseEvent* /*event*/) {
    ended();
}

void TrackSlider::keyPressEvent(QKeyEvent* event) {
    const int key = event->key();
    const bool more = key == Qt::Key_Right || key == Qt::Key_Up,
               less = key == Qt::Key_Left || key == Qt::Key_Down;
    if (!more && !less) return QWidget::keyPressEvent(event);
    stepped(more ? 1 : -1, pace_of(event->modifiers()));
}

void TrackSlider::follow(const QMouseEvent& event) {
    moved(qBound(0.0, (event.position().x() - end) / (width() - 2 * end), 1.0));
}

}  // namespace plume::app

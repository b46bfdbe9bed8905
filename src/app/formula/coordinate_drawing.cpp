#include "app/formula/coordinate_drawing.hpp"

#include <QPainter>
#include <QPainterPath>
#include <cmath>

#include "app/theme/look.hpp"

namespace plume::app {
namespace {

constexpr int drawing_width = 118, drawing_height = 80;
constexpr double degree = 3.14159265358979 / 180;

// Oblique: X towards the viewer and left, Y to the right, Z up.
QPointF seen(double x, double y, double z) {
    return QPointF(48, 56) + QPointF(-15 * x + 27 * y, 10 * x + 3 * y - 36 * z);
}

void arc(QPainter& painter, const std::function<QPointF(double)>& at, double from, double to) {
    QPainterPath path(at(from));
    for (int step = 1; step <= 24; ++step)
        path.lineTo(at(from + (to - from) * step / 24));
    painter.drawPath(path);
}

}  // namespace

CoordinateDrawing::CoordinateDrawing(QWidget* parent) : QWidget(parent) {
    setFixedSize(drawing_width, drawing_height);
    setObjectName("coordinate-drawing");
}

void CoordinateDrawing::set_system(const std::string& system) {
    system_ = system;
    setAccessibleName(tr("Drawing of %1 coordinates").arg(QString::fromStdString(system)));
    update();
}

void CoordinateDrawing::paintEvent(QPaintEvent* /*event*/) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setFont(text_font(10));
    const QPointF origin = seen(0, 0, 0);
    painter.setPen(QPen(look().second_ink, 1));
    const std::pair<QPointF, const char*> axes[] = {
        {seen(1.5, 0, 0), "X"}, {seen(0, 1.5, 0), "Y"}, {seen(0, 0, 1.15), "Z"}};
    for (const auto& [tip, name] : axes) {
        painter.drawLine(origin, tip);
        const QPointF away = (tip - origin) / std::hypot(tip.x() - origin.x(), tip.y() - origin.y());
        painter.drawText(QRectF(tip + 7 * away - QPointF(6, 7), QSizeF(12, 14)), Qt::AlignCenter, name);
    }
    const double azimuth = 62 * degree, polar = 42 * degree;
    const bool spherical = system_ == "spherical", cylindrical = system_ == "cylindrical";
    const double height = spherical ? 1.15 * std::cos(polar) : 0.75,
                 out = spherical ? 1.15 * std::sin(polar) : 0.9;
    const double x = out * std::cos(azimuth), y = out * std::sin(azimuth);
    const QPointF point = seen(x, y, height), below = seen(x, y, 0);
    painter.setPen(QPen(look().second_ink, 1, Qt::DotLine));
    painter.drawLine(point, below);
    const auto label = [&](QPointF at, const QString& text) {
        painter.setPen(look().accent);
        painter.drawText(at, text);
    };
    painter.setPen(QPen(look().accent, 1.6));
    if (spherical) {
        painter.drawLine(origin, point);
        label((origin + point) / 2 + QPointF(9, 2), tr("radius"));
        painter.setPen(QPen(look().accent, 1.2));
        arc(
            painter,
            [&](double a) {
                return seen(0.6 * std::sin(a) * std::cos(azimuth), 0.6 * std::sin(a) * std::sin(azimuth),
                            0.6 * std::cos(a));
            },
            0, polar);
        label(seen(0, 0, 0.78) + QPointF(5, -7), tr("polar"));
    }
    if (cylindrical) {
        painter.drawLine(seen(0, 0, height), point);
        label(seen(0, 0.1, height) + QPointF(4, -4), tr("radius"));
        label((point + below) / 2 + QPointF(4, 3), "z");
    }
    painter.setPen(QPen(look().accent, 1.2));
    if (spherical || cylindrical) {
        painter.drawLine(origin, below);
        arc(
            painter, [&](double a) { return seen(0.55 * std::cos(a), 0.55 * std::sin(a), 0); }, 0, azimuth);
        label(seen(0.7, 0.35, 0) + QPointF(0, 10), tr("azimuth"));
    } else {
        painter.setPen(QPen(look().accent, 1, Qt::DotLine));
        painter.drawLine(below, seen(x, 0, 0));
        painter.drawLine(below, seen(0, y, 0));
        label(point + QPointF(5, 2), "x, y, z");
    }
    painter.setPen(Qt::NoPen);
    painter.setBrush(look().accent);
    painter.drawEllipse(point, 2.6, 2.6);
}

}  // namespace plume::app

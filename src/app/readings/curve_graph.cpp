#include "app/readings/curve_graph.hpp"

#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <cmath>
#include <limits>

#include "app/readings/graph_ticks.hpp"
#include "app/theme/look.hpp"

namespace plume::app {
namespace {

constexpr Dimension per_length{-1, 0};

}  // namespace

CurveGraph::CurveGraph(QWidget* parent) : QWidget(parent) {
    setObjectName("curve-graph");
    setAccessibleName(tr("curvature along the length"));
    setMouseTracking(true);
    setMinimumSize(220, 90);
}

void CurveGraph::set(std::shared_ptr<const CurvatureGraph> graph, const Units& units) {
    graph_ = std::move(graph);
    units_ = units;
    update();
}

QRectF CurveGraph::plot() const {
    constexpr double left = 58, right = 24, top = 22, bottom = 22;
    return {left, top, width() - left - right, height() - top - bottom};
}

double CurveGraph::longest() const {
    double most = 0;
    for (const CurvatureLine& line : *graph_)
        most = std::max(most, line.along.back());
    return most > 0 ? most : 1;
}

double CurveGraph::largest() const {
    double most = 0;
    for (const CurvatureLine& line : *graph_)
        for (const double number : line.curvatures)
            if (std::isfinite(number)) most = std::max(most, number);
    constexpr double headroom = 1.06;
    return most > 0 ? most * headroom : 1;
}

QPointF CurveGraph::place_of(const CurvatureLine& line, std::size_t sample) const {
    const QRectF area = plot();
    return {area.left() + area.width() * line.along[sample] / longest(),
            area.bottom() - area.height() * line.curvatures[sample] / largest()};
}

std::size_t CurveGraph::sample_at_cursor(const CurvatureLine& line) const {
    const double at = (cursor_->x() - plot().left()) / plot().width() * longest();
    const auto next = std::ranges::lower_bound(line.along, at);
    return std::min(static_cast<std::size_t>(next - line.along.begin()), line.along.size() - 1);
}

std::size_t CurveGraph::line_at_cursor() const {
    std::size_t nearest = 0;
    double least = std::numeric_limits<double>::infinity();
    for (std::size_t number = 0; number < graph_->size(); ++number) {
        const CurvatureLine& line = (*graph_)[number];
        const double apart = std::abs(place_of(line, sample_at_cursor(line)).y() - cursor_->y());
        if (!(apart < least)) continue;
        least = apart;
        nearest = number;
    }
    return nearest;
}

void CurveGraph::paintEvent(QPaintEvent* /*event*/) {
    if (!graph_ || graph_->empty() || plot().height() < 20) return;
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    paint_axes(painter);
    const bool reads = cursor_ && plot().contains(*cursor_);
    for (const CurvatureLine& line : *graph_)
        paint_line(painter, line, graph_->size() == 1);
    if (reads) paint_line(painter, (*graph_)[line_at_cursor()], true);
    painter.setFont(text_font(12));
    painter.setPen(look().second_ink);
    if (reads)
        paint_reading(painter);
    else
        painter.drawText(QRectF(0, 0, width(), 18), Qt::AlignLeft | Qt::AlignVCenter, accessibleName());
}

void CurveGraph::paint_axes(QPainter& painter) const {
    const QRectF area = plot();
    painter.setFont(text_font(11));
    for_each_tick(0, largest(), per_length, units_, std::max(1.0, area.height() / 30),
                  [&](double at, const QString& text) {
                      const double y = area.bottom() - area.height() * at / largest();
                      painter.setPen(look().hairline);
                      painter.drawLine(QPointF(area.left(), y), QPointF(area.right(), y));
                      painter.setPen(look().second_ink);
                      painter.drawText(QRectF(0, y - 8, area.left() - 8, 16),
                                       Qt::AlignRight | Qt::AlignVCenter, text);
                  });
    for_each_tick(0, longest(), a_length, units_, std::max(1.0, area.width() / 70),
                  [&](double at, const QString& text) {
                      const double x = area.left() + area.width() * at / longest();
                      painter.setPen(look().hairline);
                      painter.drawLine(QPointF(x, area.top()), QPointF(x, area.bottom()));
                      painter.setPen(look().second_ink);
                      // The last one ends where the graph does.
                      const bool last = x + 40 > width();
                      painter.drawText(QRectF(last ? width() - 80.0 : x - 40, area.bottom() + 3, 80, 16),
                                       (last ? Qt::AlignRight : Qt::AlignHCenter) | Qt::AlignVCenter, text);
                  });
}

void CurveGraph::paint_line(QPainter& painter, const CurvatureLine& line, bool strong) const {
    QPainterPath path;
    bool drawing = false;
    for (std::size_t sample = 0; sample < line.curvatures.size(); ++sample) {
        if (!std::isfinite(line.curvatures[sample])) {
            drawing = false;
            continue;
        }
        const QPointF place = place_of(line, sample);
        drawing ? path.lineTo(place) : path.moveTo(place);
        drawing = true;
    }
    QColor colour = look().accent;
    if (!strong) colour.setAlphaF(0.45F);
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(colour, strong ? 2 : 1));
    painter.drawPath(path);
}

// "radius 2.38 m at 3.1 m", and where that is.
void CurveGraph::paint_reading(QPainter& painter) const {
    const std::size_t number = line_at_cursor();
    const CurvatureLine& line = (*graph_)[number];
    const std::size_t sample = sample_at_cursor(line);
    const double value = line.curvatures[sample];
    const auto told = [&](double length) { return text_of(quantity_text({length, a_length}, units_, 3)); };
    const bool bent = value > 0 && std::isfinite(value);
    QString text = bent ? tr("radius %1").arg(told(1 / value)) : tr("straight");
    text += tr(" at %1").arg(told(line.along[sample]));
    if (graph_->size() > 1) text += tr(", curve %1").arg(number);
    painter.setPen(look().ink);
    painter.drawText(QRectF(0, 0, width(), 18), Qt::AlignLeft | Qt::AlignVCenter, text);
    if (!std::isfinite(value)) return;
    painter.setPen(Qt::NoPen);
    painter.setBrush(look().accent);
    painter.drawEllipse(place_of(line, sample), 4, 4);
}

void CurveGraph::mouseMoveEvent(QMouseEvent* event) {
    cursor_ = event->position();
    update();
}

void CurveGraph::leaveEvent(QEvent* event) {
    cursor_.reset();
    update();
    QWidget::leaveEvent(event);
}

}  // namespace plume::app

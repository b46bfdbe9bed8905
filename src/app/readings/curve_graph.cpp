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

CurveGraph::CurveGraph(QWidget* parent) : QWidget(parent) {
    setObjectName("curve-graph");
    setMouseTracking(true);
    setMinimumSize(220, 90);
}

void CurveGraph::set(std::shared_ptr<const ValueGraph> graph, const Units& units) {
    graph_ = std::move(graph);
    units_ = units;
    if (graph_) setAccessibleName(text_of(graph_->title));
    update();
}

QRectF CurveGraph::plot() const {
    constexpr double left = 58, right = 10, top = 22, bottom = 22;
    return {left, top, width() - left - right, height() - top - bottom};
}

double CurveGraph::longest() const {
    double most = 0;
    for (const GraphLine& line : graph_->lines)
        most = std::max(most, line.along.back());
    return most > 0 ? most : 1;
}

double CurveGraph::largest() const {
    double most = 0;
    for (const GraphLine& line : graph_->lines)
        for (const double number : line.numbers)
            if (std::isfinite(number)) most = std::max(most, number);
    return most > 0 ? most : 1;
}

QPointF CurveGraph::place_of(const GraphLine& line, std::size_t sample) const {
    const QRectF area = plot();
    return {area.left() + area.width() * line.along[sample] / longest(),
            area.bottom() - area.height() * line.numbers[sample] / largest()};
}

std::size_t CurveGraph::sample_at_cursor(const GraphLine& line) const {
    const double at = (cursor_->x() - plot().left()) / plot().width() * longest();
    const auto next = std::ranges::lower_bound(line.along, at);
    return std::min(static_cast<std::size_t>(next - line.along.begin()), line.along.size() - 1);
}

std::size_t CurveGraph::line_at_cursor() const {
    std::size_t nearest = 0;
    double least = std::numeric_limits<double>::infinity();
    for (std::size_t number = 0; number < graph_->lines.size(); ++number) {
        const GraphLine& line = graph_->lines[number];
        const double apart = std::abs(place_of(line, sample_at_cursor(line)).y() - cursor_->y());
        if (!(apart < least)) continue;
        least = apart;
        nearest = number;
    }
    return nearest;
}

QString CurveGraph::number_text(double number) const {
    return std::isfinite(number) ? text_of(quantity_text({number, graph_->dimension}, units_)) : tr("none");
}

void CurveGraph::paintEvent(QPaintEvent* /*event*/) {
    if (!graph_ || graph_->lines.empty() || plot().height() < 20) return;
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    paint_axes(painter);
    const bool reads = cursor_ && plot().contains(*cursor_);
    for (const GraphLine& line : graph_->lines)
        paint_line(painter, line, graph_->lines.size() == 1);
    if (reads) paint_line(painter, graph_->lines[line_at_cursor()], true);
    painter.setFont(text_font(12));
    painter.setPen(look().second_ink);
    if (reads)
        paint_reading(painter);
    else
        painter.drawText(QRectF(0, 0, width(), 18), Qt::AlignLeft | Qt::AlignVCenter, text_of(graph_->title));
}

void CurveGraph::paint_axes(QPainter& painter) const {
    const QRectF area = plot();
    painter.setFont(text_font(11));
    for_each_tick(0, largest(), graph_->dimension, units_, std::max(1.0, area.height() / 30),
                  [&](double at, const QString& text) {
                      const double y = area.bottom() - area.height() * at / largest();
                      painter.setPen(look().hairline);
                      painter.drawLine(QPointF(area.left(), y), QPointF(area.right(), y));
                      painter.setPen(look().second_ink);
                      painter.drawText(QRectF(0, y - 8, area.left() - 8, 16),
                                       Qt::AlignRight | Qt::AlignVCenter, text);
                  });
    for_each_tick(0, longest(), graph_->along_dimension, units_, std::max(1.0, area.width() / 70),
                  [&](double at, const QString& text) {
                      const double x = area.left() + area.width() * at / longest();
                      painter.setPen(look().hairline);
                      painter.drawLine(QPointF(x, area.top()), QPointF(x, area.bottom()));
                      painter.setPen(look().second_ink);
                      const double left = std::min(x - 40, width() - 80.0);
                      painter.drawText(QRectF(left, area.bottom() + 3, 80, 16), Qt::AlignCenter, text);
                  });
}

void CurveGraph::paint_line(QPainter& painter, const GraphLine& line, bool strong) const {
    QPainterPath path;
    bool drawing = false;
    for (std::size_t sample = 0; sample < line.numbers.size(); ++sample) {
        if (!std::isfinite(line.numbers[sample])) {
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

// "0.42 1/m at 3.1 m, a radius of 2.38 m", and where that is.
void CurveGraph::paint_reading(QPainter& painter) const {
    const std::size_t number = line_at_cursor();
    const GraphLine& line = graph_->lines[number];
    const std::size_t sample = sample_at_cursor(line);
    const double value = line.numbers[sample];
    QString text = tr("%1 at %2")
                       .arg(number_text(value),
                            text_of(quantity_text({line.along[sample], graph_->along_dimension}, units_)));
    if (graph_->radii && value > 0 && std::isfinite(value))
        text += tr(", a radius of %1").arg(text_of(quantity_text({1 / value, a_length}, units_)));
    if (graph_->lines.size() > 1) text += tr(", curve %1").arg(number);
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

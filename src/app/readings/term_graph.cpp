#include "app/readings/term_graph.hpp"

#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <cmath>
#include <limits>

#include "app/formula/term_column.hpp"
#include "app/readings/graph_ticks.hpp"
#include "app/theme/look.hpp"

namespace plume::app {
namespace {

constexpr int left_room = 66, right_room = 150, top_room = 10, axis_room = 22, strip_height = 20;
constexpr double infinite = std::numeric_limits<double>::infinity();

QColor colour_of(std::size_t index) {
    const std::array<HeadingColour, 6> order{HeadingColour::teal, HeadingColour::rose, HeadingColour::slate,
                                             HeadingColour::sand, HeadingColour::moss, HeadingColour::plum};
    return look().thread(order[index % order.size()]);
}

}  // namespace

TermGraph::TermGraph(Document& document, QWidget* parent) : QWidget(parent), document_(document) {
    setObjectName("term-graph");
    setAccessibleName(tr("Graphs of the formula's lines"));
    setMouseTracking(true);
    setMinimumHeight(120);
    connect(&document.results(), &Results::notes_changed, this, [this] { update(); });
    connect(&document.attention(), &Attention::graphed_changed, this, [this] { update(); });
}

void TermGraph::set_step(ItemId step) {
    step_ = step;
    update();
}

std::vector<const TermInsight*> TermGraph::lines() const {
    std::vector<const TermInsight*> found;
    const FormulaInsight* insight = document_.results().insight(step_);
    if (!insight) return found;
    for (const TermInsight& term : insight->terms)
        if (const auto& wanted = document_.attention().graphed(step_);
            std::ranges::find(wanted, term.name) != wanted.end())
            found.push_back(&term);
    return found;
}

bool TermGraph::has_lines() const {
    return !lines().empty();
}

std::optional<TermGraph::Scale> TermGraph::shared_scale(const std::vector<const TermInsight*>& lines) const {
    Scale scale{infinite, -infinite};
    for (const TermInsight* line : lines) {
        if (line->dimension != lines.front()->dimension) return {};
        for (const double value : line->graph)
            if (std::isfinite(value)) {
                scale.least = std::min(scale.least, value);
                scale.most = std::max(scale.most, value);
            }
    }
    if (scale.least > scale.most) return Scale{};
    if (scale.least == scale.most) return Scale{scale.least - 0.5, scale.most + 0.5};
    return scale;
}

// Places ----------------------------------------------------------------------------------------------------

std::vector<std::size_t> TermGraph::held_directions() const {
    std::vector<std::size_t> held;
    const FormulaInsight* insight = document_.results().insight(step_);
    for (std::size_t d = 0; insight && d < 3; ++d)
        if (d != insight->direction && insight->directions[d].count > 1) held.push_back(d);
    return held;
}

QRectF TermGraph::plot() const {
    const double below = axis_room + strip_height * static_cast<double>(held_directions().size());
    return {left_room, top_room, width() - left_room - right_room - 0.0, height() - top_room - below - 2};
}

QRectF TermGraph::strip(std::size_t direction) const {
    const auto held = held_directions();
    const auto place = std::ranges::find(held, direction) - held.begin();
    const QRectF area = plot();
    return {area.left(), area.bottom() + axis_room + static_cast<double>(place) * strip_height, area.width(),
            strip_height};
}

QRectF TermGraph::close_rect() const {
    return {width() - 26.0, 4, 20, 20};
}

double TermGraph::share_at(double x) const {
    const GraphWish wish = document_.attention().graph_wish(step_);
    const double across = std::clamp((x - plot().left()) / plot().width(), 0.0, 1.0);
    return wish.from + (wish.to - wish.from) * across;
}

double TermGraph::x_of(double value) const {
    const FormulaInsight& insight = *document_.results().insight(step_);
    if (insight.along.size() < 2) return plot().center().x();
    const double first = insight.along.front(), last = insight.along.back();
    return plot().left() + plot().width() * (last == first ? 0.5 : (value - first) / (last - first));
}

// Painting --------------------------------------------------------------------------------------------------

void TermGraph::paintEvent(QPaintEvent* /*event*/) {
    const auto shown = lines();
    if (shown.empty() || plot().height() < 20) return;
    if (document_.results().insight(step_)->along.size() != shown.front()->graph.size()) return;
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    paint_axes(painter, shown);
    const auto shared = shared_scale(shown);
    for (std::size_t at = 0; at < shown.size(); ++at)
        paint_line(painter, *shown[at], colour_of(at), shared ? *shared : *shared_scale({shown[at]}));
    paint_legend(painter, shown);
    paint_strips(painter);
    painter.setPen(look().second_ink);
    painter.setFont(text_font(14));
    painter.drawText(close_rect(), Qt::AlignCenter, "×");
}

void TermGraph::paint_axes(QPainter& painter, const std::vector<const TermInsight*>& shown) const {
    const FormulaInsight& insight = *document_.results().insight(step_);
    const Units& units = document_.study().units;
    const QRectF area = plot();
    painter.setFont(text_font(11));
    if (const auto scale = shared_scale(shown)) {
        for_each_tick(scale->least, scale->most, shown.front()->dimension, units, area.height() / 34,
                      [&](double value, const QString& text) {
                          const double y = area.bottom() - area.height() * (value - scale->least) /
                                                               (scale->most - scale->least);
                          painter.setPen(look().hairline);
                          painter.drawLine(QPointF(area.left(), y), QPointF(area.right(), y));
                          painter.setPen(look().second_ink);
                          painter.drawText(QRectF(0, y - 8, area.left() - 8, 16),
                                           Qt::AlignRight | Qt::AlignVCenter, text);
                      });
    } else {
        painter.setPen(look().second_ink);
        painter.drawText(QRectF(0, area.top(), area.left() - 8, area.height()),
                         Qt::AlignRight | Qt::AlignVCenter | Qt::TextWordWrap, tr("each to its own scale"));
    }
    if (insight.along.size() < 2) return;
    const InsightDirection& along = insight.directions[insight.direction];
    const auto [least, most] = std::minmax(insight.along.front(), insight.along.back());
    for_each_tick(least, most, along.dimension, units, area.width() / 80,
                  [&](double value, const QString& text) {
                      const double x = x_of(value);
                      painter.setPen(look().hairline);
                      painter.drawLine(QPointF(x, area.top()), QPointF(x, area.bottom()));
                      painter.setPen(look().second_ink);
                      painter.drawText(QRectF(x - 40, area.bottom() + 3, 80, 16), Qt::AlignCenter, text);
                  });
    painter.setPen(look().second_ink);
    painter.drawText(QRectF(0, area.bottom() + 3, area.left() - 24, 16), Qt::AlignRight | Qt::AlignVCenter,
                     text_of(along.name));
    const double held = x_of(along.held);
    if (held < area.left() - 1 || held > area.right() + 1) return;
    painter.setPen(QPen(look().ink, 1, Qt::DotLine));
    painter.drawLine(QPointF(held, area.top()), QPointF(held, area.bottom()));
    painter.setBrush(look().ink);
    painter.setPen(Qt::NoPen);
    painter.drawEllipse(QPointF(held, area.bottom()), 4, 4);
}

void TermGraph::paint_line(QPainter& painter, const TermInsight& line, const QColor& colour,
                           Scale scale) const {
    const QRectF area = plot();
    const FormulaInsight& insight = *document_.results().insight(step_);
    painter.save();
    painter.setClipRect(area.adjusted(-2, -2, 2, 2));
    QPainterPath path;
    bool drawing = false;
    for (std::size_t at = 0; at < line.graph.size(); ++at) {
        const double value = line.graph[at];
        if (!std::isfinite(value)) {
            drawing = false;
            continue;
        }
        const QPointF point(x_of(insight.along[at]), area.bottom() - area.height() * (value - scale.least) /
                                                                         (scale.most - scale.least));
        drawing ? path.lineTo(point) : path.moveTo(point);
        drawing = true;
    }
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(colour, 2));
    painter.drawPath(path);
    painter.restore();
}

// Name, range and the value under the cursor, or where the direction is held.
void TermGraph::paint_legend(QPainter& painter, const std::vector<const TermInsight*>& shown) const {
    const FormulaInsight& insight = *document_.results().insight(step_);
    const Units& units = document_.study().units;
    const InsightDirection& along = insight.directions[insight.direction];
    const QRectF area = plot();
    std::optional<std::size_t> sample;
    if (cursor_ && area.contains(*cursor_) && insight.along.size() > 1) {
        const double across = (cursor_->x() - area.left()) / area.width();
        sample =
            static_cast<std::size_t>(std::llround(across * static_cast<double>(insight.along.size() - 1)));
        painter.setPen(QPen(look().second_ink, 1));
        const double x = x_of(insight.along[*sample]);
        painter.drawLine(QPointF(x, area.top()), QPointF(x, area.bottom()));
    }
    const double left = area.right() + 16;
    double y = area.top();
    const auto put = [&](const QString& text, const QColor& colour, const QFont& font) {
        painter.setFont(font);
        painter.setPen(colour);
        const QRectF row(left, y, width() - left - 6, 16);
        painter.drawText(
            row, Qt::AlignLeft | Qt::AlignVCenter,
            painter.fontMetrics().elidedText(text, Qt::ElideRight, static_cast<int>(row.width())));
        y += 17;
    };
    put(tr("at %1 = %2")
            .arg(text_of(along.name),
                 value_text(sample ? insight.along[*sample] : along.held, along.dimension, units)),
        look().second_ink, text_font(11));
    for (std::size_t at = 0; at < shown.size(); ++at) {
        const TermInsight& line = *shown[at];
        const double value = sample ? line.graph[*sample] : line.at_held;
        const QString name = line.name.empty() ? tr("last line") : text_of(line.name);
        put(name + "  " +
                (std::isfinite(value) ? value_text(value, line.dimension, units) : tr("not finite")),
            colour_of(at), text_font(12, QFont::DemiBold));
    }
}

void TermGraph::paint_strips(QPainter& painter) const {
    const FormulaInsight& insight = *document_.results().insight(step_);
    const Units& units = document_.study().units;
    const GraphWish wish = document_.attention().graph_wish(step_);
    painter.setFont(text_font(11));
    for (const std::size_t d : held_directions()) {
        const InsightDirection& direction = insight.directions[d];
        const QRectF row = strip(d);
        const double y = row.center().y(), x = row.left() + row.width() * wish.held[d];
        painter.setPen(QPen(look().hairline, 3, Qt::SolidLine, Qt::RoundCap));
        painter.drawLine(QPointF(row.left(), y), QPointF(row.right(), y));
        painter.setPen(Qt::NoPen);
        painter.setBrush(look().accent);
        painter.drawEllipse(QPointF(x, y), 5, 5);
        painter.setPen(look().second_ink);
        painter.drawText(QRectF(0, row.top(), left_room - 24.0, row.height()),
                         Qt::AlignRight | Qt::AlignVCenter, text_of(direction.name));
        painter.drawText(QRectF(row.right() + 16, row.top(), right_room - 20.0, row.height()),
                         Qt::AlignLeft | Qt::AlignVCenter,
                         tr("held at %1").arg(value_text(direction.held, direction.dimension, units)));
    }
}

// Mouse -----------------------------------------------------------------------------------------------------

void TermGraph::hold(std::size_t direction, double share) {
    GraphWish wish = document_.attention().graph_wish(step_);
    wish.held[direction] = share;
    document_.attention().set_graph_wish(step_, wish);
    update();
}

void TermGraph::mousePressEvent(QMouseEvent* event) {
    const FormulaInsight* insight = document_.results().insight(step_);
    if (event->button() != Qt::LeftButton || !insight) return;
    pressed_ = event->position();
    if (close_rect().contains(pressed_)) {
        for (const std::string& line : std::vector<std::string>(document_.attention().graphed(step_)))
            document_.attention().toggle_graphed(step_, line);
        return;
    }
    dragged_.reset();
    if (plot().adjusted(-6, -6, 6, 10).contains(pressed_)) dragged_ = insight->direction;
    for (const std::size_t d : held_directions())
        if (strip(d).adjusted(-6, 0, 6, 0).contains(pressed_)) dragged_ = d;
    if (dragged_) mouseMoveEvent(event);
}

void TermGraph::mouseMoveEvent(QMouseEvent* event) {
    cursor_ = event->position();
    const FormulaInsight* insight = document_.results().insight(step_);
    if (dragged_ && insight) {
        if (*dragged_ == insight->direction)
            hold(*dragged_, share_at(cursor_->x()));
        else
            hold(*dragged_, std::clamp((cursor_->x() - plot().left()) / plot().width(), 0.0, 1.0));
    }
    update();
}

void TermGraph::mouseReleaseEvent(QMouseEvent* /*event*/) {
    dragged_.reset();
}

void TermGraph::mouseDoubleClickEvent(QMouseEvent* /*event*/) {
    GraphWish wish = document_.attention().graph_wish(step_);
    wish.from = 0;
    wish.to = 1;
    document_.attention().set_graph_wish(step_, wish);
}

void TermGraph::wheelEvent(QWheelEvent* event) {
    if (!plot().contains(event->position())) return;
    GraphWish wish = document_.attention().graph_wish(step_);
    const double centre = share_at(event->position().x());
    const double times = std::pow(0.8, event->angleDelta().y() / 120.0);
    const double span = std::clamp((wish.to - wish.from) * times, 0.002, 1.0);
    const double across = (centre - wish.from) / (wish.to - wish.from);
    wish.from = std::clamp(centre - span * across, 0.0, 1 - span);
    wish.to = wish.from + span;
    document_.attention().set_graph_wish(step_, wish);
    event->accept();
}

void TermGraph::leaveEvent(QEvent* event) {
    cursor_.reset();
    update();
    QWidget::leaveEvent(event);
}

}  // namespace plume::app

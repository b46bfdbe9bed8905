#include "app/formula/term_column.hpp"

#include <QHelpEvent>
#include <QPainter>
#include <QPainterPath>
#include <QToolTip>
#include <cmath>
#include <limits>

#include "app/theme/look.hpp"
#include "core/base/numbers.hpp"

namespace plume::app {
namespace {

constexpr double infinite = std::numeric_limits<double>::infinity();
constexpr int graph_width = 42, graph_height = 14, dot = 9;

}  // namespace

QString value_text(double value, Dimension dimension, const Units& units, int digits) {
    return text_of(quantity_text({value, dimension}, units, digits));
}

QString span_text(double least, double most, Dimension dimension, const Units& units, int digits) {
    if (least == most) return value_text(least, dimension, units, digits);
    QString low = value_text(least, dimension, units, digits);
    const QString high = value_text(most, dimension, units, digits);
    // The unit once.
    const auto space = low.lastIndexOf(' ');
    if (space > 0 && high.endsWith(low.mid(space))) low.truncate(space);
    return low + " … " + high;
}

TermColumn::TermColumn(Document& document, ItemId step, FormulaEditor& editor, QWidget* parent)
    : LineColumn(document, step, editor, column_width, parent) {
    setObjectName("terms");
    setAccessibleName(tr("Ranges and graphs of the lines"));
}

QRect TermColumn::row_rect(const TermInsight& term) const {
    const QRect line = editor_.line_rect(term);
    return {0, line.top(), width(), editor_.fontMetrics().lineSpacing()};
}

QRect TermColumn::graph_rect(const TermInsight& term) const {
    const QRect row = row_rect(term);
    return {4, row.center().y() - graph_height / 2, graph_width, graph_height};
}

QRect TermColumn::mute_rect(const TermInsight& term) const {
    const QRect row = row_rect(term);
    return {width() - dot - 4, row.center().y() - dot / 2, dot, dot};
}

QString TermColumn::range_text(const TermInsight& term) const {
    if (term.muted_to) return tr("muted: %1").arg(*term.muted_to);
    const Survey& survey = term.survey;
    if (survey.least > survey.most) return tr("no finite number");
    QString range = span_text(survey.least, survey.most, term.dimension, document_.study().units, 3);
    if (survey.not_finite == 0) return range;
    return tr("%1 not finite").arg(text_of(grouped_text(static_cast<std::int64_t>(survey.not_finite))));
}

QString TermColumn::tip(const TermInsight& term) const {
    const Units& units = document_.study().units;
    const FormulaInsight& insight = *document_.results().insight(step_);
    const InsightDirection& along = insight.directions[term.small.direction];
    QStringList lines;
    const QString name = term.name.empty() ? tr("this line") : text_of(term.name);
    if (term.survey.least <= term.survey.most)
        lines << tr("%1 is %2 over the whole form")
                     .arg(name, span_text(term.survey.least, term.survey.most, term.dimension, units));
    if (term.survey.not_finite > 0)
        lines << tr("%1 numbers are not finite, the first at i %2, j %3, k %4")
                     .arg(term.survey.not_finite)
                     .arg(term.first_not_finite.i)
                     .arg(term.first_not_finite.j)
                     .arg(term.first_not_finite.k);
    lines << tr("At %1 = %2 it is %3")
                 .arg(text_of(along.name), value_text(along.held, along.dimension, units),
                      value_text(term.at_held, term.dimension, units));
    lines << (term.small.other
                  ? tr("Its graph runs along %1, the faint one along %2")
                        .arg(text_of(along.name), text_of(insight.directions[*term.small.other].name))
                  : tr("Its graph runs along %1").arg(text_of(along.name)));
    lines << tr("Click it to see it large, drag on it to hold %1 elsewhere").arg(text_of(along.name));
    return lines.join("\n");
}

const TermInsight* TermColumn::term_at(int y) const {
    const FormulaInsight* insight = document_.results().insight(step_);
    if (!insight) return nullptr;
    for (const TermInsight& term : insight->terms)
        if (const QRect row = row_rect(term); y >= row.top() && y <= row.bottom()) return &term;
    return nullptr;
}

// Painting --------------------------------------------------------------------------------------------------

void TermColumn::paintEvent(QPaintEvent* /*event*/) {
    const FormulaInsight* insight = document_.results().insight(step_);
    if (!insight) return;
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    // While the text cannot be read the ranges are those from before.
    if (insight->error) painter.setOpacity(0.45);
    for (const TermInsight& term : insight->terms)
        paint_term(painter, term);
}

void TermColumn::paint_term(QPainter& painter, const TermInsight& term) const {
    const auto& graphed = document_.attention().graphed(step_);
    const bool large = std::ranges::find(graphed, term.name) != graphed.end();
    const QRect frame = graph_rect(term), row = row_rect(term);
    painter.setPen(large ? QPen(look().accent, 1) : QPen(Qt::NoPen));
    painter.setBrush(large ? look().page : look().desk);
    painter.drawRoundedRect(QRectF(frame).adjusted(-0.5, -0.5, 0.5, 0.5), 2, 2);
    paint_graph(painter, term, frame);
    painter.setFont(text_font(11));
    painter.setPen(term.survey.not_finite > 0 ? look().attention : look().second_ink);
    const QRect text(frame.right() + 7, row.top(), mute_rect(term).left() - frame.right() - 10, row.height());
    painter.drawText(text, Qt::AlignLeft | Qt::AlignVCenter,
                     painter.fontMetrics().elidedText(range_text(term), Qt::ElideRight, text.width()));
    if (term.name.empty()) return;
    painter.setPen(QPen(term.muted_to ? look().attention : look().hairline, 1.4));
    painter.setBrush(term.muted_to ? QBrush(Qt::NoBrush) : QBrush(look().hairline));
    painter.drawEllipse(QRectF(mute_rect(term)).adjusted(1, 1, -1, -1));
    if (term.muted_to) {
        const QRectF ring = QRectF(mute_rect(term)).adjusted(2, 2, -2, -2);
        painter.drawLine(ring.bottomLeft(), ring.topRight());
    }
}

namespace {

// Broken where numbers are not finite.
QPainterPath path_of(const std::vector<double>& values, const QRectF& inside, double least, double most) {
    QPainterPath path;
    bool drawing = false;
    for (std::size_t at = 0; at < values.size(); ++at) {
        if (!std::isfinite(values[at])) {
            drawing = false;
            continue;
        }
        const double along = static_cast<double>(at) / static_cast<double>(values.size() - 1);
        const double share = most > least ? (values[at] - least) / (most - least) : 0.5;
        const QPointF point(inside.left() + inside.width() * along,
                            inside.bottom() - share * inside.height());
        drawing ? path.lineTo(point) : path.moveTo(point);
        drawing = true;
    }
    return path;
}

}  // namespace

void TermColumn::paint_graph(QPainter& painter, const TermInsight& term, const QRect& frame) const {
    const SmallGraph& graph = term.small;
    const QRectF inside = QRectF(frame).adjusted(2, 2, -2, -2);
    double least = infinite, most = -infinite;
    for (const std::vector<double>* values : {&graph.values, &graph.other_values})
        for (const double value : *values)
            if (std::isfinite(value)) {
                least = std::min(least, value);
                most = std::max(most, value);
            }
    if (least > most || graph.values.size() < 2) return;
    painter.setBrush(Qt::NoBrush);
    if (graph.other) {
        QColor faint = look().accent;
        faint.setAlphaF(0.35F);
        painter.setPen(QPen(faint, 1));
        painter.drawPath(path_of(graph.other_values, inside, least, most));
    }
    painter.setPen(QPen(look().accent, 1.2));
    painter.drawPath(path_of(graph.values, inside, least, most));
    painter.setPen(QPen(look().second_ink, 1, Qt::DotLine));
    const double x =
        inside.left() + inside.width() * document_.attention().graph_wish(step_).held[graph.direction];
    painter.drawLine(QPointF(x, frame.top() + 1), QPointF(x, frame.bottom()));
}

// Mouse -----------------------------------------------------------------------------------------------------

bool TermColumn::event(QEvent* event) {
    if (event->type() != QEvent::ToolTip) return LineColumn::event(event);
    auto* help = static_cast<QHelpEvent*>(event);
    const TermInsight* term = term_at(help->pos().y());
    if (!term) return true;
    // Beside the column: below the cursor it would cover the next line's graph.
    QToolTip::showText(
        mapToGlobal(QPoint(width() + 6, help->pos().y() - 24)),
        !term->name.empty() && mute_rect(*term).adjusted(-4, -4, 4, 4).contains(help->pos())
            ? (term->muted_to ? tr("Muted. Click to use this line again (Ctrl+M)")
                              : tr("Click to mute this line (Ctrl+M): it becomes 0 where it is "
                                   "added, 1 where it is multiplied"))
            : tip(*term),
        this);
    return true;
}

void TermColumn::mousePressEvent(QMouseEvent* event) {
    const TermInsight* term = term_at(event->pos().y());
    if (!term || event->button() != Qt::LeftButton) return;
    if (!term->name.empty() && mute_rect(*term).adjusted(-4, -4, 4, 4).contains(event->pos()))
        return editor_.toggle_muted(term->name);
    if (!graph_rect(*term).contains(event->pos())) return;
    pressed_ = term->name;
    start_ = event->pos();
    dragging_ = false;
}

void TermColumn::hold_at(const QPoint& at) {
    const FormulaInsight* insight = document_.results().insight(step_);
    if (!insight || insight->terms.empty()) return;
    const auto pressed = std::ranges::find(insight->terms, pressed_, &TermInsight::name);
    if (pressed == insight->terms.end()) return;
    const QRect frame = graph_rect(*pressed);
    GraphWish wish = document_.attention().graph_wish(step_);
    wish.held[pressed->small.direction] =
        std::clamp((at.x() - frame.left() - 2) / static_cast<double>(frame.width() - 4), 0.0, 1.0);
    document_.attention().set_graph_wish(step_, wish);
    update();
}

void TermColumn::mouseMoveEvent(QMouseEvent* event) {
    const bool pressed = event->buttons() & Qt::LeftButton && !start_.isNull();
    if (pressed && std::abs(event->pos().x() - start_.x()) >= 3) dragging_ = true;
    if (pressed && dragging_) return hold_at(event->pos());
    const TermInsight* term = term_at(event->pos().y());
    const bool live = term && (graph_rect(*term).contains(event->pos()) ||
                               mute_rect(*term).adjusted(-4, -4, 4, 4).contains(event->pos()));
    setCursor(live ? Qt::PointingHandCursor : Qt::ArrowCursor);
    point_at(term ? &term->begin : nullptr);
}

void TermColumn::mouseReleaseEvent(QMouseEvent* event) {
    if (event->button() != Qt::LeftButton || start_.isNull()) return;
    start_ = {};
    if (dragging_) return;
    document_.attention().select(step_);
    document_.attention().toggle_graphed(step_, pressed_);
}

}  // namespace plume::app

#include "app/readings/family_graph.hpp"

#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <cmath>

#include "app/theme/look.hpp"
#include "core/base/numbers.hpp"
#include "core/study/edits/edits.hpp"
#include "core/study/edits/scrub.hpp"
#include "core/study/sentence.hpp"

namespace plume::app {

FamilyGraph::FamilyGraph(Document& document, QWidget* parent) : QWidget(parent), document_(document) {
    setObjectName("family-graph");
    setAccessibleName(tr("families against the tolerance"));
    setMouseTracking(true);
    setMinimumSize(220, 90);
}

void FamilyGraph::set(std::shared_ptr<const FamilyCounts> counts, ItemId step) {
    counts_ = std::move(counts);
    step_ = step;
    setCursor(can_be_dragged() ? Qt::SplitHCursor : Qt::ArrowCursor);
    update();
}

QRectF FamilyGraph::plot() const {
    constexpr double left = 46, right = 16, top = 24, bottom = 22;
    return {left, top, width() - left - right, height() - top - bottom};
}

// Both axes are logarithmic: a tolerance ten times as large is as far again.
double FamilyGraph::x_of(double tolerance) const {
    const double least = counts_->tolerances.front(), most = counts_->tolerances.back();
    const double share = std::log(std::clamp(tolerance, least, most) / least) / std::log(most / least);
    return plot().left() + plot().width() * share;
}

double FamilyGraph::tolerance_at(double x) const {
    const double least = counts_->tolerances.front(), most = counts_->tolerances.back();
    const double share = std::clamp((x - plot().left()) / plot().width(), 0.0, 1.0);
    return least * std::pow(most / least, share);
}

double FamilyGraph::y_of(std::size_t count) const {
    const double most = std::log(std::max<double>(10, static_cast<double>(counts_->counts.front())) * 1.2);
    return plot().bottom() -
           plot().height() * std::log(std::max<double>(1, static_cast<double>(count))) / most;
}

// Between two tolerances that were tried, that of the larger.
std::size_t FamilyGraph::count_at(double tolerance) const {
    const auto next = std::ranges::lower_bound(counts_->tolerances, tolerance * (1 - 1e-9));
    const auto at = std::min<std::ptrdiff_t>(next - counts_->tolerances.begin(),
                                             static_cast<std::ptrdiff_t>(counts_->counts.size()) - 1);
    return counts_->counts[static_cast<std::size_t>(at)];
}

QString FamilyGraph::told(double tolerance) const {
    return text_of(quantity_text({tolerance, counts_->dimension}, document_.study().units, 2));
}

// A tolerance that is an expression stays what it says.
bool FamilyGraph::can_be_dragged() const {
    const Step* step = document_.study().step(step_);
    const StepKind* kind = step ? document_.kind_of(*step) : nullptr;
    const SlotSpec* slot = kind ? kind->slot("tolerance") : nullptr;
    if (!counts_ || !slot) return false;
    return scrubbed_text(*slot, std::get<NumberText>(slot_value(*slot, *step)).text, 1, ScrubPace::usual,
                         document_.study().units)
        .has_value();
}

void FamilyGraph::drag_to(double x) {
    const Units& units = document_.study().units;
    const double shown = tolerance_at(x) * shown_per_internal(counts_->dimension, units);
    const std::string text = short_text(shown, 2) + ' ' + unit_text(counts_->dimension, units);
    document_.apply(set_slot(document_.study(), step_, "tolerance", NumberText{text}),
                    tr("change of the tolerance"), "family tolerance " + std::to_string(step_));
}

void FamilyGraph::paintEvent(QPaintEvent* /*event*/) {
    if (!counts_ || counts_->tolerances.size() < 2 || plot().height() < 20) return;
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    paint_axes(painter);
    paint_steps(painter);
    paint_mark(painter);
}

void FamilyGraph::paint_axes(QPainter& painter) const {
    const QRectF area = plot();
    painter.setFont(text_font(11));
    double last = area.bottom() + 30;
    for (std::size_t decade = 1; decade <= counts_->counts.front(); decade *= 10)
        for (const std::size_t step : {1U, 2U, 5U}) {
            const std::size_t count = decade * step;
            if (y_of(count) < area.top() || last - y_of(count) < 18) continue;
            last = y_of(count);
            painter.setPen(look().hairline);
            painter.drawLine(QPointF(area.left(), last), QPointF(area.right(), last));
            painter.setPen(look().second_ink);
            painter.drawText(QRectF(0, last - 8, area.left() - 8, 16), Qt::AlignRight | Qt::AlignVCenter,
                             QString::number(count));
        }
    const double per = shown_per_internal(counts_->dimension, document_.study().units);
    const double least = std::log10(counts_->tolerances.front() * per),
                 most = std::log10(counts_->tolerances.back() * per);
    constexpr double label_width = 66;
    double labelled = -label_width;
    for (double decade = std::ceil(least); decade <= most; ++decade) {
        const double tolerance = std::pow(10, decade) / per, x = x_of(tolerance);
        painter.setPen(look().hairline);
        painter.drawLine(QPointF(x, area.top()), QPointF(x, area.bottom()));
        if (x - labelled < label_width) continue;
        labelled = x;
        painter.setPen(look().second_ink);
        painter.drawText(QRectF(x - 45, area.bottom() + 3, 90, 16), Qt::AlignHCenter | Qt::AlignVCenter,
                         told(tolerance));
    }
}

// A tolerance serves until the next that was tried.
void FamilyGraph::paint_steps(QPainter& painter) const {
    QPainterPath path(QPointF(plot().left(), y_of(counts_->counts.front())));
    for (std::size_t at = 0; at < counts_->counts.size(); ++at) {
        path.lineTo(x_of(counts_->tolerances[at]), path.currentPosition().y());
        path.lineTo(x_of(counts_->tolerances[at]), y_of(counts_->counts[at]));
    }
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(look().accent, 2));
    painter.drawPath(path);
}

// The tolerance of the step, and what the one under the cursor would come to.
void FamilyGraph::paint_mark(QPainter& painter) const {
    const double x = x_of(counts_->tolerance);
    painter.setPen(QPen(look().attention, 1.5));
    painter.drawLine(QPointF(x, plot().top()), QPointF(x, plot().bottom()));
    painter.setBrush(look().attention);
    painter.setPen(Qt::NoPen);
    painter.drawEllipse(QPointF(x, plot().top()), 4, 4);
    const bool reads = cursor_ && !dragging_;
    const double tolerance = reads ? tolerance_at(*cursor_) : counts_->tolerance;
    painter.setFont(text_font(12));
    painter.setPen(reads ? look().ink : look().second_ink);
    const std::size_t count = count_at(tolerance);
    painter.drawText(QRectF(0, 0, width(), 18), Qt::AlignLeft | Qt::AlignVCenter,
                     (count == 1 ? tr("%1 family within %2") : tr("%1 families within %2"))
                         .arg(QString::number(count), told(tolerance)));
}

void FamilyGraph::mousePressEvent(QMouseEvent* event) {
    if (event->button() != Qt::LeftButton || !can_be_dragged()) return;
    dragging_ = true;
    drag_to(event->position().x());
}

void FamilyGraph::mouseMoveEvent(QMouseEvent* event) {
    cursor_ = event->position().x();
    if (dragging_) drag_to(*cursor_);
    update();
}

void FamilyGraph::mouseReleaseEvent(QMouseEvent* /*event*/) {
    if (!std::exchange(dragging_, false)) return;
    document_.end_stroke();
    update();
}

void FamilyGraph::leaveEvent(QEvent* event) {
    cursor_.reset();
    update();
    QWidget::leaveEvent(event);
}

}  // namespace plume::app

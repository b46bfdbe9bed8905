#include "app/sheet/live_part.hpp"

#include <QKeyEvent>
#include <QPainter>

#include "app/theme/look.hpp"

namespace plume::app {
namespace {

constexpr int side_padding = 2;
constexpr int longest_width = 320;

}  // namespace

LivePart::LivePart(Style style, QWidget* parent) : QWidget(parent), style_(style) {
    setFocusPolicy(Qt::StrongFocus);
    setCursor(style == Style::number ? Qt::SizeHorCursor : Qt::PointingHandCursor);
    setAttribute(Qt::WA_Hover);
}

void LivePart::set_text(const QString& text) {
    if (text_ == text) return;
    text_ = text;
    text_width_ = -1;
    updateGeometry();
    update();
}

void LivePart::set_wrong(bool wrong) {
    if (wrong_ == wrong) return;
    wrong_ = wrong;
    update();
}

QColor LivePart::ink() const {
    if (wrong_) return look().attention;
    if (style_ == Style::number) return look().accent;
    return style_ == Style::aside ? look().second_ink : look().ink;
}

QFont LivePart::part_font() const {
    if (style_ == Style::result) return result_font(16);
    return text_font(14, style_ == Style::number ? QFont::DemiBold : QFont::Normal);
}

QSize LivePart::sizeHint() const {
    // Shaping text takes longer than all the rest of what is done of it.
    if (text_width_ < 0) text_width_ = qCeil(QFontMetricsF(part_font()).horizontalAdvance(text_));
    // An italic's last letter leans out of its advance.
    const int lean = style_ == Style::result ? 2 : 1;
    return {qMin(text_width_ + lean + 2 * side_padding, longest_width) + sign_width(), 22};
}

int LivePart::baseline() const {
    return 16;
}

void LivePart::paintEvent(QPaintEvent* /*event*/) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    if (hasFocus() || hovered_) {
        painter.setPen(hasFocus() ? QPen(look().accent, 1) : Qt::NoPen);
        painter.setBrush(look().accent_soft);
        painter.drawRoundedRect(QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5), 4, 4);
    }
    painter.setFont(part_font());
    painter.setPen(ink());
    const int from = side_padding + sign_width();
    const QString shown = painter.fontMetrics().elidedText(text_, Qt::ElideMiddle, width() - from);
    painter.drawText(from, baseline(), shown);
    if (sign_width() > 0) paint_sign(painter, QRectF(side_padding, 2, sign_width() - 4, 18));
    QPen line(wrong_ ? look().attention : (style_ == Style::number ? look().accent : look().second_ink), 1);
    if (style_ == Style::number) line.setStyle(Qt::DotLine);
    painter.setPen(line);
    painter.drawLine(QPointF(side_padding, baseline() + 3.5),
                     QPointF(width() - side_padding, baseline() + 3.5));
}

void LivePart::mouseReleaseEvent(QMouseEvent* event) {
    if (event->button() == Qt::LeftButton && rect().contains(event->pos())) open();
}

void LivePart::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter || event->key() == Qt::Key_Space)
        return open();
    QWidget::keyPressEvent(event);
}

void LivePart::enterEvent(QEnterEvent* /*event*/) {
    hovered_ = true;
    update();
}

void LivePart::leaveEvent(QEvent* /*event*/) {
    hovered_ = false;
    update();
}

void LivePart::changeEvent(QEvent* event) {
    if (event->type() == QEvent::FontChange || event->type() == QEvent::StyleChange) text_width_ = -1;
    QWidget::changeEvent(event);
}

void LivePart::focusInEvent(QFocusEvent* event) {
    QWidget::focusInEvent(event);
    update();
}

void LivePart::focusOutEvent(QFocusEvent* event) {
    QWidget::focusOutEvent(event);
    update();
}

}  // namespace plume::app

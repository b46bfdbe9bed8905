#include "app/start/study_card.hpp"

#include <QKeyEvent>
#include <QPainter>
#include <QPainterPath>
#include <QTextLayout>

#include "app/theme/look.hpp"

namespace plume::app {
namespace {

constexpr int radius = 8, text_height = 66, pad = 12;

// Of words that flow over two lines; the second ends in … where there are more.
void draw_two_lines(QPainter& painter, const QRect& room, const QString& text) {
    const QFontMetrics metrics(painter.font());
    QTextLayout layout(text, painter.font());
    layout.beginLayout();
    QTextLine first = layout.createLine();
    first.setLineWidth(room.width());
    const int end = first.textStart() + first.textLength();
    layout.endLayout();
    painter.drawText(room.left(), room.top() + metrics.ascent(), text.left(end).trimmed());
    painter.drawText(room.left(), room.top() + metrics.lineSpacing() + metrics.ascent(),
                     metrics.elidedText(text.mid(end).trimmed(), Qt::ElideRight, room.width()));
}

}  // namespace

StudyCard::StudyCard(const QString& title, const QString& about, const QString& picture, QWidget* parent)
    : QAbstractButton(parent), about_(about), picture_(picture.isEmpty() ? QImage() : QImage(picture)) {
    setText(title);
    setAccessibleName(title);
    setAccessibleDescription(about);
    setToolTip(about);
    setCursor(Qt::PointingHandCursor);
    setFocusPolicy(Qt::StrongFocus);
    setAttribute(Qt::WA_Hover);
}

StudyCard::StudyCard(const QString& words, QWidget* parent) : StudyCard(words, {}, {}, parent) {
    plain_ = true;
}

QSize StudyCard::sizeHint() const {
    return {least_width, height};
}

void StudyCard::paint_picture(QPainter& painter, const QRect& room) const {
    if (picture_.isNull()) {
        painter.setPen(look().second_ink);
        painter.setFont(text_font(12));
        return painter.drawText(room, Qt::AlignCenter, tr("no picture yet"));
    }
    // As much of it as fills the room.
    const QSizeF whole = picture_.size();
    const QSizeF seen = QSizeF(room.size()).scaled(whole, Qt::KeepAspectRatio);
    const QRectF part({(whole.width() - seen.width()) / 2, (whole.height() - seen.height()) / 2}, seen);
    painter.setRenderHint(QPainter::SmoothPixmapTransform);
    painter.drawImage(QRectF(room), picture_, part);
}

void StudyCard::paintEvent(QPaintEvent* /*event*/) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const QRectF box = QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5);
    QPainterPath outline;
    outline.addRoundedRect(box, radius, radius);
    painter.fillPath(outline, plain_ ? look().desk : look().page);
    const bool lit = hasFocus() || underMouse();
    if (plain_) {
        painter.setFont(text_font(13));
        painter.setPen(lit ? look().accent : look().second_ink);
        painter.drawText(rect().adjusted(pad, pad, -pad, -pad), Qt::AlignCenter | Qt::TextWordWrap, text());
    } else {
        painter.save();
        painter.setClipPath(outline);
        const QRect room(0, 0, width(), StudyCard::height - text_height);
        paint_picture(painter, room);
        painter.restore();
        painter.setFont(text_font(13, QFont::DemiBold));
        painter.setPen(lit ? look().accent : look().ink);
        const QRect told(pad, room.height() + 6, width() - 2 * pad, text_height);
        painter.drawText(told, Qt::AlignLeft | Qt::AlignTop,
                         painter.fontMetrics().elidedText(text(), Qt::ElideRight, told.width()));
        painter.setFont(text_font(12));
        painter.setPen(look().second_ink);
        draw_two_lines(painter, told.adjusted(0, 20, 0, 0), about_);
    }
    painter.setPen(QPen(lit ? look().accent : look().hairline, hasFocus() ? 2 : 1));
    painter.setBrush(Qt::NoBrush);
    painter.drawPath(outline);
}

void StudyCard::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter) return click();
    QAbstractButton::keyPressEvent(event);
}

}  // namespace plume::app

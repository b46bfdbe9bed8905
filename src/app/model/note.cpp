#include "app/model/note.hpp"

#include <QPainter>

#include "app/theme/look.hpp"

namespace plume::app {

void draw_note(QPainter& painter, const QStringList& all, QPointF at, const QRect& area) {
    painter.setFont(text_font(12));
    const QFontMetrics metrics(painter.font());
    QStringList lines;
    int wide = 0;
    for (const QString& line : all) {
        lines << metrics.elidedText(line, Qt::ElideRight, area.width() - 40);
        wide = qMax(wide, metrics.horizontalAdvance(lines.back()));
    }
    QRectF field(at.x() + 14, at.y() + 10, wide + 20, static_cast<double>(lines.size()) * 18 + 10);
    if (field.right() > area.right() - 6) field.moveRight(at.x() - 12);
    if (field.left() < area.left() + 6) field.moveLeft(area.left() + 6);
    if (field.bottom() > area.bottom() - 6) field.moveBottom(at.y() - 10);
    if (field.top() < area.top() + 6) field.moveTop(area.top() + 6);
    painter.setPen(look().hairline);
    painter.setBrush(look().page);
    painter.drawRoundedRect(field, 6, 6);
    for (qsizetype index = 0; index < lines.size(); ++index) {
        painter.setPen(index == 0 ? look().ink : look().second_ink);
        painter.drawText(QPointF(field.x() + 10, field.y() + 18 + 18 * static_cast<double>(index)),
                         lines[index]);
    }
}

}  // namespace plume::app

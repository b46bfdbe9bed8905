#include "app/formula/note_column.hpp"

#include <QHelpEvent>
#include <QPainter>
#include <QToolTip>

#include "app/theme/look.hpp"

namespace plume::app {
namespace {

constexpr int column_width = 84;

}  // namespace

NoteColumn::NoteColumn(Document& document, ItemId step, FormulaEditor& editor, QWidget* parent)
    : LineColumn(document, step, editor, column_width, parent) {
    setObjectName("line-notes");
    setAccessibleName(tr("What the lines came to"));
}

QRect NoteColumn::note_rect(const LineNote& note) const {
    const QRect line = editor_.line_rect(note.begin);
    return {4, line.top(), width() - 8, editor_.fontMetrics().lineSpacing()};
}

const LineNote* NoteColumn::note_at(int y) const {
    const FormulaInsight* insight = document_.results().insight(step_);
    if (!insight) return nullptr;
    for (const LineNote& note : insight->notes)
        if (const QRect row = note_rect(note); y >= row.top() && y <= row.bottom()) return &note;
    return nullptr;
}

void NoteColumn::paintEvent(QPaintEvent* /*event*/) {
    const FormulaInsight* insight = document_.results().insight(step_);
    if (!insight) return;
    QPainter painter(this);
    // While the text cannot be read the notes are those from before.
    if (insight->error) painter.setOpacity(0.45);
    painter.setFont(text_font(11));
    painter.setPen(look().second_ink);
    for (const LineNote& note : insight->notes)
        painter.drawText(note_rect(note), Qt::AlignRight | Qt::AlignVCenter,
                         painter.fontMetrics().elidedText(text_of(note.text), Qt::ElideRight, width() - 8));
}

bool NoteColumn::event(QEvent* event) {
    if (event->type() != QEvent::ToolTip) return LineColumn::event(event);
    auto* help = static_cast<QHelpEvent*>(event);
    if (const LineNote* note = note_at(help->pos().y()))
        QToolTip::showText(mapToGlobal(QPoint(width() + 6, help->pos().y() - 24)), text_of(note->tip), this);
    return true;
}

void NoteColumn::mouseMoveEvent(QMouseEvent* event) {
    const LineNote* note = note_at(event->pos().y());
    point_at(note ? &note->begin : nullptr);
}

}  // namespace plume::app

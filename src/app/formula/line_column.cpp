#include "app/formula/line_column.hpp"

namespace plume::app {

LineColumn::LineColumn(Document& document, ItemId step, FormulaEditor& editor, int wide, QWidget* parent)
    : QWidget(parent), document_(document), step_(step), editor_(editor) {
    setFixedWidth(wide);
    setMouseTracking(true);
}

void LineColumn::leaveEvent(QEvent* event) {
    Q_EMIT left();
    QWidget::leaveEvent(event);
}

void LineColumn::point_at(const std::size_t* begin) {
    if (begin)
        Q_EMIT line_hovered(*begin);
    else
        Q_EMIT left();
}

}  // namespace plume::app

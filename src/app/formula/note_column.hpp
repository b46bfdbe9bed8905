#pragma once
// Beside each line of rules what it came to: how many parts it made. A line that is pointed at lights up what
// it made.

#include "app/formula/line_column.hpp"

namespace plume::app {

class NoteColumn : public LineColumn {
    Q_OBJECT

public:
    NoteColumn(Document& document, ItemId step, FormulaEditor& editor, QWidget* parent);
    QRect note_rect(const LineNote& note) const;

protected:
    bool event(QEvent* event) override;
    void paintEvent(QPaintEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;

private:
    const LineNote* note_at(int y) const;
};

}  // namespace plume::app

#pragma once
// A column beside the text of a formula or of rules, with something for each of its lines.

#include <QWidget>

#include "app/formula/formula_editor.hpp"

namespace plume::app {

class LineColumn : public QWidget {
    Q_OBJECT

public:
    LineColumn(Document& document, ItemId step, FormulaEditor& editor, int wide, QWidget* parent);

Q_SIGNALS:
    void line_hovered(std::size_t begin);
    void left();

protected:
    void leaveEvent(QEvent* event) override;
    // Says which line is pointed at, if any is.
    void point_at(const std::size_t* begin);

    Document& document_;
    ItemId step_;
    FormulaEditor& editor_;
};

}  // namespace plume::app

#pragma once
// Beside each line of a formula: a small graph along one direction and the line's range over the whole form.
// A click on a graph lays it into the large one, a drag moves where its direction is held, the dot mutes.

#include "app/formula/line_column.hpp"

namespace plume::app {

class TermColumn : public LineColumn {
    Q_OBJECT

public:
    TermColumn(Document& document, ItemId step, FormulaEditor& editor, QWidget* parent);
    // "-1 … 1", "muted: 0", "3 not finite"
    QString range_text(const TermInsight& term) const;
    QRect graph_rect(const TermInsight& term) const;
    QRect mute_rect(const TermInsight& term) const;
    static constexpr int column_width = 164;

protected:
    bool event(QEvent* event) override;
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;

private:
    const TermInsight* term_at(int y) const;
    QRect row_rect(const TermInsight& term) const;
    void paint_term(QPainter& painter, const TermInsight& term) const;
    void paint_graph(QPainter& painter, const TermInsight& term, const QRect& frame) const;
    void hold_at(const QPoint& at);
    QString tip(const TermInsight& term) const;

    std::string pressed_;
    bool dragging_ = false;
    QPoint start_;
};

// The value of a line in its unit; of a range, the unit once.
QString value_text(double value, Dimension dimension, const Units& units, int digits = 4);
QString span_text(double least, double most, Dimension dimension, const Units& units, int digits = 4);

}  // namespace plume::app

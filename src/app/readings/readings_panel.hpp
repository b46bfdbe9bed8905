#pragma once
// What is actually in the step in hand: kind, arrangement, counts, bounds, ranges; how its numbers are
// spread; a table.

#include <QWidget>

#include "app/document/document.hpp"

class QLabel;
class QTableView;

namespace plume::app {

class CurveGraph;
class FamilyGraph;
class TermGraph;
class ValueTable;

class ReadingsPanel : public QWidget {
    Q_OBJECT

public:
    ReadingsPanel(Document& document, QWidget* parent);

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;
    void changeEvent(QEvent* event) override;

private:
    ItemId step_in_hand() const;
    void refresh();
    void set_column_widths();
    void hover_row(int row);
    void refresh_text(const Step& step, const Shown& shown);
    void follow_hover();

    Document& document_;
    QLabel *title_, *range_, *details_, *spread_title_;
    class Histogram* histogram_;
    QWidget* spread_;
    TermGraph* graph_;
    CurveGraph* curves_;
    FamilyGraph* families_;
    QTableView* table_;
    ValueTable* rows_;
    ValuePointer value_;
    ItemId step_ = 0;
};

}  // namespace plume::app

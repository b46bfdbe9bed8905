#pragma once
// The table of the result in hand: what has a row, by what rows are grouped, and which of them is pointed at.

#include <QWidget>

#include "app/document/document.hpp"

class QHBoxLayout;
class QTableView;
class QToolButton;

namespace plume::app {

class ValueTable;

class ReadingTable : public QWidget {
    Q_OBJECT

public:
    ReadingTable(Document& document, QWidget* parent);

    // Of a step; what was chosen before stays chosen where the result has it.
    void set(ValuePointer value, ItemId step);

protected:
    void resizeEvent(QResizeEvent* event) override;
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    void tell_group();
    // As they were chosen, with what stands above them.
    void show_rows();
    void refresh_head();
    void choose_groups();
    void set_column_widths();
    void hover_row(int row);
    void follow_hover();

    Document& document_;
    QHBoxLayout* head_;
    std::vector<QToolButton*> kinds_;  // what can have a row
    QToolButton* groups_;
    QTableView* table_;
    ValueTable* rows_;
    ValuePointer value_;
    ItemId step_ = 0;
};

}  // namespace plume::app

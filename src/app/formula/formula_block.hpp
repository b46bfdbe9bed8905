#pragma once
// A step's formula, open below its sentence: header, text, and beside each line what it does.

#include <QTimer>
#include <QWidget>

#include "app/formula/formula_editor.hpp"

class QLabel;

namespace plume::app {

class FormulaHeader;
class TermColumn;

class FormulaBlock : public QWidget {
    Q_OBJECT

public:
    FormulaBlock(Document& document, ItemId step, QWidget* parent);
    void refresh();
    FormulaEditor& editor() { return *editor_; }
    TermColumn& terms() { return *terms_; }
    // Puts the cursor where the error is.
    void go_to_error();

Q_SIGNALS:
    void leave_wanted();
    void help_wanted();

private:
    void take_notes();
    void look_at(std::size_t begin);
    void look_away();

    Document& document_;
    ItemId step_;
    FormulaHeader* header_;
    FormulaEditor* editor_;
    TermColumn* terms_;
    QLabel *hint_, *ghost_;
    QTimer look_timer_;
    std::size_t looked_at_ = 0;
    bool looking_ = false;
};

}  // namespace plume::app

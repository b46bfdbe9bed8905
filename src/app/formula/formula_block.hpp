#pragma once
// A step's formula, open below its sentence: header, text, and beside each line what it does.

#include <QTimer>
#include <QWidget>

#include "app/code/code_block.hpp"
#include "app/formula/formula_editor.hpp"

class QLabel;

namespace plume::app {

class FormulaHeader;
class TermColumn;

class NoteColumn;

class FormulaBlock : public CodeBlock {
    Q_OBJECT

public:
    FormulaBlock(Document& document, ItemId step, QWidget* parent);
    void refresh() override;
    FormulaEditor& editor() override { return *editor_; }
    TermColumn& terms() { return *terms_; }

private:
    void take_notes();
    // What can be looked at of the line in which a byte stands: its beginning.
    std::optional<std::size_t> line_to_look_at(std::size_t begin) const;
    void look_at(std::size_t at);
    void look_away();

    Document& document_;
    ItemId step_;
    FormulaHeader* header_;
    FormulaEditor* editor_;
    TermColumn* terms_;
    NoteColumn* notes_;
    QLabel *hint_, *ghost_;
    QTimer look_timer_;
    std::size_t looked_at_ = 0;
    bool looking_ = false;
};

}  // namespace plume::app

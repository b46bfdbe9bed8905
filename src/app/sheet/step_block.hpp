#pragma once
// One step on the page: its sentence, its result line, and on the right whether it is seen and what else can
// be done.

#include "app/sheet/item_block.hpp"
#include "app/sheet/result_line.hpp"
#include "app/sheet/sentence_widget.hpp"

class QToolButton;
class QVBoxLayout;

namespace plume::app {

class FormulaBlock;
class PlayedStrip;

class StepBlock : public ItemBlock {
    Q_OBJECT

public:
    StepBlock(Document& document, ItemId item, QWidget* parent);
    void refresh() override;
    SentenceWidget& sentence() { return *sentence_; }
    FormulaBlock* formula() { return formula_; }  // nullptr while the step has none or it is folded

Q_SIGNALS:
    void step_wanted(ItemId step);
    void language_help_wanted();

protected:
    void keyPressEvent(QKeyEvent* event) override;
    void rename() override { result_->rename(); }
    void fill_menu(QMenu& menu) override;

private:
    // Goes where the error of this step can be mended: a slot of its sentence, or the step it waits for.
    void mend();

    // The formula stands open below the sentence while the sentence has one and it is not folded.
    void refresh_formula();
    void toggle_formula();
    // The generations stand below the sentence of a step that has some.
    void refresh_strip();

    SentenceWidget* sentence_;
    QVBoxLayout* column_;
    FormulaBlock* formula_ = nullptr;
    PlayedStrip* strip_ = nullptr;
    std::optional<bool> formula_open_;  // as chosen; else by its length
    ResultLine* result_;
    QToolButton *eye_, *more_;
};

}  // namespace plume::app

#pragma once
// One step on the page: its sentence, its result line, and on the right whether it is seen and what else can
// be done.

#include "app/sheet/item_block.hpp"
#include "app/sheet/result_line.hpp"
#include "app/sheet/sentence_widget.hpp"

class QToolButton;

namespace plume::app {

class StepBlock : public ItemBlock {
    Q_OBJECT

public:
    StepBlock(Document& document, ItemId item, QWidget* parent);
    void refresh() override;
    SentenceWidget& sentence() { return *sentence_; }

Q_SIGNALS:
    void step_wanted(ItemId step);

protected:
    void keyPressEvent(QKeyEvent* event) override;
    void rename() override { result_->rename(); }
    void fill_menu(QMenu& menu) override;

private:
    // Goes where the error of this step can be mended: a slot of its sentence, or the step it waits for.
    void mend();

    SentenceWidget* sentence_;
    ResultLine* result_;
    QToolButton *eye_, *more_;
};

}  // namespace plume::app

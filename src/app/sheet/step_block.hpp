#pragma once
// One step on the page: its sentence, its result line, and on the right whether it is seen and what else can
// be done. A page may have hundreds: what stands in a block is made when it comes into sight, or is asked
// for.

#include "app/sheet/item_block.hpp"
#include "app/sheet/result_line.hpp"
#include "app/sheet/sentence_widget.hpp"

class QToolButton;
class QVBoxLayout;

namespace plume::app {

class CodeBlock;
class FormulaBlock;
class ScriptBlock;
class PlayedStrip;
class WhyLines;

class StepBlock : public ItemBlock {
    Q_OBJECT

public:
    StepBlock(Document& document, ItemId item, QWidget* parent);
    void refresh() override;
    SentenceWidget& sentence() {
        fill();
        return *sentence_;
    }
    // Makes what stands in it.
    void fill();
    bool filled() const { return sentence_ != nullptr; }
    // What is told of parts that are asked about.
    void refresh_why();
    // nullptr while the step has none or it is folded.
    FormulaBlock* formula() const;
    ScriptBlock* script() const;

Q_SIGNALS:
    void step_wanted(ItemId step);
    void language_help_wanted(const QString& about);

protected:
    void keyPressEvent(QKeyEvent* event) override;
    void focusInEvent(QFocusEvent* event) override;
    void rename() override;
    void fill_menu(QMenu& menu) override;

private:
    // About as high as it will be.
    int expected_height() const;
    void order_tabs();
    // Goes where the error of this step can be mended: a slot of its sentence, or the step it waits for.
    void mend();

    // A formula or a script stands open below the sentence while that has one and it is not folded.
    void refresh_text();
    void toggle_text();
    // The generations stand below the sentence of a step that has some.
    void refresh_strip();

    SentenceWidget* sentence_ = nullptr;
    QVBoxLayout* column_;
    CodeBlock* text_ = nullptr;
    PlayedStrip* strip_ = nullptr;
    std::optional<bool> text_open_;  // as chosen; else by its length
    ResultLine* result_ = nullptr;
    WhyLines* why_ = nullptr;
    QToolButton *eye_ = nullptr, *more_ = nullptr;
};

}  // namespace plume::app

#pragma once
// A step's sentence: plain words and live parts, flowing over as many lines as the width asks for.

#include <QWidget>
#include <vector>

#include "app/sheet/slot_parts.hpp"
#include "core/study/sentence.hpp"

namespace plume::app {

class SentenceWidget : public QWidget {
    Q_OBJECT

public:
    SentenceWidget(Document& document, ItemId step, QWidget* parent);

    // Takes over what the step says now; live parts that stay keep their focus and their drag.
    void refresh();
    bool hasHeightForWidth() const override { return true; }
    int heightForWidth(int width) const override;
    QSize sizeHint() const override { return {320, heightForWidth(320)}; }
    QSize minimumSizeHint() const override { return {160, 23}; }
    SlotPart* part(std::string_view slot_key) const;
    // The live part after this one, or before it; nullptr at the end.
    SlotPart* beside(const SlotPart& part, bool next) const;

protected:
    void paintEvent(QPaintEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void changeEvent(QEvent* event) override;

private:
    // A word stays on one line together with what follows without a space, such as a full stop after a part.
    struct Token {
        QString word;
        SlotPart* part = nullptr;
        bool space_after = false;
        int wide = 0;
        QPoint at;  // of its left end on the base line
    };
    void rebuild(const std::vector<SentencePart>& parts);
    int lay_out(int width, bool place) const;
    void measure();

    Document& document_;
    ItemId step_;
    std::vector<const SlotSpec*> slots_;
    QString words_;  // all plain text, to notice when the sentence itself changes
    mutable std::vector<Token> tokens_;
    int space_ = 0;  // between words
};

}  // namespace plume::app

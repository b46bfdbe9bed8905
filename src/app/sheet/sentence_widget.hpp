#pragma once
// A step's sentence: plain words and live parts, flowing over as many lines as the width asks for.

#include <QWidget>
#include <vector>

#include "app/sheet/slot_parts.hpp"
#include "core/study/sentence.hpp"

namespace plume::app {

// Ends a sentence that holds something back.
class MorePart : public LivePart {
    Q_OBJECT

public:
    explicit MorePart(QWidget* parent) : LivePart(Style::aside, parent) { setObjectName("sentence-more"); }
    void open() override { Q_EMIT opened(); }

Q_SIGNALS:
    void opened();
};

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
    // What can be changed, in order, and the end that holds more back.
    std::vector<LivePart*> live_parts() const;
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
        LivePart* part = nullptr;
        bool space_after = false;
        int wide = 0;
        QPoint at;  // of its left end on the base line
    };
    std::vector<SlotPart*> slot_parts() const;
    // All of it, with what is rarely changed, or not.
    void toggle_all();
    bool wrong_waits(const std::vector<SentencePart>& parts) const;
    void tell_more(const std::vector<SentencePart>& parts, const Step& step);
    void rebuild(const std::vector<SentencePart>& parts);
    int lay_out(int width, bool place) const;
    // Whether anything is as wide as it was not.
    bool measure();

    Document& document_;
    ItemId step_;
    std::vector<const SlotSpec*> slots_;
    MorePart* more_;
    bool all_ = false;  // also what waits
    QString words_;     // all plain text, to notice when the sentence itself changes
    mutable std::vector<Token> tokens_;
    int space_ = 0;  // between words
    bool muted_ = false;
};

}  // namespace plume::app

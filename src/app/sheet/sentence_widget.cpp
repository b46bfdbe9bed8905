#include "app/sheet/sentence_widget.hpp"

#include <QEvent>
#include <QPainter>

#include "app/theme/look.hpp"
#include "core/study/sentence.hpp"

namespace plume::app {
namespace {

constexpr int line_height = 23, first_baseline = 16;

QFont sentence_font() {
    return text_font(14);
}

}  // namespace

SentenceWidget::SentenceWidget(Document& document, ItemId step, QWidget* parent)
    : QWidget(parent), document_(document), step_(step) {
    QSizePolicy policy(QSizePolicy::Preferred, QSizePolicy::Preferred);
    policy.setHeightForWidth(true);
    setSizePolicy(policy);
    refresh();
}

void SentenceWidget::refresh() {
    const Step* step = document_.study().step(step_);
    if (!step) return;
    const StepKind* kind = document_.kind_of(*step);
    std::vector<SentencePart> parts;
    if (kind)
        parts = sentence_parts(*kind, *step);
    else
        parts.push_back({"A step of the kind ‘" + step->kind + "’.", nullptr});
    std::vector<const SlotSpec*> slots;
    QString words;
    for (const SentencePart& part : parts) {
        if (part.slot) slots.push_back(part.slot);
        words += part.slot ? QString(QChar(0)) : text_of(part.text);
    }
    if (slots != slots_ || words != words_) {
        slots_ = std::move(slots);
        words_ = words;
        rebuild(parts);
    }
    for (const Token& token : tokens_)
        if (token.part) token.part->refresh();
    measure();
    lay_out(width(), true);
    updateGeometry();
    update();
}

void SentenceWidget::rebuild(const std::vector<SentencePart>& parts) {
    std::vector<SlotPart*> old;
    for (const Token& token : tokens_)
        if (token.part) old.push_back(token.part);
    tokens_.clear();
    QWidget* before = nullptr;
    for (const SentencePart& part : parts) {
        if (part.slot) {
            const auto kept =
                std::ranges::find_if(old, [&](SlotPart* p) { return p && &p->slot() == part.slot; });
            SlotPart* live = kept != old.end() ? *kept : make_slot_part({&document_, step_, part.slot}, this);
            if (kept != old.end()) *kept = nullptr;
            live->show();
            if (before) QWidget::setTabOrder(before, live);
            before = live;
            tokens_.push_back({{}, live, false, 0, {}});
            continue;
        }
        const QString text = text_of(part.text);
        if (text.startsWith(' ') && !tokens_.empty()) tokens_.back().space_after = true;
        const QStringList words = text.split(' ', Qt::SkipEmptyParts);
        for (qsizetype index = 0; index < words.size(); ++index)
            tokens_.push_back({words[index], nullptr, index + 1 < words.size() || text.endsWith(' '), 0, {}});
    }
    for (SlotPart* part : old) {
        if (!part) continue;
        part->hide();
        part->deleteLater();
    }
}

// Shaping text takes longer than all the rest of a layout, and a page is laid out several times.
void SentenceWidget::measure() {
    const QFontMetrics metrics(sentence_font());
    space_ = metrics.horizontalAdvance(' ');
    for (Token& token : tokens_)
        token.wide = token.part ? token.part->sizeHint().width() : metrics.horizontalAdvance(token.word);
}

int SentenceWidget::lay_out(int width, bool place) const {
    int x = 0, line = 0;
    for (std::size_t index = 0; index < tokens_.size();) {
        // A group runs to the next space.
        std::size_t end = index;
        int group = 0;
        do
            group += tokens_[end].wide;
        while (!tokens_[end++].space_after && end < tokens_.size());
        if (x > 0 && x + group > width) {
            x = 0;
            ++line;
        }
        for (; index < end; ++index) {
            Token& token = tokens_[index];
            if (place) {
                token.at = {x, line * line_height + first_baseline};
                if (token.part)
                    token.part->setGeometry(x, token.at.y() - token.part->baseline(),
                                            qMin(token.wide, qMax(40, width - x)), 22);
            }
            x += token.wide;
            if (token.space_after) x += space_;
        }
    }
    return (line + 1) * line_height;
}

int SentenceWidget::heightForWidth(int width) const {
    return lay_out(width, false);
}

void SentenceWidget::paintEvent(QPaintEvent* /*event*/) {
    QPainter painter(this);
    painter.setFont(sentence_font());
    const Step* step = document_.study().step(step_);
    painter.setPen(step && step->muted ? look().second_ink : look().ink);
    for (const Token& token : tokens_)
        if (!token.part) painter.drawText(token.at, token.word);
}

void SentenceWidget::resizeEvent(QResizeEvent* /*event*/) {
    lay_out(width(), true);
}

void SentenceWidget::changeEvent(QEvent* event) {
    if (event->type() == QEvent::FontChange || event->type() == QEvent::StyleChange) {
        measure();
        lay_out(width(), true);
    }
    QWidget::changeEvent(event);
}

SlotPart* SentenceWidget::beside(const SlotPart& part, bool next) const {
    SlotPart* before = nullptr;
    bool found = false;
    for (const Token& token : tokens_) {
        if (!token.part) continue;
        if (found) return token.part;
        if (token.part != &part)
            before = token.part;
        else if (!next)
            return before;
        else
            found = true;
    }
    return nullptr;
}

SlotPart* SentenceWidget::part(std::string_view slot_key) const {
    for (const Token& token : tokens_)
        if (token.part && token.part->slot().key == slot_key) return token.part;
    return nullptr;
}

}  // namespace plume::app

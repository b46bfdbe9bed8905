#include "app/sheet/sentence_widget.hpp"

#include <QEvent>
#include <QPainter>
#include <utility>

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
    : QWidget(parent), document_(document), step_(step), more_(new MorePart(this)) {
    connect(more_, &MorePart::opened, this, &SentenceWidget::toggle_all);
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
        parts.push_back({"A step of the kind ‘" + step->kind + "’.", nullptr, false});
    setAccessibleName(text_of(sentence_text(parts, *step)));
    if (wrong_waits(parts)) all_ = true;
    tell_more(parts, *step);
    if (!all_) std::erase_if(parts, &SentencePart::waits);
    std::vector<const SlotSpec*> slots;
    QString words;
    for (const SentencePart& part : parts) {
        if (part.slot) slots.push_back(part.slot);
        words += part.slot ? QString(QChar(0)) : text_of(part.text);
    }
    if (!more_->isHidden()) words += QChar(0);
    const bool other = slots != slots_ || words != words_;
    if (other) {
        slots_ = std::move(slots);
        words_ = words;
        rebuild(parts);
    }
    for (SlotPart* part : slot_parts())
        part->refresh();
    if (measure() || other) {
        const int height = lay_out(width(), true);
        if (height != this->height()) updateGeometry();
        update();
    }
    if (std::exchange(muted_, step->muted) != step->muted) update();
}

// What is wrong does not wait.
bool SentenceWidget::wrong_waits(const std::vector<SentencePart>& parts) const {
    const Shown* shown = document_.results().shown(step_);
    return shown && shown->error && std::ranges::any_of(parts, [&](const SentencePart& part) {
               return part.waits && part.slot && part.slot->key == shown->error->slot;
           });
}

void SentenceWidget::tell_more(const std::vector<SentencePart>& parts, const Step& step) {
    QStringList waiting;
    for (const SentencePart& part : parts)
        if (part.waits && part.slot)
            waiting += tr("%1: %2").arg(text_of(part.slot->label), text_of(slot_text(*part.slot, step)));
    more_->set_text(all_ ? tr("less") : tr("more"));
    more_->setToolTip(all_ ? tr("Holds back again what is as it begins") : waiting.join('\n'));
    more_->setAccessibleName(tr("%1: %2").arg(more_->text(), waiting.join(", ")));
    more_->setVisible(!waiting.isEmpty());
}

void SentenceWidget::toggle_all() {
    all_ = !all_;
    const std::size_t before = slots_.size();
    refresh();
    // Whoever asked goes on with what came.
    if (all_ && more_->hasFocus() && before < slots_.size()) {
        const std::vector<SlotPart*> parts = slot_parts();
        parts[before]->setFocus(Qt::TabFocusReason);
    }
}

std::vector<LivePart*> SentenceWidget::live_parts() const {
    std::vector<LivePart*> parts;
    for (const Token& token : tokens_)
        if (token.part) parts.push_back(token.part);
    return parts;
}

std::vector<SlotPart*> SentenceWidget::slot_parts() const {
    std::vector<SlotPart*> parts;
    for (const Token& token : tokens_)
        if (auto* part = qobject_cast<SlotPart*>(token.part)) parts.push_back(part);
    return parts;
}

void SentenceWidget::rebuild(const std::vector<SentencePart>& parts) {
    std::vector<SlotPart*> old = slot_parts();
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
    if (!more_->isHidden()) {
        if (!tokens_.empty()) tokens_.back().space_after = true;
        tokens_.push_back({{}, more_, false, 0, {}});
        if (before) QWidget::setTabOrder(before, more_);
    }
    for (SlotPart* part : old) {
        if (!part) continue;
        part->hide();
        part->deleteLater();
    }
}

// Shaping text takes longer than all the rest of a layout, and a page is laid out several times.
bool SentenceWidget::measure() {
    const QFontMetrics metrics(sentence_font());
    if (space_ == 0) space_ = metrics.horizontalAdvance(' ');
    bool other = false;
    for (Token& token : tokens_) {
        if (!token.part && token.wide > 0) continue;
        const int wide = token.part ? token.part->sizeHint().width() : metrics.horizontalAdvance(token.word);
        other = std::exchange(token.wide, wide) != wide || other;
    }
    return other;
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
    // What was laid out for this width before may have said something else then.
    if (lay_out(width(), true) != height()) updateGeometry();
}

void SentenceWidget::changeEvent(QEvent* event) {
    if (event->type() == QEvent::FontChange || event->type() == QEvent::StyleChange) {
        space_ = 0;
        for (Token& token : tokens_)
            token.wide = 0;
        measure();
        lay_out(width(), true);
    }
    QWidget::changeEvent(event);
}

SlotPart* SentenceWidget::beside(const SlotPart& part, bool next) const {
    const std::vector<SlotPart*> parts = slot_parts();
    const auto here = std::ranges::find(parts, &part);
    if (here == parts.end() || (next ? here + 1 == parts.end() : here == parts.begin())) return nullptr;
    return next ? *(here + 1) : *(here - 1);
}

SlotPart* SentenceWidget::part(std::string_view slot_key) const {
    for (SlotPart* part : slot_parts())
        if (part->slot().key == slot_key) return part;
    return nullptr;
}

}  // namespace plume::app

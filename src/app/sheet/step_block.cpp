#include "app/sheet/step_block.hpp"

#include <QHBoxLayout>
#include <QKeyEvent>
#include <QMenu>
#include <QToolButton>

#include "app/formula/formula_block.hpp"
#include "app/parts/button_icon.hpp"
#include "app/parts/step_actions.hpp"
#include "app/script/script_block.hpp"
#include "app/sheet/group_popup.hpp"
#include "app/sheet/played_strip.hpp"
#include "app/sheet/why_lines.hpp"
#include "app/theme/look.hpp"
#include "core/exchange/own_steps.hpp"
#include "core/study/sentence.hpp"
#include "core/study/step_group.hpp"

namespace plume::app {
namespace {

// Formulas of one line stand in the sentence; a script is opened to be written, not to be used.
bool begins_open(const SlotSpec& slot, const Step& step) {
    const SlotValue value = slot_value(slot, step);
    if (slot.script) return value == slot.preset_value();
    return std::get<FormulaText>(value).text.find('\n') != std::string::npos;
}

}  // namespace

StepBlock::StepBlock(Document& document, ItemId item, QWidget* parent) : ItemBlock(document, item, parent) {
    setObjectName("step");
    column_ = new QVBoxLayout(this);
    column_->setContentsMargins(margin_width, 6, 6, 8);
    column_->setSpacing(0);
    setMinimumHeight(expected_height());
    refresh();
}

void StepBlock::fill() {
    if (filled()) return;
    setMinimumHeight(0);
    auto* row = new QHBoxLayout;
    row->setSpacing(4);
    sentence_ = new SentenceWidget(document_, item_, this);
    result_ = new ResultLine(document_, item_, this);
    row->addWidget(sentence_, 1);
    column_->addLayout(row);
    column_->addWidget(result_);
    const auto button = [&](const char* name) {
        auto* made = new QToolButton(this);
        made->setObjectName(name);
        made->setFixedSize(24, 24);
        made->setIconSize({16, 16});
        made->setProperty("quiet", true);
        row->addWidget(made, 0, Qt::AlignTop);
        return made;
    };
    eye_ = button("visible");
    const Step* step = document_.study().step(item_);
    eye_->setVisible(!step || page_of(*step) == Page::sheet);
    more_ = button("more");
    more_->setToolTip(tr("What can be done with this step"));
    more_->setAccessibleName(tr("Step menu"));
    connect(result_, &ResultLine::mend_wanted, this, &StepBlock::mend);
    connect(eye_, &QToolButton::clicked, this, [this] { toggle_visible(document_, item_); });
    connect(more_, &QToolButton::clicked, this, [this] {
        document_.attention().select(item_);
        open_menu(more_->mapToGlobal(QPoint(0, more_->height())));
    });
    refresh();
    refresh_why();
    order_tabs();
}

// From the block into its sentence, and on to its buttons: it was filled when others stood behind it already.
void StepBlock::order_tabs() {
    QWidget* before = this;
    const auto next = [&before](QWidget* widget) {
        setTabOrder(before, widget);
        before = widget;
    };
    for (LivePart* part : sentence_->live_parts())
        next(part);
    next(eye_);
    next(more_);
}

int StepBlock::expected_height() const {
    const Step* step = document_.study().step(item_);
    const StepKind* kind = step ? document_.kind_of(*step) : nullptr;
    constexpr int letter = 7, line = 23, buttons = 70, beside = 42;
    const auto letters = kind ? text_of(sentence_text(*kind, *step)).size() : 0;
    const int room = std::max(160, parentWidget()->width() - margin_width - buttons);
    return static_cast<int>(letters * letter / room + 1) * line + beside;
}

void StepBlock::refresh() {
    const Step* step = document_.study().step(item_);
    if (!step) return;
    setAccessibleName(tr("Step %1").arg(text_of(step->name)));
    if (!filled()) return;
    sentence_->refresh();
    refresh_text();
    refresh_strip();
    result_->refresh();
    set_icon(*eye_, step->show.visible ? "shown" : "hidden",
             step->show.visible ? look().accent : look().second_ink);
    eye_->setToolTip(step->show.visible ? tr("Seen in the model; click to hide")
                                        : tr("Not seen in the model; click to show"));
    eye_->setAccessibleName(eye_->toolTip());
    set_icon(*more_, "more", look().second_ink);
}

void StepBlock::focusInEvent(QFocusEvent* event) {
    fill();
    ItemBlock::focusInEvent(event);
}

void StepBlock::rename() {
    fill();
    result_->rename();
}

void StepBlock::refresh_why() {
    if (!filled()) return;
    if (!why_) {
        if (document_.results().told_why().empty()) return;
        why_ = new WhyLines(document_, item_, this);
        column_->addWidget(why_);
    }
    why_->refresh();
}

FormulaBlock* StepBlock::formula() const {
    return qobject_cast<FormulaBlock*>(text_);
}

ScriptBlock* StepBlock::script() const {
    return qobject_cast<ScriptBlock*>(text_);
}

void StepBlock::refresh_text() {
    const Step& step = *document_.study().step(item_);
    const StepKind* kind = document_.kind_of(step);
    if (!kind) return;
    const SlotSpec* slot = nullptr;
    for (const SlotSpec* active : active_slots(*kind, step))
        if (active->script || active->type == SlotType::formula) slot = active;
    bool open = false;
    if (slot) {
        const auto* part = qobject_cast<TextBelowPart*>(sentence_->part(slot->key));
        connect(part, &TextBelowPart::open_wanted, this, &StepBlock::toggle_text, Qt::UniqueConnection);
        open = text_open_.value_or(begins_open(*slot, step));
    }
    if (!open && text_) {
        text_->deleteLater();
        text_->hide();
        text_ = nullptr;
    }
    if (open && !text_) {
        text_open_ = true;  // and stays so when it is cut down to one line
        if (slot->script)
            text_ = new ScriptBlock(document_, item_, slot->key, this);
        else
            text_ = new FormulaBlock(document_, item_, this);
        column_->insertWidget(strip_ ? 2 : 1, text_);
        connect(text_, &CodeBlock::leave_wanted, this, [this] { setFocus(Qt::TabFocusReason); });
        connect(text_, &CodeBlock::help_wanted, this,
                [this] { Q_EMIT language_help_wanted(script() ? "Scripts" : "The formula language"); });
    } else if (text_) {
        text_->refresh();
    }
}

void StepBlock::refresh_strip() {
    const Step& step = *document_.study().step(item_);
    const StepKind* kind = document_.kind_of(step);
    if (!kind) return;
    const SlotSpec* played = nullptr;
    for (const SlotSpec* slot : active_slots(*kind, step))
        if (slot->played) played = slot;
    if (!played) return;
    if (strip_) return strip_->refresh();
    strip_ = new PlayedStrip(document_, item_, played->key, this);
    column_->insertWidget(1, strip_);
}

void StepBlock::toggle_text() {
    text_open_ = text_ == nullptr;
    refresh_text();
    if (text_) text_->editor().setFocus(Qt::TabFocusReason);
}

void StepBlock::keyPressEvent(QKeyEvent* event) {
    // Only of the step itself: a letter typed on a part of its sentence is no command.
    if (hasFocus() && event->modifiers() == Qt::NoModifier) {
        const Step* of = document_.study().step(item_);
        const bool is_drawn = of && page_of(*of) == Page::sheet;
        if (is_drawn && event->key() == Qt::Key_Space) return toggle_visible(document_, item_);
        if (is_drawn && event->key() == Qt::Key_L) return toggle_labels(document_, item_);
        if (event->key() == Qt::Key_M) return toggle_muted(document_, item_);
        if (event->key() == Qt::Key_N || event->key() == Qt::Key_P)
            if (const Step* step = document_.study().step(item_);
                step && throws_numbers(document_.catalogue(), *step))
                return throw_numbers(document_, item_, event->key() == Qt::Key_N);
        if (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter) {
            if (auto* part = sentence().findChild<SlotPart*>()) part->setFocus(Qt::TabFocusReason);
            return;
        }
    }
    ItemBlock::keyPressEvent(event);
}

void StepBlock::mend() {
    const Shown* shown = document_.results().shown(item_);
    if (!shown || !shown->error) return;
    if (shown->state == StepState::asks) return document_.results().permit(item_);
    if (shown->state == StepState::blocked && shown->cause != 0) return Q_EMIT step_wanted(shown->cause);
    for (SlotPart* part : sentence().findChildren<SlotPart*>())
        if (part->slot().key == shown->error->slot) {
            if (!qobject_cast<TextBelowPart*>(part)) return part->open();
            if (!text_) toggle_text();
            return text_->editor().go_to_error();
        }
    if (auto* part = sentence().findChild<SlotPart*>()) part->setFocus(Qt::OtherFocusReason);
}

void StepBlock::fill_menu(QMenu& menu) {
    const Step* step = document_.study().step(item_);
    if (!step) return;
    if (page_of(*step) == Page::sheet) {
        QMenu* show = menu.addMenu(tr("&Show"));
        add_show_actions(*show, document_, item_);
    }
    if (throws_numbers(document_.catalogue(), *step)) {
        menu.addAction(tr("Another &throw\tN"), this, [this] { throw_numbers(document_, item_, true); });
        menu.addAction(tr("&Previous throw\tP"), this, [this] { throw_numbers(document_, item_, false); });
    }
    menu.addAction(step->muted ? tr("Un&mute\tM") : tr("&Mute\tM"), this,
                   [this] { toggle_muted(document_, item_); });
    if (step->text_units)
        menu.addAction(tr("Count its plain numbers in %1").arg(text_of(unit_names(document_.study().units))),
                       this, [this] {
                           document_.apply(set_text_units(document_.study(), item_, {}),
                                           tr("units of plain numbers"));
                       });
    menu.addSeparator();
    if (page_of(*step) == Page::sheet)
        menu.addAction(tr("Make &one step of what is selected…\tCtrl+J"), this,
                       [this] { open_group_form(document_, this); });
    if (group_of(*step))
        menu.addAction(tr("&Take apart\tCtrl+Shift+J"), this, [this] { take_apart(document_, item_); });
    if (can_be_kept(*step, document_.catalogue()))
        menu.addAction(tr("&Keep among my steps"), this, [this] { keep_as_own(document_, item_, window()); });
    menu.addSeparator();
    ItemBlock::fill_menu(menu);
}

}  // namespace plume::app

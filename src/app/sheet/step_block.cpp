#include "app/sheet/step_block.hpp"

#include <QHBoxLayout>
#include <QKeyEvent>
#include <QMenu>
#include <QToolButton>

#include "app/formula/formula_block.hpp"
#include "app/parts/step_actions.hpp"
#include "app/sheet/played_strip.hpp"
#include "app/theme/look.hpp"
#include "core/study/sentence.hpp"

namespace plume::app {

StepBlock::StepBlock(Document& document, ItemId item, QWidget* parent) : ItemBlock(document, item, parent) {
    setObjectName("step");
    column_ = new QVBoxLayout(this);
    column_->setContentsMargins(margin_width, 6, 6, 8);
    column_->setSpacing(0);
    auto* row = new QHBoxLayout;
    row->setSpacing(4);
    sentence_ = new SentenceWidget(document, item, this);
    result_ = new ResultLine(document, item, this);
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
    const Step* step = document.study().step(item);
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
}

void StepBlock::refresh() {
    const Step* step = document_.study().step(item_);
    if (!step) return;
    sentence_->refresh();
    refresh_formula();
    refresh_strip();
    result_->refresh();
    setAccessibleName(tr("Step %1").arg(text_of(step->name)));
    eye_->setIcon(icon(step->show.visible ? "shown" : "hidden",
                       step->show.visible ? look().accent : look().second_ink));
    eye_->setToolTip(step->show.visible ? tr("Seen in the model; click to hide")
                                        : tr("Not seen in the model; click to show"));
    eye_->setAccessibleName(eye_->toolTip());
    more_->setIcon(icon("more", look().second_ink));
    update();
}

void StepBlock::refresh_formula() {
    const auto* part = qobject_cast<FormulaPart*>(sentence_->part("formula"));
    if (part)
        connect(part, &FormulaPart::open_wanted, this, &StepBlock::toggle_formula, Qt::UniqueConnection);
    bool open = false;
    if (part) {
        open = formula_open_.value_or(document_.formula(item_).text.find('\n') != std::string::npos);
    }
    if (!open && formula_) {
        formula_->deleteLater();
        formula_->hide();
        formula_ = nullptr;
    }
    if (open && !formula_) {
        formula_open_ = true;  // and stays so when it is cut down to one line
        formula_ = new FormulaBlock(document_, item_, this);
        column_->insertWidget(strip_ ? 2 : 1, formula_);
        connect(formula_, &FormulaBlock::leave_wanted, this, [this] { setFocus(Qt::TabFocusReason); });
        connect(formula_, &FormulaBlock::help_wanted, this, &StepBlock::language_help_wanted);
    } else if (formula_) {
        formula_->refresh();
    }
}

void StepBlock::refresh_strip() {
    const Step& step = *document_.study().step(item_);
    const SlotSpec* played = nullptr;
    for (const SlotSpec* slot : active_slots(*document_.kind_of(step), step))
        if (slot->played) played = slot;
    if (!played) return;
    if (strip_) return strip_->refresh();
    strip_ = new PlayedStrip(document_, item_, played->key, this);
    column_->insertWidget(1, strip_);
}

void StepBlock::toggle_formula() {
    formula_open_ = formula_ == nullptr;
    refresh_formula();
    if (formula_) formula_->editor().setFocus(Qt::TabFocusReason);
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
            if (auto* part = sentence_->findChild<SlotPart*>()) part->setFocus(Qt::TabFocusReason);
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
    for (SlotPart* part : sentence_->findChildren<SlotPart*>())
        if (part->slot().key == shown->error->slot) {
            if (!qobject_cast<FormulaPart*>(part)) return part->open();
            if (!formula_) toggle_formula();
            return formula_->go_to_error();
        }
    if (auto* part = sentence_->findChild<SlotPart*>()) part->setFocus(Qt::OtherFocusReason);
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
    ItemBlock::fill_menu(menu);
}

}  // namespace plume::app

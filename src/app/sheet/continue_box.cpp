#include "app/sheet/continue_box.hpp"

#include <QKeyEvent>
#include <QLineEdit>
#include <QListWidget>
#include <QScrollBar>
#include <QVBoxLayout>

#include "app/sheet/ready_studies.hpp"
#include "app/theme/look.hpp"
#include "core/study/edits/excerpt.hpp"
#include "core/study/step_search.hpp"

namespace plume::app {
namespace {

constexpr int own_role = Qt::UserRole + 1, ready_role = Qt::UserRole + 2;
constexpr int row_height = 32, picture_row_height = 48, most_height = 8 * row_height;

}  // namespace

ContinueBox::ContinueBox(Document& document, Page page, QWidget* parent)
    : QWidget(parent), document_(document), page_(page) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(margin_width, 8, 14, 8);
    column->setSpacing(4);
    line_ = new QLineEdit;
    line_->setObjectName(page == Page::sheet ? "continue" : "hand-off-continue");
    line_->setAccessibleName(page == Page::sheet ? tr("Continue with") : tr("Also hand off"));
    line_->installEventFilter(this);
    list_ = new QListWidget;
    list_->setObjectName(page == Page::sheet ? "offers" : "hand-off-offers");
    list_->setAccessibleName(tr("Steps that fit"));
    list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    list_->setIconSize({60, 40});
    list_->setFocusPolicy(Qt::NoFocus);
    list_->hide();
    column->addWidget(line_);
    column->addWidget(list_);
    connect(line_, &QLineEdit::textEdited, this, &ContinueBox::fill);
    connect(list_, &QListWidget::itemClicked, this, [this](QListWidgetItem* item) {
        list_->setCurrentItem(item);
        take();
    });
    refresh();
}

std::size_t ContinueBox::place() const {
    return position_.value_or(document_.study().page_end(page_));
}

// The selected step if the new one comes below it, else the nearest above.
std::string ContinueBox::result_in_hand() const {
    const Study& study = document_.study();
    if (page_ == Page::hand_off) return {};  // what is seen is given
    if (const Step* step = study.step(document_.attention().selected());
        step && *study.position(step->id) < place())
        return step->name;
    for (std::size_t at = place(); at-- > 0;)
        if (const Step* step = step_of(study.items[at])) return step->name;
    return {};
}

void ContinueBox::refresh() {
    QString names;
    int shown = 0;
    for (const Offer& offer : offers({})) {
        if (!offer.fits || !offer.kind || shown == 3) continue;
        names += (shown++ == 0 ? "" : ", ") + offer.verb.toLower();
    }
    const bool empty = document_.study().page_end(page_) == document_.study().page_begin(page_);
    const QString sheet = empty ? tr("Begin with …  ") : tr("Continue with …  ");
    const QString hand_off = empty ? tr("Hand off …  ") : tr("Also hand off …  ");
    line_->setPlaceholderText((page_ == Page::sheet ? sheet : hand_off) + names);
}

std::vector<ContinueBox::Offer> ContinueBox::offers(const QString& typed) const {
    std::vector<Offer> found;
    for (const StepOffer& offer : step_offers(document_.study(), document_.catalogue(), place(),
                                              result_in_hand(), text_of(typed), page_, own_.steps)) {
        const QString result = offer.fits ? text_of(offer.kind->result_name)
                                          : tr("needs %1 above").arg(text_of(plain_name(*offer.missing)));
        const QString whose = offer.own ? tr("   my own") : QString();
        found.push_back({offer.kind, offer.own, text_of(offer.kind->verb), result + whose, offer.fits});
    }
    if (tr("Heading").contains(typed.trimmed(), Qt::CaseInsensitive)) {
        // After the last step that fits, before those that only could.
        const auto last = std::ranges::find(found.rbegin(), found.rend(), true, &Offer::fits);
        found.insert(last.base(), {nullptr, nullptr, tr("Heading"), tr("a title for what follows"), true});
    }
    return found;
}

void ContinueBox::fill() {
    // They are files, which may come and go between two looks.
    if (!list_->isVisible()) own_ = read_own_steps(own_steps_folder(), document_.catalogue());
    list_->clear();
    bool ready = false;
    for (const Offer& offer : offers(line_->text())) {
        // Before those that could not be added.
        if (!offer.fits && !std::exchange(ready, true)) add_ready(line_->text());
        auto* item = new QListWidgetItem(offer.verb + "   " + offer.result);
        item->setData(Qt::UserRole, offer.kind ? text_of(offer.kind->key) : QString());
        if (offer.own) item->setData(own_role, static_cast<int>(offer.own - own_.steps.data()));
        if (offer.kind) item->setToolTip(text_of(offer.kind->help));
        if (!offer.fits) item->setFlags(Qt::NoItemFlags);
        list_->addItem(item);
    }
    if (!ready) add_ready(line_->text());
    add_problems();
    if (list_->count() == 0) {
        list_->addItem(tr("No step is called that. Try another word."));
        list_->item(0)->setFlags(Qt::NoItemFlags);
    }
    for (int row = 0; row < list_->count(); ++row)
        if (list_->item(row)->flags() & Qt::ItemIsEnabled) {
            list_->setCurrentRow(row);
            break;
        }
    int height = 0;
    for (int row = 0; row < list_->count() && height < most_height; ++row)
        height += list_->item(row)->icon().isNull() ? row_height : picture_row_height;
    list_->setFixedHeight(qMin(height, most_height) + 14);
    list_->show();
    Q_EMIT list_changed();
}

// Small studies to begin from, by their pictures.
void ContinueBox::add_ready(const QString& typed) {
    if (page_ != Page::sheet) return;
    const std::vector<ReadyStudy>& all = ready_studies();
    for (std::size_t number = 0; number < all.size(); ++number) {
        const Study& study = *all[number].study;
        if (!are_named(study.title + " " + study.note, text_of(typed))) continue;
        auto* item =
            new QListWidgetItem(all[number].picture, text_of(study.title) + tr("   to begin from"), list_);
        item->setData(ready_role, static_cast<int>(number));
        item->setSizeHint({0, picture_row_height});
        item->setToolTip(text_of(study.note).section(" · ", 0, 0));
    }
}

// The study with that one's steps in it, selected.
void ContinueBox::take_ready(const ReadyStudy& ready) {
    const Result<Pasted> made =
        pasted(document_.study(), document_.catalogue(), *ready.study, place(), PastedControls::own);
    if (!made) return document_.show_message(text_of(sentence(made.error())));
    if (!document_.apply(made->study, tr("new steps"))) return;
    document_.attention().select(made->items.back());
}

// Files among one's own that hold no step, where nothing was typed yet.
void ContinueBox::add_problems() {
    if (!line_->text().isEmpty() || page_ != Page::sheet) return;
    for (const Error& problem : own_.problems) {
        auto* item = new QListWidgetItem(tr("Among my own: %1").arg(text_of(sentence(problem))), list_);
        item->setFlags(Qt::NoItemFlags);
    }
}

void ContinueBox::start() {
    line_->setFocus(Qt::ShortcutFocusReason);
    fill();
}

void ContinueBox::take() {
    const QListWidgetItem* item = list_->currentItem();
    if (!item || !(item->flags() & Qt::ItemIsEnabled)) return;
    const std::string key = text_of(item->data(Qt::UserRole).toString());
    const Study& study = document_.study();
    const StepKind* kind = document_.catalogue().find(key);
    if (const QVariant ready = item->data(ready_role); ready.isValid()) {
        line_->clear();
        list_->hide();
        take_ready(ready_studies()[ready.toUInt()]);
        position_.reset();
        Q_EMIT left();
        return line_->setFocus(Qt::OtherFocusReason);
    }
    const QVariant own = item->data(own_role);
    const Result<Added> added =
        own.isValid()
            ? add_step(study, document_.catalogue(), own_.steps[own.toUInt()], place(), result_in_hand())
        : kind ? add_step(study, document_.catalogue(), *kind, place(), result_in_hand())
               : Result<Added>(add_heading(study, place(), "New heading", page_));
    line_->clear();
    list_->hide();
    if (!added) return document_.show_message(text_of(sentence(added.error())));
    const QString label = kind ? tr("new step") : tr("new heading");
    position_.reset();
    document_.apply(added->study, label);
    document_.attention().select(added->id);
    Q_EMIT left();
    line_->setFocus(Qt::OtherFocusReason);
}

bool ContinueBox::eventFilter(QObject* watched, QEvent* event) {
    if (event->type() == QEvent::FocusOut) {
        list_->hide();
        Q_EMIT list_changed();
    }
    if (event->type() == QEvent::MouseButtonPress && !list_->isVisible()) fill();
    // An empty line has nothing of its own to undo: Ctrl+Z after adding a step takes the step back.
    if (event->type() == QEvent::ShortcutOverride && line_->text().isEmpty() &&
        static_cast<QKeyEvent*>(event)->modifiers() & Qt::ControlModifier) {
        event->ignore();
        return true;
    }
    if (event->type() != QEvent::KeyPress) return QWidget::eventFilter(watched, event);
    switch (static_cast<QKeyEvent*>(event)->key()) {
        case Qt::Key_Down:
        case Qt::Key_Up: {
            if (!list_->isVisible()) fill();
            const int direction = static_cast<QKeyEvent*>(event)->key() == Qt::Key_Down ? 1 : -1;
            for (int row = list_->currentRow() + direction; row >= 0 && row < list_->count();
                 row += direction)
                if (list_->item(row)->flags() & Qt::ItemIsEnabled) {
                    list_->setCurrentRow(row);
                    break;
                }
            return true;
        }
        case Qt::Key_Return:
        case Qt::Key_Enter:
            if (list_->isVisible())
                take();
            else
                fill();
            return true;
        case Qt::Key_Escape:
            line_->clear();
            list_->hide();
            position_.reset();
            Q_EMIT left();
            return true;
        default:
            return QWidget::eventFilter(watched, event);
    }
}

}  // namespace plume::app

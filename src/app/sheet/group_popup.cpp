#include "app/sheet/group_popup.hpp"

#include <QHeaderView>
#include <QMessageBox>
#include <QPushButton>
#include <QTreeWidget>

#include "app/parts/form_popup.hpp"
#include "app/theme/look.hpp"
#include "core/exchange/own_steps.hpp"
#include "core/study/edits/group_steps.hpp"
#include "core/study/sentence.hpp"
#include "core/study/step_group.hpp"

namespace plume::app {
namespace {

constexpr int list_width = 430, least_rows = 3, most_rows = 8;

// The form for a group: the sentence follows the name and what is ticked until it is written by hand.
class GroupForm : public QObject {
public:
    GroupForm(Document& document, FormPopup* form)
        : QObject(form),
          document_(document),
          items_(document.attention().selection()),
          openable_(openable_slots(document.study(), document.catalogue(), items_)),
          former_(former_group(document.history(), document.catalogue(), items_)),
          by_hand_(former_.has_value()) {
        name_ =
            form->add_line(tr("Called"), former_ ? text_of(former_->title) : QString(), tr("Raise a shell"));
        name_->setObjectName("group-name");
        sentence_ = form->add_line(tr("Reads"), former_ ? text_of(former_->sentence) : QString());
        sentence_->setObjectName("group-sentence");
        sentence_->setMinimumWidth(list_width - 70);
        form->add_text(
            tr("What is ticked stays open and becomes a slot of the sentence; all else stays as it is."));
        list_ = list_of_slots();
        form->add_widget(list_);
        connect(list_, &QTreeWidget::itemChanged, this, [this] { follow(); });
        connect(name_, &QLineEdit::textEdited, this, [this] { follow(); });
        connect(sentence_, &QLineEdit::textEdited, this, [this] { by_hand_ = true; });
        follow();
    }

    // What is wrong with it; nothing where the steps are one now.
    QString accept() {
        const QString title = name_->text().trimmed();
        if (title.isEmpty()) return tr("Type what the step is called, as ‘Raise a shell’.");
        Result<StepGroup> group = group_of_steps(document_.study(), document_.catalogue(), items_, open(),
                                                 document_.results().numbers());
        if (!group) return text_of(sentence(group.error()));
        group->title = text_of(title);
        group->sentence = text_of(sentence_->text().trimmed());
        if (former_) group->help = former_->help;
        const Result<Added> made =
            with_group(document_.study(), document_.catalogue(), items_, *std::move(group));
        if (!made) return text_of(sentence(made.error()));
        if (document_.apply(made->study, tr("one step of several"))) document_.attention().select(made->id);
        return {};
    }

private:
    QTreeWidget* list_of_slots() const {
        auto* list = new QTreeWidget;
        list->setObjectName("group-slots");
        list->setAccessibleName(tr("What stays open"));
        list->setColumnCount(2);
        list->setHeaderHidden(true);
        list->setRootIsDecorated(false);
        list->setUniformRowHeights(true);
        list->setFixedWidth(list_width);
        list->header()->setStretchLastSection(true);
        for (const Openable& one : openable_) {
            auto* row = new QTreeWidgetItem(list, {text_of(one.label), text_of(one.value)});
            row->setForeground(1, look().second_ink);
            row->setFlags(one.needed ? Qt::ItemIsEnabled
                                     : Qt::ItemIsEnabled | Qt::ItemIsUserCheckable | Qt::ItemIsSelectable);
            row->setCheckState(0, one.needed || is_open_at_first(one.open) ? Qt::Checked : Qt::Unchecked);
            if (one.needed) row->setToolTip(0, tr("It cannot be kept inside."));
        }
        list->resizeColumnToContents(0);
        const int rows = std::clamp(list->topLevelItemCount(), least_rows, most_rows);
        list->setFixedHeight(rows * std::max(list->sizeHintForRow(0), 24) + 8);
        return list;
    }
    // As it was before; else what comes from outside is open, and what single steps have is not.
    bool is_open_at_first(const OpenSlot& slot) const {
        if (!former_) return slot.of.empty();
        return std::ranges::find(former_->open, slot) != former_->open.end();
    }
    std::vector<OpenSlot> open() const {
        std::vector<OpenSlot> ticked;
        for (int at = 0; at < list_->topLevelItemCount(); ++at)
            if (list_->topLevelItem(at)->checkState(0) == Qt::Checked)
                ticked.push_back(openable_[static_cast<std::size_t>(at)].open);
        return ticked;
    }
    void follow() {
        const QString title = name_->text().trimmed();
        if (!by_hand_)
            sentence_->setText(text_of(
                proposed_sentence(text_of(title.isEmpty() ? name_->placeholderText() : title), open())));
    }

    Document& document_;
    ItemIds items_;
    std::vector<Openable> openable_;
    std::optional<FormerGroup> former_;
    bool by_hand_;
    QLineEdit *name_, *sentence_;
    QTreeWidget* list_;
};

}  // namespace

void open_group_form(Document& document, QWidget* near) {
    std::size_t steps = 0;
    for (const ItemId id : document.attention().selection())
        if (document.study().step(id)) ++steps;
    if (steps == 0)
        return document.show_message(QObject::tr(
            "Select the steps that are to stand as one first: click one, then Shift and click another."));
    auto* form = new FormPopup(near, steps == 1 ? QObject::tr("A step of one's own")
                                                : QObject::tr("One step of these %1").arg(steps));
    auto* group = new GroupForm(document, form);
    form->open(QObject::tr("Make one step"), [group] { return group->accept(); });
}

void open_group_contents(const SlotAccess& access, QWidget* near) {
    const Step* step = access.current();
    const StepGroup* group = step ? group_of(*step) : nullptr;
    if (!group) return;
    auto* form = new FormPopup(near, text_of(group->title));
    for (const Item& item : group->steps.items) {
        const Step* inside = step_of(item);
        const StepKind* kind = inside ? access.document->kind_of(*inside) : nullptr;
        if (kind)
            form->add_text(
                QString("%1: %2").arg(text_of(inside->name), text_of(sentence_text(*kind, *inside))));
    }
    const ItemId id = access.step;
    form->add_action(QObject::tr("&Take apart"),
                     [document = access.document, id] { take_apart(*document, id); });
    form->open(QObject::tr("Done"), [] { return QString(); });
}

void take_apart(Document& document, ItemId step) {
    const Result<Pasted> made = taken_apart(document.study(), document.catalogue(), step);
    if (!made) return document.show_message(text_of(sentence(made.error())));
    if (!document.apply(made->study, QObject::tr("taking a step apart"))) return;
    document.attention().select(made->items.front());
    document.attention().extend_selection(made->items.back());
}

void keep_as_own(Document& document, ItemId id, QWidget* parent) {
    const Step* step = document.study().step(id);
    if (!step) return;
    const auto file = own_step_file(own_steps_folder(), *step, document.catalogue());
    const QString title = text_of(document.kind_of(*step)->verb);
    if (std::error_code ignored; std::filesystem::exists(file, ignored)) {
        QMessageBox box(QMessageBox::Question, QObject::tr("Keep a step"),
                        QObject::tr("One of your steps is called ‘%1’ already.").arg(title),
                        QMessageBox::Cancel, parent);
        box.setInformativeText(
            QObject::tr("Studies that use it have it within themselves and stay as they are."));
        QPushButton* replace = box.addButton(QObject::tr("&Replace it"), QMessageBox::AcceptRole);
        box.setDefaultButton(QMessageBox::Cancel);
        box.exec();
        if (box.clickedButton() != replace) return;
    }
    const Status kept = keep_own_step(file, *step, document.catalogue());
    document.show_message(
        kept ? QObject::tr("‘%1’ is among the steps to continue with, in every study. It is kept in %2.")
                   .arg(title, text_of(file.string()))
             : text_of(sentence(kept.error())));
}

}  // namespace plume::app

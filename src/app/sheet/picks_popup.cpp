#include "app/sheet/picks_popup.hpp"

#include <QHBoxLayout>
#include <QHeaderView>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QSignalBlocker>
#include <QTreeWidget>
#include <QVBoxLayout>
#include <algorithm>

#include "app/theme/look.hpp"
#include "core/study/slots/picked_names.hpp"

namespace plume::app {
namespace {

// Longer lists can be narrowed down.
constexpr int many = 12;
constexpr int least_rows = 3, most_rows = 10;

}  // namespace

PicksPopup::PicksPopup(const SlotAccess& access, QWidget* near)
    : Popup(near, text_of(access.slot->label)),
      access_(access),
      about_(new QLabel),
      filter_(new QLineEdit),
      list_(new QTreeWidget) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(16, 12, 16, 14);
    column->setSpacing(8);
    auto* heading = new QLabel(text_of(access.slot->label));
    heading->setFont(text_font(13, QFont::DemiBold));
    column->addWidget(heading);
    filter_->setPlaceholderText(tr("Narrow down"));
    filter_->setAccessibleName(tr("Narrow down"));
    filter_->setClearButtonEnabled(true);
    column->addWidget(filter_);
    list_->setObjectName("picks");
    list_->setAccessibleName(text_of(access.slot->label));
    list_->setColumnCount(2);
    list_->setHeaderHidden(true);
    list_->setRootIsDecorated(false);
    list_->setUniformRowHeights(true);
    list_->setFixedWidth(420);
    list_->header()->setStretchLastSection(true);
    column->addWidget(list_);
    about_->setProperty("second", true);
    about_->setWordWrap(true);
    column->addWidget(about_);
    auto* row = new QHBoxLayout;
    auto* all = new QPushButton(tr("All of it"));
    connect(all, &QPushButton::clicked, this, [this] {
        if (access_.current()) access_.set(WordKey{});
    });
    row->addWidget(all);
    row->addStretch();
    auto* done = new QPushButton(tr("Done"));
    connect(done, &QPushButton::clicked, this, [this] { leave(); });
    row->addWidget(done);
    column->addLayout(row);
    connect(filter_, &QLineEdit::textChanged, this, &PicksPopup::filter);
    connect(list_, &QTreeWidget::itemChanged, this, &PicksPopup::take_over);
    connect(access.document, &Document::study_changed, this, [this] {
        if (access_.current())
            refresh();
        else
            close();
    });
    connect(&access.document->results(), &Results::notes_changed, this, &PicksPopup::refresh);
    access.document->attention().set_offers_wish(access.step);
    refresh();
    place();
    list_->setFocus(Qt::PopupFocusReason);
}

PicksPopup::~PicksPopup() {
    access_.document->attention().set_offers_wish(0);
}

std::vector<std::string> PicksPopup::picked() const {
    return picked_names(std::get<WordKey>(access_.value()).key);
}

void PicksPopup::refresh() {
    const StepOffers* known = access_.document->results().offers(access_.step);
    const std::vector<std::string> names = picked();
    std::vector<Offer> offers;
    if (known && known->by_slot.contains(access_.slot->key))
        offers = known->by_slot.at(access_.slot->key).offers;
    const bool any_known = !offers.empty();
    for (const std::string& name : names)
        if (std::ranges::find(offers, name, &Offer::name) == offers.end())
            offers.push_back({name, any_known ? text_of(tr("is not in the file")) : std::string()});
    const QSignalBlocker quiet(list_);
    const int current = list_->indexOfTopLevelItem(list_->currentItem());
    while (list_->topLevelItemCount() > static_cast<int>(offers.size()))
        delete list_->takeTopLevelItem(list_->topLevelItemCount() - 1);
    while (list_->topLevelItemCount() < static_cast<int>(offers.size()))
        list_->addTopLevelItem(new QTreeWidgetItem);
    for (int at = 0; at < list_->topLevelItemCount(); ++at) {
        const Offer& offer = offers[static_cast<std::size_t>(at)];
        QTreeWidgetItem& item = *list_->topLevelItem(at);
        const bool ticked = std::ranges::find(names, offer.name) != names.end();
        item.setText(0, offer.name.empty() ? tr("without a name") : text_of(offer.name));
        item.setData(0, Qt::UserRole, text_of(offer.name));
        item.setText(1, text_of(offer.note));
        item.setForeground(1, look().second_ink);
        item.setFlags(offer.name.empty()
                          ? Qt::ItemIsEnabled
                          : Qt::ItemIsEnabled | Qt::ItemIsUserCheckable | Qt::ItemIsSelectable);
        if (!offer.name.empty()) item.setCheckState(0, ticked ? Qt::Checked : Qt::Unchecked);
    }
    list_->setCurrentItem(list_->topLevelItem(std::max(current, 0)));
    list_->resizeColumnToContents(0);
    list_->setColumnWidth(0, std::min(list_->columnWidth(0) + 16, 240));
    const int rows = std::clamp(list_->topLevelItemCount(), least_rows, most_rows);
    list_->setFixedHeight(rows * std::max(list_->sizeHintForRow(0), 24) + 8);
    filter_->setVisible(list_->topLevelItemCount() > many);
    if (!known)
        about_->setText(tr("The file is being read."));
    else if (!any_known && known->error)
        about_->setText(text_of(sentence(*known->error)));
    else
        about_->setText(names.empty() ? tr("None is ticked: all of it is taken.")
                                      : tr("What is ticked is taken."));
    if (isVisible()) place();
}

void PicksPopup::take_over() {
    if (!access_.current()) return;
    std::vector<std::string> names;
    for (int at = 0; at < list_->topLevelItemCount(); ++at) {
        const QTreeWidgetItem& item = *list_->topLevelItem(at);
        if (item.data(0, Qt::CheckStateRole).toInt() == Qt::Checked)
            names.push_back(text_of(item.data(0, Qt::UserRole).toString()));
    }
    access_.set(WordKey{picks_text(names)});
}

void PicksPopup::filter(const QString& wanted) {
    for (int at = 0; at < list_->topLevelItemCount(); ++at) {
        QTreeWidgetItem& item = *list_->topLevelItem(at);
        item.setHidden(!item.text(0).contains(wanted, Qt::CaseInsensitive));
    }
}

void PicksPopup::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter) return leave();
    Popup::keyPressEvent(event);
}

void open_picks_popup(const SlotAccess& access, QWidget* near) {
    new PicksPopup(access, near);
}

}  // namespace plume::app

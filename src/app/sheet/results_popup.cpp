#include "app/sheet/results_popup.hpp"

#include <QApplication>
#include <QComboBox>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QKeyEvent>
#include <QLabel>
#include <QPushButton>
#include <QSignalBlocker>
#include <QTreeWidget>
#include <QVBoxLayout>
#include <algorithm>

#include "app/theme/look.hpp"
#include "core/base/text.hpp"

namespace plume::app {
namespace {

constexpr int least_rows = 3, most_rows = 9, row_height = 30;

std::vector<std::string> titles_of(const Study& study) {
    std::vector<std::string> titles;
    for (std::size_t at = 0; at < study.page_end(Page::sheet); ++at) {
        const Heading* heading = heading_of(study.items[at]);
        if (heading && std::ranges::find(titles, heading->title) == titles.end())
            titles.push_back(heading->title);
    }
    return titles;
}

}  // namespace

ResultsPopup::ResultsPopup(const SlotAccess& access, QWidget* near)
    : Popup(near, text_of(access.slot->label)),
      access_(access),
      way_(new QComboBox),
      rows_(new QTreeWidget),
      about_(new QLabel) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(16, 12, 16, 14);
    column->setSpacing(8);
    auto* heading = new QLabel(tr("What is given"));
    heading->setFont(text_font(13, QFont::DemiBold));
    column->addWidget(heading);
    way_->setObjectName("results-way");
    way_->setAccessibleName(tr("Which results"));
    column->addWidget(way_);
    rows_->setObjectName("results-given");
    rows_->setAccessibleName(text_of(access.slot->label));
    rows_->setColumnCount(3);
    rows_->setHeaderHidden(true);
    rows_->setRootIsDecorated(false);
    rows_->setFixedWidth(440);
    rows_->header()->setStretchLastSection(true);
    column->addWidget(rows_);
    about_->setProperty("second", true);
    about_->setWordWrap(true);
    column->addWidget(about_);
    auto* row = new QHBoxLayout;
    row->addStretch();
    auto* done = new QPushButton(tr("Done"));
    connect(done, &QPushButton::clicked, this, [this] { leave(); });
    row->addWidget(done);
    column->addLayout(row);
    connect(way_, &QComboBox::activated, this, &ResultsPopup::choose_way);
    connect(rows_, &QTreeWidget::itemChanged, this, &ResultsPopup::take_over);
    connect(access.document, &Document::study_changed, this, [this] {
        if (access_.current())
            refresh();
        else
            close();
    });
    refresh();
    place();
    rows_->setFocus(Qt::PopupFocusReason);
}

void ResultsPopup::refresh() {
    refresh_ways();
    refresh_rows();
    about_->setText(access_.slot->words.empty()
                        ? tr("What is ticked is given, with its colours and materials as they are seen.")
                        : tr("What is ticked is given, with its material as it is seen. As what, is chosen "
                             "beside it."));
    if (isVisible()) place();
}

// These, all that is seen, all below one of the headings.
void ResultsPopup::refresh_ways() {
    const QSignalBlocker quiet(way_);
    const ResultList now = list();
    way_->clear();
    way_->addItem(tr("The results that are ticked"));
    way_->addItem(tr("All that is seen in the model"));
    std::vector<std::string> titles = titles_of(access_.document->study());
    if (now.of == ResultList::Of::heading && std::ranges::find(titles, now.heading) == titles.end())
        titles.push_back(now.heading);
    for (const std::string& title : titles) {
        way_->addItem(tr("All that is seen of “%1”").arg(text_of(shortened(title, 40))), text_of(title));
        if (now.of == ResultList::Of::heading && title == now.heading)
            way_->setCurrentIndex(way_->count() - 1);
    }
    if (now.of != ResultList::Of::heading) way_->setCurrentIndex(now.of == ResultList::Of::seen ? 1 : 0);
}

void ResultsPopup::refresh_rows() {
    const QSignalBlocker quiet(rows_);
    const Study& study = access_.document->study();
    const ResultList now = list();
    const std::vector<std::string> given = results_of(study, now);
    std::vector<std::string> names = results_that_fit(study, access_.document->catalogue(),
                                                      study.page_end(Page::sheet), access_.slot->accepts);
    std::ranges::reverse(names);
    // What is named and is not there is shown, to be taken out.
    for (const std::string& name : given)
        if (now.of == ResultList::Of::listed && std::ranges::find(names, name) == names.end())
            names.push_back(name);
    const int current = rows_->indexOfTopLevelItem(rows_->currentItem());
    // A box of a row goes with it; the keyboard stays in the pop-up.
    if (rows_->isAncestorOf(QApplication::focusWidget())) rows_->setFocus(Qt::OtherFocusReason);
    rows_->clear();
    for (const std::string& name : names) {
        auto* row = new QTreeWidgetItem(rows_);
        const Shown* shown = access_.document->results().shown(name);
        row->setText(0, text_of(name));
        row->setFont(0, result_font(15));
        row->setText(1, !study.step(name)       ? tr("is not in the study")
                        : shown && shown->value ? text_of(plain_name(kind_of(*shown->value)))
                                                : QString());
        row->setForeground(1, look().second_ink);
        row->setSizeHint(0, QSize(0, row_height));
        const bool listed = now.of == ResultList::Of::listed;
        row->setFlags(listed ? Qt::ItemIsEnabled | Qt::ItemIsUserCheckable | Qt::ItemIsSelectable
                             : Qt::ItemIsEnabled);
        const bool is_given = std::ranges::find(given, name) != given.end();
        row->setCheckState(0, is_given ? Qt::Checked : Qt::Unchecked);
        if (is_given && !access_.slot->words.empty()) rows_->setItemWidget(row, 2, word_box(name));
    }
    rows_->setCurrentItem(rows_->topLevelItem(std::max(current, 0)));
    rows_->setColumnWidth(0, 190);
    rows_->setColumnWidth(1, 96);
    rows_->setFixedHeight(std::clamp(static_cast<int>(names.size()), least_rows, most_rows) * row_height + 8);
}

QComboBox* ResultsPopup::word_box(const std::string& name) {
    auto* box = new QComboBox;
    box->setObjectName("given-as-" + text_of(name));
    box->setAccessibleName(tr("What %1 is given as").arg(text_of(name)));
    box->addItem(text_of(access_.slot->none));
    const ResultList now = list();
    const auto entry = std::ranges::find(now.entries, name, &ResultList::Entry::name);
    for (const Word& word : access_.slot->words) {
        box->addItem(text_of(word.label), text_of(word.key));
        if (entry != now.entries.end() && entry->as == word.key) box->setCurrentIndex(box->count() - 1);
    }
    // Later: the row that holds it is made anew.
    connect(
        box, &QComboBox::activated, this,
        [this, name, box] { give_as(name, text_of(box->currentData().toString())); }, Qt::QueuedConnection);
    return box;
}

void ResultsPopup::choose_way(int index) {
    if (!access_.current()) return;
    ResultList made = list();
    if (index == 0 && made.of != ResultList::Of::listed) {
        // What was given stays ticked.
        std::vector<ResultList::Entry> entries;
        for (const std::string& name : results_of(access_.document->study(), made)) {
            const auto entry = std::ranges::find(made.entries, name, &ResultList::Entry::name);
            entries.push_back({name, entry == made.entries.end() ? std::string() : entry->as});
        }
        made.entries = std::move(entries);
    }
    made.of = index == 0   ? ResultList::Of::listed
              : index == 1 ? ResultList::Of::seen
                           : ResultList::Of::heading;
    made.heading = text_of(way_->itemData(index).toString());
    if (made.of != ResultList::Of::listed)
        std::erase_if(made.entries, [](const ResultList::Entry& entry) { return entry.as.empty(); });
    access_.set(std::move(made));
}

void ResultsPopup::take_over() {
    if (!access_.current()) return;
    ResultList made = list();
    std::vector<ResultList::Entry> entries;
    for (int at = 0; at < rows_->topLevelItemCount(); ++at) {
        const QTreeWidgetItem& row = *rows_->topLevelItem(at);
        if (row.checkState(0) != Qt::Checked) continue;
        const std::string name = text_of(row.text(0));
        const auto before = std::ranges::find(made.entries, name, &ResultList::Entry::name);
        entries.push_back({name, before == made.entries.end() ? std::string() : before->as});
    }
    made.entries = std::move(entries);
    access_.set(std::move(made));
}

void ResultsPopup::give_as(const std::string& name, const std::string& word) {
    if (!access_.current()) return;
    ResultList made = list();
    const auto entry = std::ranges::find(made.entries, name, &ResultList::Entry::name);
    if (entry != made.entries.end())
        entry->as = word;
    else
        made.entries.push_back({name, word});
    access_.set(std::move(made));
}

void ResultsPopup::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter) return leave();
    Popup::keyPressEvent(event);
}

void open_results_popup(const SlotAccess& access, QWidget* near) {
    new ResultsPopup(access, near);
}

}  // namespace plume::app

#include "app/readings/reading_table.hpp"

#include <QHeaderView>
#include <QMenu>
#include <QMouseEvent>
#include <QTableView>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>

#include "app/readings/value_table.hpp"
#include "app/theme/look.hpp"
#include "app/theme/popup_menu.hpp"

namespace plume::app {

ReadingTable::ReadingTable(Document& document, QWidget* parent) : QWidget(parent), document_(document) {
    // What stands above the table differs from result to result, and must not move the model beside.
    setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Expanding);
    constexpr int two_kinds_of_rows = 220;
    setMinimumWidth(two_kinds_of_rows);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(4);
    head_ = new QHBoxLayout;
    head_->setSpacing(6);
    head_->addStretch();
    groups_ = new QToolButton;
    groups_->setObjectName("group-rows");
    groups_->setProperty("small", true);
    groups_->setToolTip(tr("A row for each value of a column, with totals and means"));
    connect(groups_, &QToolButton::clicked, this, &ReadingTable::choose_groups);
    head_->addWidget(groups_);
    column->addLayout(head_);
    rows_ = new ValueTable(this);
    table_ = new QTableView;
    table_->setObjectName("values");
    table_->setFont(text_font(12));
    table_->setModel(rows_);
    table_->setShowGrid(false);
    table_->setAccessibleName(tr("Values"));
    table_->verticalHeader()->hide();
    table_->verticalHeader()->setDefaultSectionSize(22);
    table_->horizontalHeader()->setHighlightSections(false);
    table_->horizontalHeader()->setDefaultSectionSize(66);
    table_->horizontalHeader()->setStretchLastSection(true);
    // In the order of the result until a column is clicked, and again at the third click.
    table_->horizontalHeader()->setSortIndicator(-1, Qt::AscendingOrder);
    table_->horizontalHeader()->setSortIndicatorClearable(true);
    table_->setSortingEnabled(true);
    table_->setSelectionBehavior(QAbstractItemView::SelectRows);
    table_->setSelectionMode(QAbstractItemView::SingleSelection);
    table_->setTabKeyNavigation(false);
    table_->setMouseTracking(true);
    table_->viewport()->installEventFilter(this);
    column->addWidget(table_, 1);
    connect(&document.attention(), &Attention::hover_changed, this, &ReadingTable::follow_hover);
    connect(table_->selectionModel(), &QItemSelectionModel::currentRowChanged, this,
            [this](const QModelIndex& now) {
                if (now.isValid() && table_->hasFocus()) hover_row(now.row());
            });
}

void ReadingTable::set(ValuePointer value, ItemId step) {
    step_ = step;
    if (value == value_) return follow_hover();
    value_ = std::move(value);
    rows_->set(value_, document_.study().units);
    show_rows();
}

void ReadingTable::show_rows() {
    refresh_head();
    set_column_widths();
    follow_hover();
}

void ReadingTable::refresh_head() {
    const std::vector<std::string>& kinds = rows_->row_kinds();
    while (kinds_.size() > kinds.size()) {
        delete kinds_.back();
        kinds_.pop_back();
    }
    while (kinds_.size() < kinds.size()) {
        auto* button = new QToolButton;
        button->setProperty("small", true);
        button->setCheckable(true);
        connect(button, &QToolButton::clicked, this, [this, button] {
            rows_->choose_rows(text_of(button->property("rows").toString()));
            show_rows();
        });
        head_->insertWidget(static_cast<int>(kinds_.size()), button);
        kinds_.push_back(button);
    }
    for (std::size_t at = 0; at < kinds.size(); ++at) {
        kinds_[at]->setProperty("rows", text_of(kinds[at]));
        kinds_[at]->setText(text_of(kinds[at]));
        kinds_[at]->setObjectName("rows-" + text_of(kinds[at]));
        kinds_[at]->setToolTip(tr("A row for each: %1").arg(text_of(kinds[at])));
        kinds_[at]->setChecked(kinds[at] == rows_->chosen_rows());
        kinds_[at]->setVisible(kinds.size() > 1);
    }
    groups_->setVisible(!rows_->group_columns().empty());
    tell_group();
}

// In short where there is no room beside the kinds of rows.
void ReadingTable::tell_group() {
    const std::string& by = rows_->chosen_group();
    const QString whole = by.empty() ? tr("group rows …") : tr("grouped by %1").arg(text_of(by));
    const auto wide = [this](const QString& text) { return groups_->fontMetrics().horizontalAdvance(text); };
    const bool fits = head_->sizeHint().width() - wide(groups_->text()) + wide(whole) <= width();
    groups_->setText(fits ? whole : "…");
}

void ReadingTable::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    tell_group();
}

void ReadingTable::choose_groups() {
    QMenu& menu = *new_popup_menu(groups_);
    const auto offer = [&](const QString& text, const std::string& column) {
        QAction* action = menu.addAction(text, this, [this, column] {
            rows_->choose_group(column);
            show_rows();
        });
        action->setCheckable(true);
        action->setChecked(column == rows_->chosen_group());
    };
    offer(tr("not grouped"), {});
    for (const std::string& column : rows_->group_columns())
        offer(tr("by %1").arg(text_of(column)), column);
    menu.popup(groups_->mapToGlobal(QPoint(0, groups_->height())));
}

// Names and lists need more room than numbers, as the first rows tell, and titles all of theirs.
void ReadingTable::set_column_widths() {
    const int usual = table_->horizontalHeader()->defaultSectionSize();
    const QFontMetrics metrics(text_font(12));
    constexpr int told_rows = 20, widest = 320, beside = 22;
    for (int column = 0; column < rows_->columnCount(); ++column) {
        const QString title = rows_->headerData(column, Qt::Horizontal, Qt::DisplayRole).toString();
        int width = std::max(usual, metrics.horizontalAdvance(title) + beside);
        for (int row = 0; rows_->holds_texts(column) && row < std::min(told_rows, rows_->rowCount()); ++row) {
            const QString cell = rows_->data(rows_->index(row, column), Qt::DisplayRole).toString();
            width = std::max(width, std::min(widest, metrics.horizontalAdvance(cell) + beside));
        }
        table_->setColumnWidth(column, width);
    }
}

void ReadingTable::follow_hover() {
    const Hovered& hovered = document_.attention().hovered();
    if (hovered.step != step_ || !value_) return table_->clearSelection();
    const auto row = hovered.within ? rows_->row_of_part(*hovered.within) : rows_->row_of_item(hovered.index);
    if (!row) return;
    table_->selectRow(*row);
    if (!table_->underMouse()) table_->scrollTo(rows_->index(*row, 0));
}

void ReadingTable::hover_row(int row) {
    if (const auto item = rows_->item_of_row(row))
        document_.attention().hover({step_, *item, rows_->part_of_row(row)});
}

bool ReadingTable::eventFilter(QObject* watched, QEvent* event) {
    if (event->type() == QEvent::MouseMove) {
        const QModelIndex under = table_->indexAt(static_cast<QMouseEvent*>(event)->pos());
        if (under.isValid()) hover_row(under.row());
    }
    if (event->type() == QEvent::Leave) document_.attention().hover({});
    if (event->type() == QEvent::MouseButtonRelease)
        document_.attention().hold(document_.attention().hovered());
    return QWidget::eventFilter(watched, event);
}

}  // namespace plume::app

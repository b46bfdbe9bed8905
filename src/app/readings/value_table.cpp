#include "app/readings/value_table.hpp"

#include <QColor>
#include <algorithm>
#include <cmath>
#include <limits>

#include "app/document/document.hpp"
#include "app/theme/look.hpp"
#include "core/base/numbers.hpp"
#include "core/results/grouped_table.hpp"
#include "core/results/sorted_table.hpp"

namespace plume::app {
namespace {

// Decimals that show four digits of the largest number of a column, so that points stand under one another.
int decimals_for(const TableColumn& column, std::size_t row_count, double factor) {
    if (column.text || column.whole) return 0;
    double largest = 0;
    const auto look_at = [&](double number) {
        if (std::isfinite(number)) largest = std::max(largest, std::abs(number * factor));
    };
    // A sample is enough to choose how many digits to show.
    const std::size_t stride = std::max<std::size_t>(1, row_count / (column.list ? 32 : 2048));
    for (std::size_t row = 0; row < row_count; row += stride)
        if (column.number)
            look_at(column.number(row));
        else
            std::ranges::for_each(column.list(row), look_at);
    if (largest == 0) return 2;
    return std::clamp(3 - static_cast<int>(std::floor(std::log10(largest))), 0, 9);
}

// What begins at the left stands clear of the numbers that end before it.
constexpr const char* beside_numbers = "   ";

// Numbers stand under one another; of several in a cell the first are seen.
QVariant alignment_of(const TableColumn& column) {
    return QVariant((column.list ? Qt::AlignLeft : Qt::AlignRight) | Qt::AlignVCenter);
}

}  // namespace

void ValueTable::set(ValuePointer value, const Units& units) {
    beginResetModel();
    value_ = std::move(value);
    row_kinds_ = value_ ? rows_of(*value_) : std::vector<std::string>();
    units_ = units;
    take_columns();
    endResetModel();
}

void ValueTable::sort(int column, Qt::SortOrder order) {
    const bool known = column >= 0 && column < columnCount();
    beginResetModel();
    sorting_ = known ? std::optional(Sorting{shown_column(column).column.name, order == Qt::DescendingOrder})
                     : std::nullopt;
    take_columns();
    endResetModel();
}

void ValueTable::take_columns() {
    columns_.clear();
    take_rows();
    if (sorting_) {
        const auto by = std::ranges::find(table_.columns, sorting_->column, &TableColumn::name);
        if (by != table_.columns.end())
            table_ =
                sorted_by(table_, static_cast<std::size_t>(by - table_.columns.begin()), sorting_->falling);
    }
    for (std::size_t number = 0; number < table_.columns.size(); ++number) {
        const TableColumn& column = table_.columns[number];
        if (column.idle) continue;
        const double factor = shown_per_internal(column.dimension, units_);
        columns_.push_back({number, column, factor, decimals_for(column, table_.row_count, factor)});
    }
}

// As they were chosen, where there are such rows and such a column.
void ValueTable::take_rows() {
    const auto wished = std::ranges::find(row_kinds_, wished_rows_);
    table_kind_ = wished != row_kinds_.end() ? *wished
                  : row_kinds_.empty()       ? std::string()
                                             : row_kinds_.front();
    table_ = value_ ? columns_of(*value_, table_kind_) : Table();
    group_columns_.clear();
    grouped_by_.clear();
    std::optional<std::size_t> by;
    for (std::size_t at = 0; at < table_.columns.size(); ++at) {
        if (!makes_groups(table_.columns[at])) continue;
        group_columns_.push_back(table_.columns[at].name);
        if (!wished_group_.empty() && group_columns_.back() == wished_group_) by = at;
    }
    if (!by) return;
    grouped_by_ = wished_group_;
    table_ = grouped_by(table_, *by);
}

void ValueTable::choose_rows(const std::string& rows) {
    beginResetModel();
    wished_rows_ = rows;
    take_columns();
    endResetModel();
}

void ValueTable::choose_group(const std::string& column) {
    beginResetModel();
    wished_group_ = column;
    take_columns();
    endResetModel();
}

// "together 3823 m, mean 3.251 m, 1.697 m … 4.48 m"
QString ValueTable::told_figures(const ShownColumn& shown) const {
    if (!shown.column.number) return {};
    const ColumnFigures figures = figures_of(table_, shown.number);
    if (figures.count == 0) return {};
    const auto told = [&](double value) {
        return text_of(quantity_text({value, shown.column.dimension}, units_));
    };
    return QObject::tr("together %1, mean %2, %3")
        .arg(told(figures.sum), told(figures.sum / static_cast<double>(figures.count)),
             text_of(range_text(figures.least, figures.most, shown.column.dimension, units_)));
}

int ValueTable::rowCount(const QModelIndex& parent) const {
    constexpr std::size_t most = std::numeric_limits<int>::max();
    return parent.isValid() ? 0 : static_cast<int>(std::min(table_.row_count, most));
}

int ValueTable::columnCount(const QModelIndex& parent) const {
    return parent.isValid() ? 0 : static_cast<int>(columns_.size());
}

QVariant ValueTable::data(const QModelIndex& index, int role) const {
    const ShownColumn& shown = shown_column(index.column());
    if (role == Qt::TextAlignmentRole) return alignment_of(shown.column);
    if (role != Qt::DisplayRole && role != Qt::ForegroundRole) return {};
    const auto row = static_cast<std::size_t>(index.row());
    const double number = shown.column.number ? shown.column.number(row) : 0;
    if (role == Qt::ForegroundRole) return std::isfinite(number) ? QVariant() : QVariant(look().attention);
    if (shown.column.text) return text_of(shown.column.text(row));
    if (shown.column.list) {
        QStringList numbers;
        for (const double one : shown.column.list(row))
            numbers << text_of(fixed_text(one * shown.factor, shown.decimals));
        return beside_numbers + numbers.join("  ");
    }
    return text_of(std::isfinite(number) ? fixed_text(number * shown.factor, shown.decimals)
                                         : exact_text(number));
}

QVariant ValueTable::headerData(int section, Qt::Orientation orientation, int role) const {
    if (role == Qt::TextAlignmentRole && orientation == Qt::Horizontal)
        return alignment_of(shown_column(section).column);
    if (role == Qt::ToolTipRole && orientation == Qt::Horizontal) return told_figures(shown_column(section));
    if (role != Qt::DisplayRole || orientation != Qt::Horizontal) return {};
    const TableColumn& column = shown_column(section).column;
    const std::string unit = unit_text(column.dimension, units_);
    const QString title = text_of(unit.empty() ? column.name : column.name + ' ' + unit);
    return column.list ? beside_numbers + title : title;
}

std::optional<std::size_t> ValueTable::item_of_row(int row) const {
    return table_.item_of_row ? table_.item_of_row(static_cast<std::size_t>(row)) : std::nullopt;
}

std::optional<PartRef> ValueTable::part_of_row(int row) const {
    if (!table_.part_of_row) return {};
    return table_.part_of_row(static_cast<std::size_t>(row));
}

std::optional<int> ValueTable::shown_row(std::optional<std::size_t> row) const {
    return row && *row < static_cast<std::size_t>(rowCount()) ? std::optional(static_cast<int>(*row))
                                                              : std::nullopt;
}

std::optional<int> ValueTable::row_of_item(std::size_t item) const {
    return table_.row_of_item ? shown_row(table_.row_of_item(item)) : std::nullopt;
}

std::optional<int> ValueTable::row_of_part(PartRef part) const {
    return table_.row_of_part ? shown_row(table_.row_of_part(part)) : std::nullopt;
}

}  // namespace plume::app

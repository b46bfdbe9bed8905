#include "app/readings/value_table.hpp"

#include <QColor>
#include <algorithm>
#include <cmath>
#include <limits>

#include "app/document/document.hpp"
#include "app/theme/look.hpp"
#include "core/base/numbers.hpp"

namespace plume::app {
namespace {

// Decimals that show four digits of the largest number of a column, so that points stand under one another.
int decimals_for(const TableColumn& column, std::size_t row_count, double factor) {
    if (!column.number || column.whole) return 0;
    double largest = 0;
    // A sample is enough to choose how many digits to show.
    const std::size_t stride = std::max<std::size_t>(1, row_count / 2048);
    for (std::size_t row = 0; row < row_count; row += stride)
        if (const double number = column.number(row); std::isfinite(number))
            largest = std::max(largest, std::abs(number * factor));
    if (largest == 0) return 2;
    return std::clamp(3 - static_cast<int>(std::floor(std::log10(largest))), 0, 9);
}

}  // namespace

void ValueTable::set(ValuePointer value, const Units& units) {
    beginResetModel();
    columns_.clear();
    value_ = std::move(value);
    units_ = units;
    table_ = value_ ? columns_of(*value_) : Table();
    for (const TableColumn& column : table_.columns) {
        if (column.idle) continue;
        const double factor = shown_per_internal(column.dimension, units_);
        columns_.push_back({column, factor, decimals_for(column, table_.row_count, factor)});
    }
    endResetModel();
}

int ValueTable::rowCount(const QModelIndex& parent) const {
    constexpr std::size_t most = std::numeric_limits<int>::max();
    return parent.isValid() ? 0 : static_cast<int>(std::min(table_.row_count, most));
}

int ValueTable::columnCount(const QModelIndex& parent) const {
    return parent.isValid() ? 0 : static_cast<int>(columns_.size());
}

QVariant ValueTable::data(const QModelIndex& index, int role) const {
    if (role == Qt::TextAlignmentRole) return QVariant(Qt::AlignRight | Qt::AlignVCenter);
    if (role != Qt::DisplayRole && role != Qt::ForegroundRole) return {};
    const ShownColumn& shown = shown_column(index.column());
    const auto row = static_cast<std::size_t>(index.row());
    const double number = shown.column.number ? shown.column.number(row) : 0;
    if (role == Qt::ForegroundRole) return std::isfinite(number) ? QVariant() : QVariant(look().attention);
    if (!shown.column.number) return text_of(shown.column.text(row));
    return text_of(std::isfinite(number) ? fixed_text(number * shown.factor, shown.decimals)
                                         : exact_text(number));
}

QVariant ValueTable::headerData(int section, Qt::Orientation orientation, int role) const {
    if (role == Qt::TextAlignmentRole && orientation == Qt::Horizontal)
        return QVariant(Qt::AlignRight | Qt::AlignVCenter);
    if (role != Qt::DisplayRole || orientation != Qt::Horizontal) return {};
    const TableColumn& column = shown_column(section).column;
    const std::string unit = unit_text(column.dimension, units_);
    return text_of(unit.empty() ? column.name : column.name + ' ' + unit);
}

std::optional<std::size_t> ValueTable::item_of_row(int row) const {
    return table_.item_of_row ? table_.item_of_row(static_cast<std::size_t>(row)) : std::nullopt;
}

std::optional<int> ValueTable::row_of_item(std::size_t item) const {
    const auto row = table_.row_of_item ? table_.row_of_item(item) : std::nullopt;
    return row && *row < static_cast<std::size_t>(rowCount()) ? std::optional(static_cast<int>(*row))
                                                              : std::nullopt;
}

}  // namespace plume::app

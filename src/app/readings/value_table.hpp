#pragma once
// The rows of a result, read where they lie: no copy is made, however many there are.

#include <QAbstractTableModel>

#include "core/results/columns.hpp"

namespace plume::app {

class ValueTable : public QAbstractTableModel {
    Q_OBJECT

public:
    using QAbstractTableModel::QAbstractTableModel;

    void set(ValuePointer value, const Units& units);
    int rowCount(const QModelIndex& parent = {}) const override;
    int columnCount(const QModelIndex& parent = {}) const override;
    QVariant data(const QModelIndex& index, int role) const override;
    QVariant headerData(int section, Qt::Orientation orientation, int role) const override;
    bool holds_texts(int column) const { return !shown_column(column).column.number; }

    // Between rows and what the model hovers.
    std::optional<std::size_t> item_of_row(int row) const;
    std::optional<int> row_of_item(std::size_t item) const;

private:
    struct ShownColumn {
        TableColumn column;
        double factor = 1;  // shown for internal
        int decimals = 0;
    };
    const ShownColumn& shown_column(int index) const { return columns_[static_cast<std::size_t>(index)]; }

    ValuePointer value_;  // what the columns read
    Units units_;
    Table table_;
    std::vector<ShownColumn> columns_;
};

}  // namespace plume::app

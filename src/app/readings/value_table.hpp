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
    // By a column; by none (-1) in the order of the result. What is sorted stays so as the result changes.
    void sort(int column, Qt::SortOrder order) override;
    bool holds_texts(int column) const { return !shown_column(column).column.number; }

    // Between rows and what the model hovers.
    std::optional<std::size_t> item_of_row(int row) const;
    std::optional<int> row_of_item(std::size_t item) const;

private:
    struct ShownColumn {
        std::size_t number = 0;  // among all columns of the table
        TableColumn column;
        double factor = 1;  // shown for internal
        int decimals = 0;
    };
    const ShownColumn& shown_column(int index) const { return columns_[static_cast<std::size_t>(index)]; }

    struct Sorting {
        std::string column;
        bool falling = false;
    };
    void take_columns();
    QString told_figures(const ShownColumn& shown) const;

    ValuePointer value_;  // what the columns read
    Units units_;
    Table table_;
    std::optional<Sorting> sorting_;
    std::vector<ShownColumn> columns_;
};

}  // namespace plume::app

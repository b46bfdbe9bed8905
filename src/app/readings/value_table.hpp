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

    // What can have a row, and what has; the first where nothing was chosen that there is.
    const std::vector<std::string>& row_kinds() const { return row_kinds_; }
    const std::string& chosen_rows() const { return table_kind_; }
    void choose_rows(const std::string& rows);
    // The columns whose groups can have a row instead, and the one whose groups have; empty: none.
    const std::vector<std::string>& group_columns() const { return group_columns_; }
    const std::string& chosen_group() const { return grouped_by_; }
    void choose_group(const std::string& column);

    // Between rows and what the model hovers.
    std::optional<std::size_t> item_of_row(int row) const;
    std::optional<int> row_of_item(std::size_t item) const;
    // The vertex or the face that a row is about, where it is about one.
    std::optional<PartRef> part_of_row(int row) const;
    std::optional<int> row_of_part(PartRef part) const;

private:
    std::optional<int> shown_row(std::optional<std::size_t> row) const;

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
    void take_rows();
    QString told_figures(const ShownColumn& shown) const;

    ValuePointer value_;  // what the columns read
    Units units_;
    Table table_;
    std::optional<Sorting> sorting_;
    std::string wished_rows_, wished_group_;  // as they were chosen; results without them have others
    std::string table_kind_, grouped_by_;     // as they are
    std::vector<std::string> row_kinds_;
    std::vector<std::string> group_columns_;
    std::vector<ShownColumn> columns_;
};

}  // namespace plume::app

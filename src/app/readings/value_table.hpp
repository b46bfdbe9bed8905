#pragma once
// The rows of a result, read where they lie: no copy is made, however many there are.

#include <QAbstractTableModel>

#include "core/data/value.hpp"

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

    // Between rows and what the model hovers: flat addresses, items, vertices. Gaps have no row.
    std::size_t index_of_row(int row) const;
    int row_of_index(std::size_t index) const;

private:
    struct Column {
        QString title;
        std::function<QString(std::size_t index)> text;
        bool odd_possible = false;
    };
    void add_number_columns(std::string_view title, const plume::Column& column, Dimension dimension);

    ValuePointer value_;
    Units units_;
    std::vector<Column> columns_;
    std::size_t count_ = 0;
    std::vector<std::size_t> present_;  // only for lattices with gaps
};

}  // namespace plume::app

#pragma once
// The parts of a sentence that is handed off, against the last time: what is new, changed, gone or as before.

#include <QAbstractTableModel>

#include "core/handoff/hand_off.hpp"

namespace plume::app {

class PartTable : public QAbstractTableModel {
    Q_OBJECT

public:
    using QAbstractTableModel::QAbstractTableModel;

    // Of a plan that is kept; nothing: no rows.
    void set(std::shared_ptr<const HandOffPlan> plan, ItemId step, const Units& units);
    int rowCount(const QModelIndex& parent = {}) const override;
    int columnCount(const QModelIndex& parent = {}) const override;
    QVariant data(const QModelIndex& index, int role) const override;
    QVariant headerData(int section, Qt::Orientation orientation, int role) const override;

private:
    enum Column { mark, as, material, state, figure, column_count };
    QString text(const PartChange& change, int column) const;

    std::shared_ptr<const HandOffPlan> plan_;
    std::vector<const PartChange*> rows_;  // what is new, changed or gone first
    Units units_;
};

}  // namespace plume::app

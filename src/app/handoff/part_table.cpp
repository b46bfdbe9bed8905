#include "app/handoff/part_table.hpp"

#include <algorithm>

#include "app/document/document.hpp"
#include "app/theme/look.hpp"
#include "core/base/numbers.hpp"
#include "core/data/material.hpp"
#include "core/handoff/state_colours.hpp"

namespace plume::app {

void PartTable::set(std::shared_ptr<const HandOffPlan> plan, ItemId step, const Units& units) {
    beginResetModel();
    plan_ = std::move(plan);
    units_ = units;
    rows_.clear();
    if (const HandOffEntry* entry = plan_ ? plan_->entry(step) : nullptr)
        for (const PartChange& change : entry->parts)
            rows_.push_back(&change);
    std::stable_partition(rows_.begin(), rows_.end(),
                          [](const PartChange* change) { return change->state != PartState::as_before; });
    endResetModel();
}

int PartTable::rowCount(const QModelIndex& parent) const {
    return parent.isValid() ? 0 : static_cast<int>(rows_.size());
}

int PartTable::columnCount(const QModelIndex& parent) const {
    return parent.isValid() ? 0 : column_count;
}

QString PartTable::text(const PartChange& change, int column) const {
    const HandedPart& part = change.part();
    const auto told = [&](const HandedPart& one) { return text_of(quantity_text(one.value, units_)); };
    switch (column) {
        case mark:
            return text_of(part.mark);
        case as:
            return text_of(part.as);
        case material: {
            const Material* known = find_material(part.material);
            return known ? text_of(std::string(known->label)) : text_of(part.material);
        }
        case state:
            return text_of(plain_name(change.state));
        case figure:
            break;
        default:
            return {};
    }
    if (change.state == PartState::changed && told(*change.was) != told(*change.is))
        return told(*change.was) + " → " + told(*change.is);
    return change.state == PartState::gone ? told(part) + " →" : told(part);
}

QVariant PartTable::data(const QModelIndex& index, int role) const {
    const PartChange& change = *rows_[static_cast<std::size_t>(index.row())];
    if (role == Qt::DisplayRole) return text(change, index.column());
    if (role == Qt::ToolTipRole && index.column() == figure) return text_of(change.part().figure);
    if (role == Qt::ForegroundRole && index.column() == state)
        return change.state == PartState::as_before ? look().second_ink
               : change.state == PartState::fresh   ? look().accent
               : change.state == PartState::gone
                   ? QColor::fromRgbF(gone_colour.red, gone_colour.green, gone_colour.blue)
                   : look().attention;
    return {};
}

QVariant PartTable::headerData(int section, Qt::Orientation orientation, int role) const {
    if (role != Qt::DisplayRole || orientation != Qt::Horizontal) return {};
    const QString names[column_count] = {tr("mark"), tr("class"), tr("material"), tr("state"),
                                         tr("was → is")};
    return names[section];
}

}  // namespace plume::app

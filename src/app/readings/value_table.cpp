#include "app/readings/value_table.hpp"

#include <QColor>
#include <algorithm>
#include <cmath>
#include <functional>
#include <limits>

#include "app/document/document.hpp"
#include "app/theme/look.hpp"
#include "core/base/numbers.hpp"

namespace plume::app {
namespace {

// Decimals that show four digits of the largest number of a column, so that points stand under one another.
int decimals_for(const plume::Column& column, double factor) {
    double largest = 0;
    // A sample is enough to choose how many digits to show.
    const std::size_t stride = std::max<std::size_t>(1, column.size() / 2048);
    for (std::size_t index = 0; index < column.size(); index += stride)
        if (std::isfinite(column[index])) largest = std::max(largest, std::abs(column[index] * factor));
    if (largest == 0) return 2;
    return std::clamp(3 - static_cast<int>(std::floor(std::log10(largest))), 0, 9);
}

}  // namespace

void ValueTable::add_number_columns(std::string_view title, const plume::Column& column,
                                    Dimension dimension) {
    const double factor = shown_per_internal(dimension, units_);
    const int decimals = decimals_for(column, factor);
    const QString unit = text_of(unit_text(dimension, units_));
    columns_.push_back({text_of(title) + (unit.isEmpty() ? QString() : " " + unit),
                        [column, factor, decimals](std::size_t index) {
                            const double value = column[index];
                            return std::isfinite(value) ? text_of(fixed_text(value * factor, decimals))
                                                        : text_of(exact_text(value));
                        },
                        true});
}

void ValueTable::set(ValuePointer value, const Units& units) {
    beginResetModel();
    value_ = std::move(value);
    units_ = units;
    columns_.clear();
    present_.clear();
    count_ = 0;
    const PointLattice* lattice = value_ ? lattice_of(*value_) : nullptr;
    if (lattice) {
        static constexpr std::size_t Address::*const parts[] = {&Address::i, &Address::j, &Address::k};
        static constexpr const char* names[] = {"i", "j", "k"};
        for (std::size_t direction = 0; direction < 3; ++direction)
            if (lattice->counts()[direction] > 1 || direction == 0)
                columns_.push_back(
                    {names[direction], [value = value_, part = parts[direction]](std::size_t index) {
                         return QString::number(lattice_of(*value)->address(index).*part);
                     }});
        add_number_columns("x", lattice->x(), a_length);
        add_number_columns("y", lattice->y(), a_length);
        add_number_columns("z", lattice->z(), a_length);
        for (const Field& field : lattice->fields())
            add_number_columns(field.name, field.values, field.dimension);
        count_ = lattice->point_count();
        if (lattice->has_gaps())
            for (std::size_t index = 0; index < lattice->address_count(); ++index)
                if (lattice->present(index)) present_.push_back(index);
    } else if (const auto* mesh = value_ ? std::get_if<Mesh>(value_.get()) : nullptr) {
        columns_.push_back({tr("vertex"), [](std::size_t index) { return QString::number(index); }});
        add_number_columns("x", mesh->x(), a_length);
        add_number_columns("y", mesh->y(), a_length);
        add_number_columns("z", mesh->z(), a_length);
        for (const Field& field : mesh->fields())
            add_number_columns(field.name, field.values, field.dimension);
        count_ = mesh->vertex_count();
    } else if (const auto* attractors = value_ ? std::get_if<Attractors>(value_.get()) : nullptr) {
        const auto item = [value = value_](std::size_t index) -> const Attractor& {
            return std::get<Attractors>(*value).items()[index];
        };
        const auto number = [](double v) { return text_of(short_text(v, 6)); };
        const QString unit = " " + text_of(symbol(units_.length));
        columns_.push_back({tr("name"), [item](std::size_t index) { return text_of(item(index).name); }});
        columns_.push_back({"x" + unit, [=](std::size_t index) { return number(item(index).position.x); }});
        columns_.push_back({"y" + unit, [=](std::size_t index) { return number(item(index).position.y); }});
        columns_.push_back({"z" + unit, [=](std::size_t index) { return number(item(index).position.z); }});
        columns_.push_back({tr("weight"), [=](std::size_t index) { return number(item(index).weight); }});
        count_ = attractors->items().size();
    } else if (const auto* curves = value_ ? std::get_if<CurveSet>(value_.get()) : nullptr;
               curves && !curves->curves.empty()) {
        const SplineCurve& curve = curves->curves.front();
        columns_.push_back({tr("pole"), [](std::size_t index) { return QString::number(index); }});
        add_number_columns("x", curve.x(), a_length);
        add_number_columns("y", curve.y(), a_length);
        add_number_columns("z", curve.z(), a_length);
        for (const Field& field : curve.fields())
            add_number_columns(field.name, field.values, field.dimension);
        count_ = curve.x().size();
    } else if (const auto* set = value_ ? std::get_if<SurfaceSet>(value_.get()) : nullptr;
               set && !set->patches.empty()) {
        const SplinePatch& patch = set->patches.front();
        columns_.push_back({tr("pole"), [](std::size_t index) { return QString::number(index); }});
        add_number_columns("x", patch.x(), a_length);
        add_number_columns("y", patch.y(), a_length);
        add_number_columns("z", patch.z(), a_length);
        count_ = patch.x().size();
    }
    endResetModel();
}

int ValueTable::rowCount(const QModelIndex& parent) const {
    return parent.isValid()
               ? 0
               : static_cast<int>(std::min<std::size_t>(count_, std::numeric_limits<int>::max()));
}

int ValueTable::columnCount(const QModelIndex& parent) const {
    return parent.isValid() ? 0 : static_cast<int>(columns_.size());
}

QVariant ValueTable::data(const QModelIndex& index, int role) const {
    if (role == Qt::TextAlignmentRole) return QVariant(Qt::AlignRight | Qt::AlignVCenter);
    if (role != Qt::DisplayRole && role != Qt::ForegroundRole) return {};
    const Column& column = columns_[static_cast<std::size_t>(index.column())];
    const QString text = column.text(index_of_row(index.row()));
    if (role == Qt::DisplayRole) return text;
    const bool odd = column.odd_possible && (text.contains("nan") || text.contains("inf"));
    return odd ? QVariant(look().attention) : QVariant();
}

QVariant ValueTable::headerData(int section, Qt::Orientation orientation, int role) const {
    if (role == Qt::TextAlignmentRole && orientation == Qt::Horizontal)
        return QVariant(Qt::AlignRight | Qt::AlignVCenter);
    if (role != Qt::DisplayRole || orientation != Qt::Horizontal) return {};
    return columns_[static_cast<std::size_t>(section)].title;
}

std::size_t ValueTable::index_of_row(int row) const {
    const auto at = static_cast<std::size_t>(row);
    return present_.empty() ? at : present_[at];
}

int ValueTable::row_of_index(std::size_t index) const {
    if (present_.empty()) return index < count_ ? static_cast<int>(index) : -1;
    const auto found = std::ranges::lower_bound(present_, index);
    return found != present_.end() && *found == index ? static_cast<int>(found - present_.begin()) : -1;
}

}  // namespace plume::app

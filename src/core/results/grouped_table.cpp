#include "core/results/grouped_table.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>
#include <memory>
#include <optional>

#include "core/base/sum.hpp"
#include "core/results/sorted_table.hpp"
#include "core/results/table_making.hpp"

namespace plume {

using namespace table_making;

namespace {

// The rows of each group, and the group of each row.
struct Groups {
    std::vector<std::vector<std::size_t>> rows;
    std::vector<std::size_t> of_row;
};

bool comes_before(const TableColumn& column, std::size_t a, std::size_t b) {
    if (column.text) return read_before(column.text(a), column.text(b));
    const double one = column.number(a), other = column.number(b);
    // Those that are not finite are one group, the last.
    return std::isfinite(one) && (one < other || !std::isfinite(other));
}

// Rows that are alike stand together once they are sorted.
Groups groups_of(const Table& table, std::size_t column) {
    Groups groups{{}, std::vector<std::size_t>(table.row_count)};
    std::optional<std::size_t> before;
    for (const std::size_t row : order_by(table, column, false)) {
        if (!before || comes_before(table.columns[column], *before, row)) groups.rows.emplace_back();
        groups.rows.back().push_back(row);
        groups.of_row[row] = groups.rows.size() - 1;
        before = row;
    }
    return groups;
}

struct Totals {
    std::vector<double> total, mean;
};
Totals totals_of(const TableColumn& column, const Groups& groups) {
    Totals totals;
    for (const std::vector<std::size_t>& rows : groups.rows) {
        Sum sum;
        std::size_t count = 0;
        for (const std::size_t row : rows)
            if (const double number = column.number(row); std::isfinite(number)) {
                sum.add(number);
                ++count;
            }
        totals.total.push_back(sum.value());
        totals.mean.push_back(count > 0 ? sum.value() / static_cast<double>(count)
                                        : std::numeric_limits<double>::quiet_NaN());
    }
    return totals;
}

void add_numbers(Table& table, std::string name, Dimension dimension, std::vector<double> numbers) {
    add(table, std::move(name), dimension,
        [kept = std::make_shared<const std::vector<double>>(std::move(numbers))](std::size_t row) {
            return (*kept)[row];
        });
}

bool is_coordinate(const TableColumn& column) {
    return std::ranges::find(coordinates, column.name, [](const auto& pair) { return pair.first; }) !=
           std::end(coordinates);
}

}  // namespace

bool makes_groups(const TableColumn& column) {
    return column.text || (column.number && column.whole && !column.idle);
}

bool adds_up(const TableColumn& column) {
    constexpr std::array<std::string_view, 4> names{"length", "area", "volume", "mass_kg"};
    return column.number && std::ranges::find(names, std::string_view(column.name)) != names.end();
}

Table grouped_by(const Table& table, std::size_t column) {
    const TableColumn& key = table.columns[column];
    const auto groups = std::make_shared<const Groups>(groups_of(table, column));
    Table made{{}, groups->rows.size(), "groups of " + table.rows_are};
    const auto first = [groups](std::size_t row) { return groups->rows[row].front(); };
    TableColumn& told = made.columns.emplace_back(key);
    if (key.text) told.text = [read = key.text, first](std::size_t row) { return read(first(row)); };
    if (key.number) told.number = [read = key.number, first](std::size_t row) { return read(first(row)); };
    add_whole(made, "count", false,
              [groups](std::size_t row) { return static_cast<double>(groups->rows[row].size()); });
    for (const TableColumn& other : table.columns) {
        if (!other.number || other.whole || is_coordinate(other)) continue;
        Totals totals = totals_of(other, *groups);
        if (adds_up(other))
            add_numbers(made, "total_" + other.name, other.dimension, std::move(totals.total));
        add_numbers(made, "mean_" + other.name, other.dimension, std::move(totals.mean));
    }
    if (table.item_of_row)
        made.item_of_row = [read = table.item_of_row, first](std::size_t row) { return read(first(row)); };
    if (table.row_of_item)
        made.row_of_item = [read = table.row_of_item,
                            groups](std::size_t item) -> std::optional<std::size_t> {
            const auto row = read(item);
            return row ? std::optional(groups->of_row[*row]) : std::nullopt;
        };
    return made;
}

}  // namespace plume

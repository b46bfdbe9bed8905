#include "core/results/table_making.hpp"

#include <cmath>

namespace plume::table_making {

void let_rows_be_items(Table& table) {
    table.item_of_row = [](std::size_t row) { return std::optional(row); };
    table.row_of_item = [count = table.row_count](std::size_t item) {
        return item < count ? std::optional(item) : std::nullopt;
    };
}

void add(Table& table, std::string name, Dimension dimension, std::function<double(std::size_t)> number) {
    table.columns.push_back({std::move(name), dimension, std::move(number)});
}

void add_whole(Table& table, std::string name, bool idle, std::function<double(std::size_t)> number) {
    table.columns.push_back({std::move(name), plain_number, std::move(number), {}, true, idle});
}

void add_text(Table& table, std::string name, std::function<std::string(std::size_t)> text) {
    table.columns.push_back({std::move(name), plain_number, {}, std::move(text)});
}

void add_list(Table& table, std::string name, Dimension dimension,
              std::function<std::vector<double>(std::size_t)> list) {
    table.columns.push_back({std::move(name), dimension, {}, {}, false, false, std::move(list)});
}

void add_field(Table& table, const Field& field) {
    add(table, field.name, field.dimension, [values = field.values](std::size_t row) { return values[row]; });
    mark_if_whole(table.columns.back(), table.row_count);
}

void mark_if_whole(TableColumn& column, std::size_t row_count) {
    column.whole = column.dimension == plain_number;
    for (std::size_t row = 0; row < row_count && column.whole; ++row) {
        const double value = column.number(row);
        column.whole = !std::isfinite(value) || value == std::round(value);
    }
}

}  // namespace plume::table_making

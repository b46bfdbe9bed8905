#include "core/results/sorted_table.hpp"

#include <algorithm>
#include <cmath>
#include <limits>
#include <memory>
#include <numeric>

#include "core/base/sum.hpp"

namespace plume {
namespace {

using Order = std::vector<std::size_t>;

bool is_digit(char c) {
    return c >= '0' && c <= '9';
}

// The digits from a place on, without zeros before them.
std::string_view digits_at(std::string_view text, std::size_t at, std::size_t& end) {
    end = at;
    while (end < text.size() && is_digit(text[end]))
        ++end;
    while (at + 1 < end && text[at] == '0')
        ++at;
    return text.substr(at, end - at);
}

template <class Key, class Before>
void sort_by(Order& order, std::vector<Key> keys, bool falling, Before before) {
    std::ranges::stable_sort(order, [&](std::size_t a, std::size_t b) {
        return falling ? before(keys[b], keys[a]) : before(keys[a], keys[b]);
    });
}

}  // namespace

bool read_before(std::string_view a, std::string_view b) {
    std::size_t at_a = 0, at_b = 0;
    while (at_a < a.size() && at_b < b.size()) {
        if (is_digit(a[at_a]) && is_digit(b[at_b])) {
            const std::string_view one = digits_at(a, at_a, at_a), other = digits_at(b, at_b, at_b);
            if (one.size() != other.size()) return one.size() < other.size();
            if (one != other) return one < other;
            continue;
        }
        if (a[at_a] != b[at_b]) return a[at_a] < b[at_b];
        ++at_a;
        ++at_b;
    }
    return a.size() - at_a < b.size() - at_b;
}

std::vector<std::size_t> order_by(const Table& table, std::size_t at, bool falling) {
    const TableColumn& column = table.columns[at];
    Order order(table.row_count);
    std::iota(order.begin(), order.end(), std::size_t{0});
    if (column.text) {
        std::vector<std::string> texts;
        for (std::size_t row = 0; row < table.row_count; ++row)
            texts.push_back(column.text(row));
        sort_by(order, std::move(texts), falling, read_before);
        return order;
    }
    if (column.list) {
        std::vector<std::vector<double>> lists;
        for (std::size_t row = 0; row < table.row_count; ++row)
            lists.push_back(column.list(row));
        sort_by(order, std::move(lists), falling, std::less<>());
        return order;
    }
    std::vector<double> numbers;
    const double last =
        falling ? -std::numeric_limits<double>::infinity() : std::numeric_limits<double>::infinity();
    for (std::size_t row = 0; row < table.row_count; ++row) {
        const double number = column.number(row);
        numbers.push_back(std::isfinite(number) ? number : last);
    }
    sort_by(order, std::move(numbers), falling, std::less<>());
    return order;
}

Table sorted_by(const Table& table, std::size_t column, bool falling) {
    const auto order = std::make_shared<const Order>(order_by(table, column, falling));
    auto places = std::make_shared<Order>(order->size());
    for (std::size_t row = 0; row < order->size(); ++row)
        (*places)[(*order)[row]] = row;
    Table sorted = table;
    for (TableColumn& one : sorted.columns) {
        if (one.number)
            one.number = [read = one.number, order](std::size_t row) { return read((*order)[row]); };
        if (one.list) one.list = [read = one.list, order](std::size_t row) { return read((*order)[row]); };
        if (one.text) one.text = [read = one.text, order](std::size_t row) { return read((*order)[row]); };
    }
    if (table.item_of_row)
        sorted.item_of_row = [read = table.item_of_row, order](std::size_t row) {
            return read((*order)[row]);
        };
    if (table.part_of_row)
        sorted.part_of_row = [read = table.part_of_row, order](std::size_t row) {
            return read((*order)[row]);
        };
    const auto sorted_place = [places](std::optional<std::size_t> row) {
        return row ? std::optional((*places)[*row]) : std::nullopt;
    };
    if (table.row_of_item)
        sorted.row_of_item = [read = table.row_of_item, sorted_place](std::size_t item) {
            return sorted_place(read(item));
        };
    if (table.row_of_part)
        sorted.row_of_part = [read = table.row_of_part, sorted_place](PartRef part) {
            return sorted_place(read(part));
        };
    return sorted;
}

ColumnFigures figures_of(const Table& table, std::size_t column) {
    ColumnFigures figures{0, 0, std::numeric_limits<double>::infinity(),
                          -std::numeric_limits<double>::infinity()};
    Sum sum;
    for (std::size_t row = 0; row < table.row_count; ++row) {
        const double number = table.columns[column].number(row);
        if (!std::isfinite(number)) continue;
        ++figures.count;
        sum.add(number);
        figures.least = std::min(figures.least, number);
        figures.most = std::max(figures.most, number);
    }
    figures.sum = sum.value();
    return figures;
}

}  // namespace plume

#pragma once
// Tables in another order, and what their columns come to.

#include "core/results/columns.hpp"

namespace plume {

// The rows in the order of a column, as sorted_by() has them. O(n log n).
std::vector<std::size_t> order_by(const Table& table, std::size_t column, bool falling);

// The same rows in the order of a column: numbers by size, those that are not finite last; texts as they are
// read, numbers within them by size ("9,2" before "10,1"), several numbers by the first that differs. Rows
// that are alike stay in their order. The table reads what it read before. O(n log n).
Table sorted_by(const Table& table, std::size_t column, bool falling);

// Of the finite numbers of a column. O(n).
struct ColumnFigures {
    std::size_t count = 0;
    double sum = 0, least = 0, most = 0;
};
ColumnFigures figures_of(const Table& table, std::size_t column);

// Whether a text comes before another as they are read.
bool read_before(std::string_view a, std::string_view b);

}  // namespace plume

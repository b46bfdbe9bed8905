#pragma once
// Tables with a row for each group of rows that are alike.

#include "core/results/columns.hpp"

namespace plume {

// Whether rows can be grouped by it: texts and whole numbers.
bool makes_groups(const TableColumn& column);
// Lengths, areas, volumes and masses of things are summed up; coordinates and angles are not.
bool adds_up(const TableColumn& column);

// A row for each value of a column, in the order they are read: how many rows have it, the total and the mean
// of what adds up, and the mean of other numbers but of whole ones and coordinates. Numbers that are not
// finite count for nothing; of the column they are one group, the last. A group's first row stands for it.
// The table that is given may go. O(n log n).
Table grouped_by(const Table& table, std::size_t column);

}  // namespace plume

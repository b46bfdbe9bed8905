#pragma once
// A value as a table: what CSV, `plume values` and its JSON hold. Points, numbers and directions on them, and
// placements have a row a point that is present; curves one a point they were made through, or a pole where
// there is none; attractors and single numbers one each.

#include <functional>
#include <string>
#include <vector>

#include "core/data/value.hpp"

namespace plume {

// Numbers are internal: study lengths and radians. One of the two functions is set.
struct TableColumn {
    std::string name;
    Dimension dimension;
    std::function<double(std::size_t row)> number;
    std::function<std::string(std::size_t row)> text = {};
};

struct ValueTable {
    std::vector<TableColumn> columns;
    std::size_t row_count = 0;
    std::string rows_are;  // "points"
};

// The columns read `value`, which has to outlive them. Errors: wrong_kind (meshes and surfaces),
// nothing_to_write.
Result<ValueTable> table_of(const Value& value);

}  // namespace plume

#pragma once
// The body of a PLY file, element by element: a column for every property that is one number, and of one list
// the numbers of its entries.

#include "core/base/run.hpp"
#include "core/data/column.hpp"
#include "core/readers/ply_head.hpp"

namespace plume {

struct PlyRows {
    std::vector<Doubles> columns;  // by property; empty for lists
    // Of the list that was asked for: entries of row r are list[list_first[r]] .. list[list_first[r + 1] -
    // 1].
    std::vector<double> list;
    std::vector<std::size_t> list_first;
};

// In the order of the head; of element e the entries of the list `lists[e]` (an index of its properties, or
// none) are kept. Errors: file_damaged naming the element and row at which it ends or is no number;
// cancelled. Memory is taken for what is there, never for what the head claims.
Result<std::vector<PlyRows>> read_ply_body(std::string_view bytes, const PlyHead& head,
                                           const std::vector<std::size_t>& lists, const Run& run);

}  // namespace plume

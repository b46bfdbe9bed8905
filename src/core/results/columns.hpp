#pragma once
// A value as a table, for the readings, CSV, XLSX, `plume values` and its JSON. Points, numbers and
// directions on them, and placements have a row a point that is present; curves one a point they were made
// through, or a pole where there is none, or one a curve; surfaces one a pole; meshes one a vertex, a face
// where faces carry numbers, or a part where these are the same all over each; frames one a member, or one a
// node; attractors and single numbers one each.

#include <functional>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "core/data/value.hpp"
#include "core/study/part_story.hpp"

namespace plume {

// Numbers are internal: study lengths and radians. One of the functions number, text and list is set.
struct TableColumn {
    std::string name;
    Dimension dimension;
    std::function<double(std::size_t row)> number;
    std::function<std::string(std::size_t row)> text = {};
    bool whole = false;  // addresses and the like: shown without decimals
    bool idle = false;   // the same everywhere by the arrangement of what is told: of no interest to a reader
    // Several numbers in a cell: the angles between members at a node.
    std::function<std::vector<double>(std::size_t row)> list = {};
};

// As they stand in the cell of a file, to seven digits: "60 61.5 118.2".
std::string list_text(const std::vector<double>& numbers, double factor);

struct Table {
    std::vector<TableColumn> columns;
    std::size_t row_count = 0;
    std::string rows_are;  // "points"
    // Between rows and items (items.hpp): nothing where a row belongs to none, or the other way round.
    std::function<std::optional<std::size_t>(std::size_t row)> item_of_row = {};
    std::function<std::optional<std::size_t>(std::size_t item)> row_of_item = {};
    // Where rows are of something within an item: the vertex or the face a row is about, and the row of one.
    std::function<PartRef(std::size_t row)> part_of_row = {};
    std::function<std::optional<std::size_t>(PartRef part)> row_of_part = {};
};

// What rows a value can be told by, the usual ones first: "members", "nodes". At least one. Of meshes of
// parts O(faces).
std::vector<std::string> rows_of(const Value& value);

// In rows of one of these; of the first where it is empty.
//
// The columns read `value`, which has to outlive them, on one thread at a time: curves are measured when
// their rows are read. O(1) but for lattices with gaps, O(addresses), meshes of parts, O(corners), and
// curves, O(nodes).
Table columns_of(const Value& value, std::string_view rows = {});

}  // namespace plume

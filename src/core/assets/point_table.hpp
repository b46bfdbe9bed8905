#pragma once
// Points from tables of text: comma, semicolon, tab or space separated values with or without a header
// (RFC 4180 as far as it goes for numbers).
//
// The separator is found from the first lines; a comma is a decimal sign when semicolons or tabs separate.
// In a cell in quotes a comma is a decimal sign, too. UTF-8, or UTF-16 with a byte-order mark. Line ends may
// be mixed, # begins a comment. The header, if the first row has a cell that is no number, names the columns:
// x, y and z (or the first two or three) are coordinates, the rest are fields under the labels as they stand;
// a unit in brackets or behind a label, as in "height [mm]" or "x mm", is that of the column.

#include <string>
#include <string_view>
#include <vector>

#include "core/base/run.hpp"
#include "core/base/units.hpp"
#include "core/data/point_lattice.hpp"

namespace plume {

struct BadRow {
    std::size_t line = 0;  // from 1
    std::string why;
};

struct PointTable {
    PointLattice points;
    std::vector<BadRow> bad_rows;  // the first `most_listed` of them
    std::size_t bad_row_count = 0;
    // Rows with more cells than there are columns; what is beyond is not read.
    std::size_t long_row_count = 0, first_long_row = 0;
    static constexpr std::size_t most_listed = 20;
};

// A scatter of the rows that can be read; bare numbers are in the units. Errors: empty_input (no row at all,
// or none that can be read, naming the first); too_few columns as bad_number; cancelled. O(bytes).
Result<PointTable> read_point_table(std::string_view text, const Units& units, const Run& run);

// "Line 3: ‘abc’ is no number; line 7: has 2 of 3 columns; and 12 more" for remarks.
std::string bad_rows_text(const PointTable& table);

}  // namespace plume

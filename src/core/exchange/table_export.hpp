#pragma once
// Tables of values on their way into files.

#include <functional>

#include "core/exchange/export.hpp"
#include "core/results/columns.hpp"

namespace plume {

// The rows of a result, of what is wished for or usual, grouped as the job asks. Errors, which name the
// result: nothing_to_write; unknown_name, saying which there are.
Result<Table> rows_to_write(const ExportedResult& result, const std::string& rows, const ExportJob& job);

// Factor from internal units to the file's: lengths to their power, angles to the study's unit; and the unit.
double factor_of(Dimension dimension, const ExportJob& job);
std::string unit_of(Dimension dimension, const ExportJob& job);

// "48 members, 2 numbers that are not finite left out"
std::string table_report(const Table& table, std::size_t not_finite);

// Calls number(row, column, value), with values that are not finite left out, or text(row, column, text) for
// every cell, row by row, and end_row() behind each. How many were not finite. Error: cancelled.
struct CellWriter {
    std::function<void(std::size_t row, std::size_t column, double value)> number;
    std::function<void(std::size_t row, std::size_t column, const std::string& text)> text;
    std::function<void(std::size_t row)> end_row = [](std::size_t) {};
};
Result<std::size_t> for_each_cell(const Table& table, const ExportJob& job, const CellWriter& writer,
                                  const Run& run);

}  // namespace plume

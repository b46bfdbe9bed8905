#include "core/exchange/table_export.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/listed.hpp"
#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/results/grouped_table.hpp"

namespace plume {

namespace {

Result<Table> grouped(const Table& table, const std::string& by) {
    std::vector<std::string> names;
    for (std::size_t at = 0; at < table.columns.size(); ++at) {
        if (!makes_groups(table.columns[at])) continue;
        if (table.columns[at].name == by) return grouped_by(table, at);
        names.push_back(table.columns[at].name);
    }
    return Error{ErrorCode::unknown_name, "‘" + shortened(printable(by)) + "’",
                 "makes no groups of " + table.rows_are,
                 names.empty() ? "Nothing does." : "Choose " + listed(names) + "."};
}

Result<Table> found_rows(const Value& value, const std::string& rows, const std::string& group_by) {
    const std::vector<std::string> known = rows_of(value);
    if (!rows.empty() && std::ranges::find(known, rows) == known.end())
        return Error{ErrorCode::unknown_name, "‘" + shortened(printable(rows)) + "’", "are not its rows",
                     "Choose " + listed(known) + "."};
    Table table = columns_of(value, rows);
    if (table.row_count == 0)
        return Error{ErrorCode::nothing_to_write, "", "is empty",
                     "Choose a result that has something in it."};
    if (group_by.empty()) return table;
    return grouped(table, group_by);
}

}  // namespace

Result<Table> rows_to_write(const ExportedResult& result, const std::string& rows, const ExportJob& job) {
    Result<Table> table = found_rows(*result.value, rows, job.group_by);
    if (!table) return error_at(table.error(), "‘" + result.name + "’");
    return table;
}

double factor_of(Dimension dimension, const ExportJob& job) {
    return std::pow(job.scale(), dimension.length) * shown_per_internal(dimension, job.study_units);
}

std::string unit_of(Dimension dimension, const ExportJob& job) {
    return unit_text(dimension, {job.unit, job.study_units.angle});
}

std::string table_report(const Table& table, std::size_t not_finite) {
    const std::string count = grouped_text(static_cast<std::int64_t>(table.row_count));
    std::string what = count + (table.row_count == 1 ? " row of " : " ") + table.rows_are;
    if (not_finite > 0)
        what += ", " + grouped_text(static_cast<std::int64_t>(not_finite)) +
                " numbers that are not finite left out";
    return what;
}

Result<std::size_t> for_each_cell(const Table& table, const ExportJob& job, const CellWriter& writer,
                                  const Run& run) {
    std::vector<double> factors;
    for (const TableColumn& column : table.columns)
        factors.push_back(factor_of(column.dimension, job));
    std::size_t odd = 0;
    for (std::size_t row = 0; row < table.row_count; ++row) {
        if (row % 4096 == 0 && run.cancelled()) return cancelled_error();
        for (std::size_t at = 0; at < table.columns.size(); ++at) {
            const TableColumn& column = table.columns[at];
            if (!column.number) {
                writer.text(row, at,
                            column.text ? column.text(row) : list_text(column.list(row), factors[at]));
                continue;
            }
            const double value = column.number(row) * factors[at];
            odd += std::isfinite(value) ? 0 : 1;
            if (std::isfinite(value)) writer.number(row, at, value);
        }
        writer.end_row(row);
    }
    return odd;
}

}  // namespace plume

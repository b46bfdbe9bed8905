#include <cmath>
#include <nlohmann/json.hpp>

#include "core/base/numbers.hpp"
#include "core/exchange/formats.hpp"
#include "core/results/columns.hpp"

namespace plume {
namespace {

std::string quoted(const std::string& text) {
    if (text.find_first_of(",\"\r\n") == std::string::npos) return text;
    std::string result = "\"";
    for (const char c : text)
        result += c == '"' ? std::string("\"\"") : std::string(1, c);
    return result + '"';
}

// As a text of JSON.
std::string json_text(const std::string& text) {
    return nlohmann::json(text).dump(-1, ' ', false, nlohmann::json::error_handler_t::replace);
}

// Factor from internal units to the file's: lengths to their power, angles to the study's unit.
double factor_of(Dimension dimension, const ExportJob& job) {
    return std::pow(job.scale(), dimension.length) * shown_per_internal(dimension, job.study_units);
}

std::string unit_of(const TableColumn& column, const ExportJob& job) {
    return unit_text(column.dimension, {job.unit, job.study_units.angle});
}

std::string line_of(const std::vector<std::string>& cells) {
    std::string line;
    for (std::size_t at = 0; at < cells.size(); ++at)
        line += (at > 0 ? "," : "") + cells[at];
    return line;
}

// The rows of a value. Error: nothing_to_write.
Result<Table> rows_of(const Value& value) {
    Table table = columns_of(value);
    if (table.row_count > 0) return table;
    return Error{ErrorCode::nothing_to_write, "", "is empty", "Choose a result that has something in it."};
}

std::string report(const Table& table, std::size_t odd) {
    std::string what = grouped_text(static_cast<std::int64_t>(table.row_count)) + ' ' + table.rows_are;
    if (odd > 0)
        what += ", " + grouped_text(static_cast<std::int64_t>(odd)) + " numbers that are not finite left out";
    return what;
}

// Calls `put` with the cells of every row; returns how many numbers were not finite. Error: cancelled.
template <class Text, class Put>
Result<std::size_t> for_each_row(const Table& table, const ExportJob& job, const Run& run,
                                 const char* missing, Text text_of, Put put) {
    std::vector<double> factors;
    for (const TableColumn& column : table.columns)
        factors.push_back(factor_of(column.dimension, job));
    std::size_t odd = 0;
    std::vector<std::string> cells(table.columns.size());
    for (std::size_t row = 0; row < table.row_count; ++row) {
        if (row % 4096 == 0 && run.cancelled()) return cancelled_error();
        for (std::size_t at = 0; at < cells.size(); ++at) {
            const TableColumn& column = table.columns[at];
            if (column.text) {
                cells[at] = text_of(column.text(row));
                continue;
            }
            const double value = column.number(row) * factors[at];
            cells[at] = std::isfinite(value) ? exact_text(value) : missing;
            odd += std::isfinite(value) ? 0 : 1;
        }
        put(cells, row);
    }
    return odd;
}

}  // namespace

Result<std::string> write_csv(const ExportJob& job, const ByteSink& sink, const Run& run) {
    const auto table = rows_of(job.value);
    if (!table) return table.error();
    std::vector<std::string> titles;
    for (const TableColumn& column : table->columns) {
        const std::string unit = unit_of(column, job);
        titles.push_back(quoted(unit.empty() ? column.name : column.name + ' ' + unit));
    }
    sink(line_of(titles) + '\n');
    // The cell of a number that is not finite stays empty, which every reader takes for missing.
    const auto odd = for_each_row(*table, job, run, "", quoted,
                                  [&](const auto& cells, std::size_t) { sink(line_of(cells) + '\n'); });
    if (!odd) return odd.error();
    return report(*table, *odd);
}

Result<std::string> write_values_json(const ExportJob& job, const ByteSink& sink, const Run& run) {
    const auto table = rows_of(job.value);
    if (!table) return table.error();
    std::string head = "{\"result\": " + json_text(job.name) +
                       ", \"rows_are\": " + json_text(table->rows_are) + ",\n \"columns\": [";
    for (std::size_t at = 0; at < table->columns.size(); ++at)
        head += (at > 0 ? ", " : "") + ("{\"name\": " + json_text(table->columns[at].name)) +
                ", \"unit\": " + json_text(unit_of(table->columns[at], job)) + '}';
    sink(head + "],\n \"rows\": [");
    const auto odd =
        for_each_row(*table, job, run, "null", json_text, [&](const auto& cells, std::size_t row) {
            sink((row > 0 ? ",\n  [" : "\n  [") + line_of(cells) + ']');
        });
    if (!odd) return odd.error();
    sink("]}\n");
    return report(*table, *odd);
}

}  // namespace plume

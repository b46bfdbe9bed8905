#include <nlohmann/json.hpp>

#include "core/base/numbers.hpp"
#include "core/exchange/formats.hpp"
#include "core/exchange/table_export.hpp"

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

std::string line_of(const std::vector<std::string>& cells) {
    std::string line;
    for (std::size_t at = 0; at < cells.size(); ++at)
        line += (at > 0 ? "," : "") + cells[at];
    return line;
}

// Lines of cells, with `missing` for numbers that are not finite; how many those are. Error: cancelled.
template <class Text, class Put>
Result<std::size_t> for_each_line(const Table& table, const ExportJob& job, const Run& run,
                                  const char* missing, Text text_of, Put put) {
    std::vector<std::string> cells(table.columns.size(), missing);
    return for_each_cell(
        table, job,
        {[&](std::size_t, std::size_t column, double value) { cells[column] = exact_text(value); },
         [&](std::size_t, std::size_t column, const std::string& text) { cells[column] = text_of(text); },
         [&](std::size_t row) {
             put(line_of(cells), row);
             std::ranges::fill(cells, missing);
         }},
        run);
}

}  // namespace

Result<ExportReport> write_csv(const ExportJob& job, const ByteSink& sink, const Run& run) {
    const auto table = rows_to_write(job.results.front(), job.rows, job);
    if (!table) return table.error();
    std::vector<std::string> titles;
    for (const TableColumn& column : table->columns) {
        const std::string unit = unit_of(column.dimension, job);
        titles.push_back(quoted(unit.empty() ? column.name : column.name + ' ' + unit));
    }
    sink(line_of(titles) + '\n');
    // The cell of a number that is not finite stays empty, which every reader takes for missing.
    const auto odd = for_each_line(*table, job, run, "", quoted,
                                   [&](const std::string& line, std::size_t) { sink(line + '\n'); });
    if (!odd) return odd.error();
    return ExportReport{table_report(*table, *odd)};
}

Result<ExportReport> write_values_json(const ExportJob& job, const ByteSink& sink, const Run& run) {
    const auto table = rows_to_write(job.results.front(), job.rows, job);
    if (!table) return table.error();
    std::string head = "{\"result\": " + json_text(job.results.front().name) +
                       ", \"rows_are\": " + json_text(table->rows_are) + ",\n \"columns\": [";
    for (std::size_t at = 0; at < table->columns.size(); ++at)
        head += (at > 0 ? ", " : "") + ("{\"name\": " + json_text(table->columns[at].name)) +
                ", \"unit\": " + json_text(unit_of(table->columns[at].dimension, job)) + '}';
    sink(head + "],\n \"rows\": [");
    const auto odd = for_each_line(
        *table, job, run, "null", json_text,
        [&](const std::string& line, std::size_t row) { sink((row > 0 ? ",\n  [" : "\n  [") + line + ']'); });
    if (!odd) return odd.error();
    sink("]}\n");
    return ExportReport{table_report(*table, *odd)};
}

}  // namespace plume

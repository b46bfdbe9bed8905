#include "core/exchange/sheet_table.hpp"

#include <algorithm>

#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/exchange/table_export.hpp"

namespace plume {
namespace {

constexpr double letters = 2.5, row_height = 4.5, title_height = 8, cell_margin = 1.5, between_blocks = 6;

double text_width(const std::string& text) {
    PlanText shown{{}, text};
    shown.letters = letters;
    return text_width_mm(shown);
}

double block_width(const SheetTable& table) {
    double width = 0;
    for (const SheetTable::Column& column : table.columns)
        width += column.width;
    return width;
}
std::size_t block_count(const SheetTable& table) {
    return (table.row_count + table.rows_a_block - 1) / table.rows_a_block;
}

Status fill_cells(SheetTable& to, const Table& table, const ExportJob& job, const Run& run) {
    // Which column of the sheet's a column of the table is.
    std::vector<std::optional<std::size_t>> shown(table.columns.size());
    for (std::size_t at = 0; at < table.columns.size(); ++at) {
        const TableColumn& column = table.columns[at];
        if (column.idle) continue;
        const std::string unit = unit_of(column.dimension, job);
        shown[at] = to.columns.size();
        to.columns.push_back({column.name + (unit.empty() ? "" : " (" + unit + ")"), bool(column.number),
                              std::vector<std::string>(table.row_count), 0});
    }
    CellWriter writer;
    writer.number = [&](std::size_t row, std::size_t column, double value) {
        if (shown[column]) to.columns[*shown[column]].cells[row] = short_text(value, 5);
    };
    writer.text = [&](std::size_t row, std::size_t column, const std::string& text) {
        if (shown[column]) to.columns[*shown[column]].cells[row] = shortened(printable(text), 40);
    };
    const auto written = for_each_cell(table, job, writer, run);
    if (!written) return written.error();
    for (SheetTable::Column& column : to.columns) {
        double widest = text_width(column.head);
        for (const std::string& cell : column.cells)
            widest = std::max(widest, text_width(cell));
        column.width = widest + 2 * cell_margin;
    }
    return Done{};
}

Error no_room(const std::string& name, std::size_t rows, const DrawingJob& job) {
    return Error{ErrorCode::out_of_range, "",
                 "has a schedule of ‘" + name + "’ with " + count_text(rows, "row", "rows") +
                     ", which does not fit " + std::string(job.paper.name),
                 "Group its rows, choose larger paper, or give it as a table."};
}

}  // namespace

Result<SheetTable> sheet_table_of(const ExportedResult& result, const DrawingJob& job, SheetSize room,
                                  const Run& run) {
    constexpr std::size_t most_rows = 5000;
    ExportJob as_export{{result}, job.study_units, job.study_units.length};
    as_export.group_by = job.schedules_by;
    const auto table = rows_to_write(result, "", as_export);
    if (!table) return table.error();
    if (table->row_count > most_rows) return no_room(result.name, table->row_count, job);
    SheetTable made{result.name, {}, table->row_count};
    if (Status filled = fill_cells(made, *table, as_export, run); !filled) return filled.error();
    const double rows_height = room.height - title_height - row_height;
    made.rows_a_block =
        std::min(made.row_count, static_cast<std::size_t>(std::max(0.0, rows_height) / row_height));
    if (made.rows_a_block == 0 || size_of(made).width > room.width)
        return no_room(result.name, made.row_count, job);
    // Blocks as high as each other.
    const std::size_t blocks = block_count(made);
    made.rows_a_block = (made.row_count + blocks - 1) / blocks;
    return made;
}

SheetSize size_of(const SheetTable& table) {
    const auto blocks = static_cast<double>(block_count(table));
    return {block_width(table) * blocks + between_blocks * (blocks - 1),
            title_height + row_height * static_cast<double>(table.rows_a_block + 1)};
}

void add_table(PlanLayer& layer, const SheetTable& table, PaperPlace low) {
    const SheetSize size = size_of(table);
    const double top = low.y + size.height;
    PlanText title{{low.x, top - 4}, table.name};
    title.letters = 3.5;
    layer.texts.push_back(title);
    const auto add_cell = [&](const SheetTable::Column& column, double left, double base,
                              const std::string& text) {
        if (text.empty()) return;
        const double x =
            column.numbers ? left + column.width - cell_margin - text_width(text) : left + cell_margin;
        layer.texts.push_back({{x, base}, text});
    };
    double left = low.x;
    for (std::size_t block = 0; block < block_count(table); ++block) {
        const double width = block_width(table), head = top - title_height - row_height;
        layer.paths.push_back(sheet_line({left, head}, {left + width, head}, 0.35));
        double at = left;
        for (const SheetTable::Column& column : table.columns) {
            add_cell(column, at, head + 1.3, column.head);
            const std::size_t first = block * table.rows_a_block;
            for (std::size_t row = first; row < std::min(first + table.rows_a_block, table.row_count); ++row)
                add_cell(column, at, head - row_height * static_cast<double>(row - first + 1) + 1.3,
                         column.cells[row]);
            at += column.width;
        }
        const std::size_t rows = std::min(table.rows_a_block, table.row_count - block * table.rows_a_block);
        for (std::size_t row = 1; row <= rows; ++row) {
            const double base = head - row_height * static_cast<double>(row);
            layer.paths.push_back(sheet_line({left, base}, {left + width, base}, 0.13));
        }
        left += width + between_blocks;
    }
}

}  // namespace plume

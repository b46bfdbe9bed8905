#pragma once
// Tables of results as they stand on a sheet.

#include "core/exchange/drawing_sheet.hpp"

namespace plume {

struct SheetTable {
    std::string name;
    struct Column {
        std::string head;
        bool numbers = false;  // set to the right
        std::vector<std::string> cells;
        double width = 0;  // mm
    };
    std::vector<Column> columns;
    std::size_t row_count = 0;
    std::size_t rows_a_block = 0;  // longer ones are cut into blocks side by side
};

// Numbers to five digits in units of the study; what is not finite is left out. Errors: those of
// rows_to_write(); out_of_range where it has more rows or columns than `room` holds.
Result<SheetTable> sheet_table_of(const ExportedResult& result, const DrawingJob& job, SheetSize room,
                                  const Run& run);
SheetSize size_of(const SheetTable& table);
// From its lower left corner.
void add_table(PlanLayer& layer, const SheetTable& table, PaperPlace low);

}  // namespace plume

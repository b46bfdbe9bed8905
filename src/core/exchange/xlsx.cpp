// Office Open XML spreadsheets (ECMA-376), by libxlsxwriter, which writes files of its own: the sheet is made
// beside and handed on.

#include <xlsxwriter.h>

#include <algorithm>
#include <array>
#include <filesystem>
#include <set>

#include "core/base/file.hpp"
#include "core/base/small_letters.hpp"
#include "core/base/text.hpp"
#include "core/exchange/formats.hpp"
#include "core/exchange/passing_file.hpp"
#include "core/exchange/table_export.hpp"
#include "core/results/grouped_table.hpp"

namespace plume {
namespace {

constexpr std::size_t most_rows = LXW_ROW_MAX - 2, most_columns = LXW_COL_MAX;

// Sheet after sheet, each written from above. Closes what was begun, whatever happens on the way.
class Workbook {
public:
    explicit Workbook(const std::string& path) {
        lxw_workbook_options options{};
        options.constant_memory = LXW_TRUE;
        book_ = workbook_new_opt(path.c_str(), &options);
        if (!book_) return;
        // The same bytes for the same values.
        lxw_doc_properties properties{};
        properties.created = 946'684'800;
        workbook_set_properties(book_, &properties);
        head_ = workbook_add_format(book_);
        format_set_bold(head_);
        format_set_bottom(head_, LXW_BORDER_THIN);
        sum_ = workbook_add_format(book_);
        format_set_bold(sum_);
        format_set_top(sum_, LXW_BORDER_THIN);
    }
    ~Workbook() {
        if (book_) workbook_close(book_);
    }
    Workbook(const Workbook&) = delete;
    Workbook& operator=(const Workbook&) = delete;

    // Whether it can be written into.
    bool begin_sheet(const std::string& name) {
        sheet_ = book_ ? workbook_add_worksheet(book_, name.c_str()) : nullptr;
        return sheet_ != nullptr;
    }
    void head(std::size_t column, const std::string& title) {
        worksheet_set_column(sheet_, col(column), col(column),
                             std::max<double>(12, static_cast<double>(title.size()) + 3), nullptr);
        worksheet_write_string(sheet_, 0, col(column), title.c_str(), head_);
    }
    void number(std::size_t row, std::size_t column, double value) {
        worksheet_write_number(sheet_, row_of(row), col(column), value, nullptr);
    }
    void text(std::size_t row, std::size_t column, const std::string& text) {
        worksheet_write_string(sheet_, row_of(row), col(column), text.c_str(), nullptr);
    }
    // Of what a filter leaves.
    void sum(std::size_t rows, std::size_t column, double value) {
        std::array<char, 16> name{};
        lxw_col_to_name(name.data(), col(column), LXW_FALSE);
        const std::string formula =
            "=SUBTOTAL(109," + std::string(name.data()) + "2:" + name.data() + std::to_string(rows + 1) + ")";
        worksheet_write_formula_num(sheet_, row_of(rows), col(column), formula.c_str(), sum_, value);
    }
    void filter(std::size_t rows, std::size_t columns) {
        worksheet_freeze_panes(sheet_, 1, 0);
        worksheet_autofilter(sheet_, 0, 0, static_cast<lxw_row_t>(rows), col(columns - 1));
    }
    bool close() {
        const bool written = workbook_close(book_) == LXW_NO_ERROR;
        book_ = nullptr;
        return written;
    }

private:
    static lxw_col_t col(std::size_t column) { return static_cast<lxw_col_t>(column); }
    static lxw_row_t row_of(std::size_t row) { return static_cast<lxw_row_t>(row + 1); }

    lxw_workbook* book_ = nullptr;
    lxw_worksheet* sheet_ = nullptr;
    lxw_format *head_ = nullptr, *sum_ = nullptr;
};

// How many numbers were not finite. Error: cancelled.
Result<std::size_t> write_sheet(const Table& table, const ExportJob& job, Workbook& book, const Run& run) {
    for (std::size_t at = 0; at < table.columns.size(); ++at) {
        const std::string unit = unit_of(table.columns[at].dimension, job);
        book.head(at, unit.empty() ? table.columns[at].name : table.columns[at].name + ' ' + unit);
    }
    book.filter(table.row_count, table.columns.size());
    std::vector<double> sums(table.columns.size(), 0);
    auto odd = for_each_cell(
        table, job,
        {[&](std::size_t row, std::size_t column, double value) {
             book.number(row, column, value);
             sums[column] += value;
         },
         [&](std::size_t row, std::size_t column, const std::string& text) { book.text(row, column, text); }},
        run);
    if (!odd) return odd;
    for (std::size_t at = 0; at < table.columns.size(); ++at)
        if (adds_up(table.columns[at])) book.sum(table.row_count, at, sums[at]);
    return odd;
}

bool fits_a_sheet(const Table& table) {
    return table.row_count <= most_rows && table.columns.size() <= most_columns;
}

// Names of sheets have at most 31 characters, none of these, and are told apart without regard to case.
std::string sheet_name(const std::string& wanted, std::set<std::string>& taken) {
    constexpr std::size_t most = 31;
    std::string plain;
    for (const char c : printable(wanted))
        plain += std::string_view("[]:*?/\\'").find(c) == std::string_view::npos ? c : '_';
    for (int again = 1;; ++again) {
        const std::string end = again == 1 ? "" : ' ' + std::to_string(again);
        std::string name = clipped(plain, most - end.size()) + end;
        if (taken.insert(in_small_letters(name)).second) return name;
    }
}

class SheetWriter {
public:
    SheetWriter(const ExportJob& job, Workbook& book, const Run& run) : job_(job), book_(book), run_(run) {}

    // Sheets for what each rows there are, or for those that are wished for.
    Status write(const ExportedResult& result) {
        for (const std::string& rows : job_.rows.empty() ? rows_of(*result.value) : std::vector{job_.rows})
            if (Status written = write(result, rows); !written) return written;
        return Done{};
    }
    const std::string& report() const { return report_; }

private:
    Status write(const ExportedResult& result, const std::string& rows) {
        const auto table = rows_to_write(result, rows, job_);
        if (!table) return table.error();
        if (!fits_a_sheet(*table)) {
            if (report_.empty())
                return Error{ErrorCode::out_of_range, "‘" + result.name + "’",
                             "has more rows or columns than a sheet holds", "Write .csv, or keep fewer."};
            report_ += "; more " + table->rows_are + " than a sheet holds";
            return Done{};
        }
        const std::string name = job_.results.size() > 1 ? result.name + ' ' + rows : rows;
        if (!book_.begin_sheet(sheet_name(name, taken_))) return no_passing_file("The sheet");
        const auto odd = write_sheet(*table, job_, book_, run_);
        if (!odd) return odd.error();
        report_ += (report_.empty() ? "" : "; ") + table_report(*table, *odd);
        return Done{};
    }

    const ExportJob& job_;
    Workbook& book_;
    const Run& run_;
    std::set<std::string> taken_;
    std::string report_;
};

}  // namespace

Result<ExportReport> write_xlsx(const ExportJob& job, const ByteSink& sink, const Run& run) {
    const PassingFile file;
    if (file.path().empty()) return no_passing_file("The sheet");
    Workbook book(file.path());
    SheetWriter sheets(job, book, run);
    for (const ExportedResult& result : job.results)
        if (Status written = sheets.write(result); !written) return written.error();
    if (!book.close()) return no_passing_file("The sheet");
    const auto bytes = file.bytes();
    if (!bytes) return bytes.error();
    sink(*bytes);
    return ExportReport{sheets.report()};
}

}  // namespace plume

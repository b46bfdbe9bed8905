#include "core/assets/point_table.hpp"

#include <algorithm>
#include <array>
#include <limits>
#include <optional>

#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/base/unique_names.hpp"

namespace plume {
namespace {

std::string_view trimmed(std::string_view text) {
    const auto blank = [](char c) { return c == ' ' || c == '\t' || c == '"'; };
    while (!text.empty() && blank(text.front()))
        text.remove_prefix(1);
    while (!text.empty() && blank(text.back()))
        text.remove_suffix(1);
    return text;
}

// Lines, whatever ends them: LF, CR LF, or CR alone.
class Lines {
public:
    explicit Lines(std::string_view text) : rest_(text) {
        if (rest_.starts_with("\xef\xbb\xbf")) rest_.remove_prefix(3);
    }
    bool next(std::string_view& line) {
        if (rest_.empty()) return false;
        const std::size_t end = std::min(rest_.find_first_of("\r\n"), rest_.size());
        line = rest_.substr(0, end);
        std::size_t skip = end;
        if (skip < rest_.size()) skip += rest_.substr(skip, 2) == "\r\n" ? 2 : 1;
        rest_.remove_prefix(skip);
        ++number_;
        return true;
    }
    std::size_t number() const { return number_; }
    std::size_t bytes_left() const { return rest_.size(); }

private:
    std::string_view rest_;
    std::size_t number_ = 0;
};

bool counts(std::string_view line) {
    const std::string_view text = trimmed(line);
    return !text.empty() && text.front() != '#';
}

struct Dialect {
    char separator = ',';
    bool comma_decimal = false;
};

// The first of ; tab , that stands in the first row tells; only blanks otherwise.
Dialect dialect_of(std::string_view text) {
    Lines lines(text);
    std::string_view line;
    bool decimal_comma = false, found = false;
    Dialect dialect{' ', false};
    for (int row = 0; row < 20 && lines.next(line);) {
        if (!counts(line)) continue;
        ++row;
        for (const char separator : {';', '\t'})
            if (!found && line.find(separator) != std::string_view::npos) {
                dialect.separator = separator;
                found = true;
            }
        if (!found && line.find(',') != std::string_view::npos) {
            dialect.separator = ',';
            found = true;
        }
        if (line.find(',') != std::string_view::npos) decimal_comma = true;
    }
    dialect.comma_decimal = decimal_comma && dialect.separator != ',';
    return dialect;
}

// A cell and whether it stood in quotes, in which a comma is no separator but a decimal sign.
struct Cell {
    std::string_view text;
    bool quoted = false;
};

// The cell in quotes at the start of `line`, which goes on behind its separator; doubled quotes are left as
// they are, since no number has any.
Cell quoted_cell(std::string_view& line, char separator, bool& more) {
    std::size_t end = 1;
    while (end < line.size() && (line[end] != '"' || (end + 1 < line.size() && line[end + 1] == '"')))
        end += line[end] == '"' ? 2 : 1;
    const Cell cell{trimmed(line.substr(1, end - 1)), true};
    const std::size_t next = line.find(separator, std::min(end, line.size()));
    more = next != std::string_view::npos;
    if (more) line.remove_prefix(next + 1);
    return cell;
}

void split(std::string_view line, char separator, std::vector<Cell>& cells) {
    cells.clear();
    if (separator == ' ') {
        while (true) {
            const std::size_t begin = line.find_first_not_of(" \t");
            if (begin == std::string_view::npos) return;
            line.remove_prefix(begin);
            const std::size_t end = std::min(line.find_first_of(" \t"), line.size());
            cells.push_back({trimmed(line.substr(0, end)), false});
            line.remove_prefix(end);
        }
    }
    for (bool more = true; more;) {
        const std::size_t begin = line.find_first_not_of(" \t");
        if (begin != std::string_view::npos && line[begin] == '"') {
            line.remove_prefix(begin);
            cells.push_back(quoted_cell(line, separator, more));
            continue;
        }
        const std::size_t end = line.find(separator);
        cells.push_back({trimmed(line.substr(0, end)), false});
        more = end != std::string_view::npos;
        if (more) line.remove_prefix(end + 1);
    }
}

std::optional<double> number_of(const Cell& cell, bool comma_decimal) {
    if (!(comma_decimal || cell.quoted) || cell.text.find(',') == std::string_view::npos)
        return read_number(cell.text);
    std::string plain(cell.text);
    std::ranges::replace(plain, ',', '.');
    return read_number(plain);
}

struct TableColumn {
    std::string name;
    Dimension dimension;
    double factor = 1;
    Doubles values;
};

// "height [mm]" as a name and a unit.
TableColumn column_named(std::string_view cell, const Units& units) {
    TableColumn column;
    const std::size_t open = cell.find('['), close = cell.find(']');
    std::string_view unit;
    if (open != std::string_view::npos && close != std::string_view::npos && open < close) {
        unit = trimmed(cell.substr(open + 1, close - open - 1));
        cell = trimmed(cell.substr(0, open));
    }
    // As this program writes it: the unit behind the name.
    if (const std::size_t space = cell.rfind(' '); unit.empty() && space != std::string_view::npos) {
        const std::string_view last = cell.substr(space + 1);
        if (unit_quantity(last, units.length)) {
            unit = last;
            cell = trimmed(cell.substr(0, space));
        }
    }
    column.name = cell;
    if (const auto one = unit_quantity(unit, units.length)) {
        column.dimension = one->dimension;
        column.factor = one->value;
    }
    return column;
}

class Table {
public:
    Table(std::string_view text, const Units& units)
        : text_(text), units_(units), dialect_(dialect_of(text)) {}

    Status read(const Run& run) {
        Lines lines(text_);
        std::string_view line;
        std::vector<Cell> cells;
        while (lines.next(line)) {
            if ((lines.number() & 0xfffU) == 0) {
                if (run.cancelled()) return cancelled_error();
                run.report(1 - static_cast<double>(lines.bytes_left()) / static_cast<double>(text_.size()));
            }
            if (!counts(line)) continue;
            split(line, dialect_.separator, cells);
            if (columns_.empty()) {
                if (begin(cells)) continue;
                if (columns_.empty())
                    return Error{
                        ErrorCode::bad_number,
                        {},
                        "Line " + std::to_string(lines.number()) + " has one column, and points need x and y",
                        "Separate columns by commas, semicolons, tabs or spaces."};
            }
            add_row(cells, lines.number());
        }
        return Done{};
    }

    Result<PointTable> finish() && {
        if (columns_.empty() || columns_.front().values.empty()) {
            if (table_bad_ == 0)
                return Error{ErrorCode::empty_input, "", "There is no row of numbers",
                             "Add rows of x, y and z."};
            return Error{
                ErrorCode::empty_input, "",
                "No row can be read: line " + std::to_string(bad_.front().line) + " " + bad_.front().why,
                "Give every row numbers only."};
        }
        const std::size_t count = columns_.front().values.size();
        PointLattice::Parts parts;
        parts.arrangement = Arrangement::scatter;
        parts.counts = {count, 1, 1};
        const std::array<std::size_t, 3> axes = axes_of();
        const auto taken = [&](std::size_t axis) -> Column {
            if (axis < columns_.size()) return std::move(columns_[axis].values);
            Doubles zeros(count);
            std::ranges::fill(zeros, 0.0);
            return zeros;
        };
        parts.x = taken(axes[0]);
        parts.y = taken(axes[1]);
        parts.z = taken(axes[2]);
        UniqueNames names;
        for (std::size_t at = 0; at < columns_.size(); ++at) {
            if (std::ranges::find(axes, at) != axes.end()) continue;
            TableColumn& column = columns_[at];
            parts.fields.push_back({names.take(column.name), std::move(column.values), column.dimension});
        }
        Result<PointLattice> points = PointLattice::make(std::move(parts));
        if (!points) return points.error();
        return PointTable{*std::move(points), std::move(bad_), table_bad_, long_rows_, first_long_row_};
    }

private:
    // Sets the columns up from the first row; true when that was a header.
    bool begin(const std::vector<Cell>& cells) {
        if (cells.size() < 2) return false;
        const bool header = std::ranges::any_of(cells, [&](const Cell& cell) {
            return !cell.text.empty() && !number_of(cell, dialect_.comma_decimal);
        });
        // A first row that holds some numbers is a bad row, not a header.
        const bool numbers = std::ranges::any_of(
            cells, [&](const Cell& cell) { return number_of(cell, dialect_.comma_decimal).has_value(); });
        static constexpr std::array<const char*, 3> axis_names{"x", "y", "z"};
        for (std::size_t at = 0; at < cells.size(); ++at) {
            if (header && !numbers)
                columns_.push_back(column_named(cells[at].text, units_));
            else
                columns_.push_back({at < 3 ? axis_names[at] : "c" + std::to_string(at + 1), {}, 1, {}});
        }
        return header && !numbers;
    }

    // Which columns are x, y and z; columns_.size() for none.
    std::array<std::size_t, 3> axes_of() const {
        const auto named = [&](const char* small, const char* large) {
            for (std::size_t at = 0; at < columns_.size(); ++at)
                if (columns_[at].name == small || columns_[at].name == large) return at;
            return columns_.size();
        };
        const std::array<std::size_t, 3> axes{named("x", "X"), named("y", "Y"), named("z", "Z")};
        if (axes[0] < columns_.size() && axes[1] < columns_.size()) return axes;
        return {0, 1, 2};
    }

    void add_row(const std::vector<Cell>& cells, std::size_t line) {
        if (cells.size() < columns_.size())
            return bad(line, "has " + std::to_string(cells.size()) + " of " +
                                 std::to_string(columns_.size()) + " columns");
        row_.clear();
        for (std::size_t at = 0; at < columns_.size(); ++at) {
            const auto number = number_of(cells[at], dialect_.comma_decimal);
            if (!number)
                return bad(line, cells[at].text.empty()
                                     ? "has an empty cell in column ‘" + columns_[at].name + "’"
                                     : "has ‘" + clipped(cells[at].text, 40) + "’ where ‘" +
                                           columns_[at].name + "’ needs a number");
            row_.push_back(*number * columns_[at].factor);
        }
        for (std::size_t at = 0; at < columns_.size(); ++at)
            columns_[at].values.push_back(row_[at]);
        const auto beyond = cells.begin() + static_cast<std::ptrdiff_t>(columns_.size());
        if (std::any_of(beyond, cells.end(), [](const Cell& cell) { return !cell.text.empty(); }) &&
            long_rows_++ == 0)
            first_long_row_ = line;
    }

    void bad(std::size_t line, std::string why) {
        if (table_bad_++ < PointTable::most_listed) bad_.push_back({line, std::move(why)});
    }

    std::string_view text_;
    Units units_;
    Dialect dialect_;
    std::vector<TableColumn> columns_;
    std::vector<double> row_;
    std::vector<BadRow> bad_;
    std::size_t table_bad_ = 0, long_rows_ = 0, first_long_row_ = 0;
};

// UTF-16 with its byte-order mark (RFC 2781) as UTF-8; empty for anything else.
std::string from_utf16(std::string_view text) {
    const bool little = text.starts_with("\xff\xfe"), big = text.starts_with("\xfe\xff");
    std::string utf8;
    if (!little && !big) return utf8;
    const auto unit = [&](std::size_t at) {
        const auto first = static_cast<unsigned char>(text[at]),
                   second = static_cast<unsigned char>(text[at + 1]);
        return static_cast<std::uint32_t>(little ? first | second << 8 : first << 8 | second);
    };
    const auto put = [&](std::uint32_t code) {
        if (code < 0x80) {
            utf8 += static_cast<char>(code);
            return;
        }
        const int more = code < 0x800 ? 1 : code < 0x10000 ? 2 : 3;
        static constexpr std::array<std::uint32_t, 4> marks{0, 0xc0, 0xe0, 0xf0};
        utf8 += static_cast<char>(marks[static_cast<std::size_t>(more)] | code >> (6 * more));
        for (int at = more - 1; at >= 0; --at)
            utf8 += static_cast<char>(0x80U | (code >> (6 * at) & 0x3fU));
    };
    for (std::size_t at = 2; at + 1 < text.size(); at += 2) {
        std::uint32_t code = unit(at);
        const bool high = code >= 0xd800 && code < 0xdc00, low = code >= 0xdc00 && code < 0xe000;
        if (high && at + 3 < text.size() && (unit(at + 2) & 0xfc00U) == 0xdc00) {
            code = 0x10000 + ((code - 0xd800) << 10U) + (unit(at + 2) - 0xdc00);
            at += 2;
        } else if (high || low) {
            code = 0xfffd;  // half a pair
        }
        put(code);
    }
    return utf8;
}

}  // namespace

Result<PointTable> read_point_table(std::string_view text, const Units& units, const Run& run) {
    const std::string converted = from_utf16(text);
    if (!converted.empty()) text = converted;
    Table table(text, units);
    if (Status read = table.read(run); !read) return read.error();
    return std::move(table).finish();
}

std::string bad_rows_text(const PointTable& table) {
    constexpr std::size_t shown = 4;
    std::string text = grouped_text(static_cast<std::int64_t>(table.bad_row_count));
    text += table.bad_row_count == 1 ? " row was left out: " : " rows were left out: ";
    for (std::size_t at = 0; at < std::min(shown, table.bad_rows.size()); ++at) {
        if (at > 0) text += "; ";
        text += "line " + std::to_string(table.bad_rows[at].line) + " " + table.bad_rows[at].why;
    }
    if (table.bad_row_count > shown)
        text += "; and " + grouped_text(static_cast<std::int64_t>(table.bad_row_count - shown)) + " more";
    return text + ".";
}

}  // namespace plume

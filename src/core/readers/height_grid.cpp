#include "core/readers/height_grid.hpp"

#include <algorithm>
#include <cmath>
#include <limits>
#include <map>
#include <string>

#include "core/base/numbers.hpp"
#include "core/base/small_letters.hpp"
#include "core/base/text.hpp"
#include "core/readers/text_scan.hpp"

namespace plume {
namespace {

constexpr double nan = std::numeric_limits<double>::quiet_NaN();
// Heights are as many numbers in memory, whatever a cell of text took.
constexpr double most_cells = 2e9;

Error damaged(std::string what, std::string mend = "Get it anew, or mend its head.") {
    return {ErrorCode::file_damaged, "", std::move(what), std::move(mend)};
}

using Head = std::map<std::string, double, std::less<>>;

class GridReader {
public:
    GridReader(std::string_view text, const Run& run) : rest_(text), run_(run) {}

    Result<HeightGrid> read() {
        if (Status taken = take_head(); !taken) return taken.error();
        if (Status placed = place(); !placed) return placed.error();
        return take_heights();
    }

private:
    // Lines that begin with a word; the first that begins with a number is the first of heights.
    Status take_head() {
        while (true) {
            std::string_view line = rest_.substr(0, rest_.find_first_of("\r\n"));
            std::string key(take_word(line));
            if (key.empty() && rest_.size() > line.size() && !without_blanks(rest_).empty()) {
                rest_ = without_blanks(rest_);
                continue;
            }
            const bool letter =
                !key.empty() && ((key[0] >= 'a' && key[0] <= 'z') || (key[0] >= 'A' && key[0] <= 'Z'));
            if (!letter || key == "nan" || key == "NaN") return Done{};
            key = in_small_letters(key);
            const auto number = number_in<double>(take_word(line));
            if (!number || head_.size() > 32)
                return damaged("has no number behind ‘" + printable(shortened(key)) + "’ in its head");
            head_[key] = *number;
            rest_.remove_prefix(std::min(rest_.size(), rest_.find_first_of("\r\n")));
            rest_ = without_blanks(rest_);
        }
    }
    std::optional<double> said(std::string_view key) const {
        const auto found = head_.find(key);
        return found == head_.end() ? std::nullopt : std::optional(found->second);
    }

    Status place() {
        const double columns = said("ncols").value_or(nan), rows = said("nrows").value_or(nan);
        if (!(columns >= 1 && rows >= 1) || columns != std::floor(columns) || rows != std::floor(rows))
            return damaged("does not say its numbers of columns and rows (ncols, nrows)");
        // Each height takes at least a digit and a blank.
        if (columns * rows > most_cells || columns * rows > (static_cast<double>(rest_.size()) + 1) / 2)
            return damaged("says that it has " + short_text(columns, 10) + " × " + short_text(rows, 10) +
                               " heights, more than it has room for",
                           "Get it anew.");
        grid_.columns = static_cast<std::size_t>(columns);
        grid_.rows = static_cast<std::size_t>(rows);
        grid_.width = said("cellsize").value_or(said("dx").value_or(nan));
        grid_.depth = said("cellsize").value_or(said("dy").value_or(nan));
        if (!(grid_.width > 0 && grid_.depth > 0) || !std::isfinite(grid_.width) ||
            !std::isfinite(grid_.depth))
            return damaged("does not say the size of its cells (cellsize, or dx and dy)");
        const auto west = said("xllcenter"), west_rim = said("xllcorner"), south = said("yllcenter"),
                   south_rim = said("yllcorner");
        grid_.west = west ? *west : west_rim.value_or(0) + grid_.width / 2;
        grid_.south = south ? *south : south_rim.value_or(0) + grid_.depth / 2;
        if (!std::isfinite(grid_.west) || !std::isfinite(grid_.south))
            return damaged("lies at a place that is not finite");
        return Done{};
    }

    Result<HeightGrid> take_heights() {
        const double none = said("nodata_value").value_or(-9999);
        grid_.heights.assign(grid_.columns * grid_.rows, nan);
        std::size_t missing = 0;
        for (std::size_t row = grid_.rows; row-- > 0;) {
            for (std::size_t column = 0; column < grid_.columns; ++column) {
                const std::string_view word = take_word(rest_);
                const std::size_t done = (grid_.rows - 1 - row) * grid_.columns + column;
                const auto height = number_in<double>(word);
                if (!height)
                    return damaged(
                        (word.empty() ? std::string("ends") : "has ‘" + printable(shortened(word)) + "’") +
                            " after " + grouped_text(static_cast<std::int64_t>(done)) + " of " +
                            grouped_text(static_cast<std::int64_t>(grid_.heights.size())) + " heights",
                        "Get it anew.");
                const bool there = *height != none && std::isfinite(*height);
                missing += there ? 0 : 1;
                if (there) grid_.heights[row * grid_.columns + column] = *height;
            }
            if (run_.cancelled()) return cancelled_error();
            run_.report(1 - static_cast<double>(row) / static_cast<double>(grid_.rows));
        }
        if (missing == grid_.heights.size())
            return Error{ErrorCode::empty_input, "", "has no height at any place", "Choose another file."};
        if (!take_word(rest_).empty())
            grid_.losses.emplace_back("There is more behind the last height; it was left out.");
        return std::move(grid_);
    }

    std::string_view rest_;
    const Run& run_;
    Head head_;
    HeightGrid grid_;
};

}  // namespace

Result<HeightGrid> read_height_grid(std::string_view text, const Run& run) {
    if (without_blanks(text).empty())
        return Error{ErrorCode::empty_input, "", "is empty", "Choose another file."};
    return GridReader(without_blanks(text), run).read();
}

}  // namespace plume

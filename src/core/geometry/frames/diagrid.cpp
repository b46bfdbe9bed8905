#include "core/geometry/frames/diagrid.hpp"

#include <algorithm>
#include <cmath>
#include <functional>
#include <optional>

#include "core/base/numbers.hpp"
#include "core/base/text.hpp"

namespace plume {
namespace {

constexpr double whole_to = 1e-9;

std::optional<std::size_t> whole(double number) {
    const double rounded = std::round(number);
    if (!(std::abs(number - rounded) <= whole_to) || rounded < 0) return {};
    return static_cast<std::size_t>(rounded);
}

// The pattern in points and bays of the lattice: corners of a level stand 2 `half` apart, and `half` further
// at the next one, `step` rows on.
struct Layout {
    std::size_t columns = 0, rows = 0;  // points each way
    bool closed_i = false, closed_j = false;
    std::size_t bays_i = 0, bays_j = 0;
    std::size_t half = 0, step = 0, start = 0;

    std::size_t levels() const { return bays_j / step; }  // that are whole steps
    std::size_t rest() const { return bays_j % step; }    // rows beyond them
    std::size_t phase(std::size_t level) const { return (start + level * half) % (2 * half); }
    std::uint32_t index(std::size_t column, std::size_t row) const {
        return static_cast<std::uint32_t>(column + columns * (closed_j ? row % rows : row));
    }
    // So many columns to the right, or to the left; nothing beyond an open side.
    std::optional<std::size_t> beside(std::size_t column, std::ptrdiff_t by) const {
        const auto to = static_cast<std::ptrdiff_t>(column) + by;
        const auto count = static_cast<std::ptrdiff_t>(columns);
        if (closed_i) return static_cast<std::size_t>(((to % count) + count) % count);
        return to >= 0 && to < count ? std::optional(static_cast<std::size_t>(to)) : std::nullopt;
    }
    // Whether the last module, cut where the rows end, is cut at points.
    bool cuts_at_points(std::size_t with_step) const {
        return (half * (bays_j % with_step)) % with_step == 0 && bays_j >= with_step &&
               (!closed_j || bays_j % (2 * with_step) == 0);
    }
};

// "Type 8 or 12.", of numbers that fit on either side.
std::string mend(const std::optional<double>& below, const std::optional<double>& above,
                 const std::string& else_mend) {
    if (!below && !above) return else_mend;
    if (!below || !above || *below == *above) return "Type " + short_text(below ? *below : *above, 6) + ".";
    return "Type " + short_text(*below, 6) + " or " + short_text(*above, 6) + ".";
}

// The nearest numbers from `from` down to 1 and up to `most` that fit.
std::optional<double> first_that(std::size_t from, std::size_t most, std::ptrdiff_t way,
                                 const std::function<bool(std::size_t)>& fits,
                                 const std::function<double(std::size_t)>& told) {
    for (auto at = static_cast<std::ptrdiff_t>(from); at >= 1 && at <= static_cast<std::ptrdiff_t>(most);
         at += way)
        if (fits(static_cast<std::size_t>(at))) return told(static_cast<std::size_t>(at));
    return {};
}

Error not_even(std::string message, std::string mended, const char* slot) {
    return about_slot({ErrorCode::out_of_range, "", std::move(message), std::move(mended)}, slot);
}

Status set_around(Layout& layout, std::size_t around) {
    const std::size_t bays = layout.bays_i;
    if (layout.closed_i && around < 3)
        return not_even("are fewer than three round a closed row", "Type 3 or more.", "around");
    const auto fits = [&](std::size_t modules) {
        return bays % (2 * modules) == 0 && (!layout.closed_i || modules >= 3);
    };
    if (around > 0 && fits(around)) {
        layout.half = bays / (2 * around);
        return Done{};
    }
    const auto told = [](std::size_t modules) { return static_cast<double>(modules); };
    return not_even("do not come out even on " + count_text(bays, "bay", "bays") +
                        ": a module takes twice as many bays as its half",
                    mend(first_that(std::min(around, bays), bays, -1, fits, told),
                         first_that(std::max<std::size_t>(around, 1), bays, 1, fits, told),
                         "Give the rows an even number of bays."),
                    "around");
}

Status set_up(Layout& layout, double up) {
    const double step = static_cast<double>(layout.bays_j) / (2 * up);
    const auto wanted = whole(step);
    const auto fits = [&](std::size_t rows) { return layout.cuts_at_points(rows); };
    if (wanted && *wanted > 0 && fits(*wanted)) {
        layout.step = *wanted;
        return Done{};
    }
    const auto told = [&](std::size_t rows) {
        return static_cast<double>(layout.bays_j) / (2 * static_cast<double>(rows));
    };
    // The larger the step, the fewer modules.
    const auto from = static_cast<std::size_t>(std::clamp(step, 0.0, static_cast<double>(layout.bays_j)));
    return not_even("do not come out even on " + count_text(layout.bays_j, "bay", "bays") + " along j",
                    mend(first_that(from + 1, layout.bays_j, 1, fits, told),
                         first_that(std::max<std::size_t>(from, 1), layout.bays_j, -1, fits, told),
                         "Give the lattice an even number of bays along j."),
                    "up");
}

Status set_start(Layout& layout, double start) {
    const double bays = (start - std::floor(start)) * 2 * static_cast<double>(layout.half);
    if (!layout.closed_i && std::abs(bays) > whole_to &&
        std::abs(bays - static_cast<double>(layout.half)) > whole_to)
        return not_even("lets the sides cut modules between their corners", "Type 0 or 0.5.", "start");
    const auto wanted = whole(bays);
    if (!wanted) {
        const double unit = 1 / (2 * static_cast<double>(layout.half));
        const double below = std::floor(start / unit) * unit;
        return not_even("puts corners between points", mend(below, below + unit, ""), "start");
    }
    layout.start = *wanted;
    return Done{};
}

Result<Layout> layout_of(const PointLattice& lattice, const DiagridPattern& pattern) {
    const bool grid =
        lattice.arrangement() == Arrangement::grid || lattice.arrangement() == Arrangement::polar;
    if (!grid || lattice.counts()[2] > 1 || lattice.bays(0) < 2 || lattice.bays(1) < 1)
        return about_slot(Error{ErrorCode::wrong_kind, "",
                                "are " + arrangement_text(lattice) + ", and a diagrid takes a grid",
                                "Choose points in rows and columns."},
                          "points");
    Layout layout{lattice.counts()[0], lattice.counts()[1], lattice.closed(0),
                  lattice.closed(1),   lattice.bays(0),     lattice.bays(1)};
    if (Status fine = set_around(layout, pattern.around); !fine) return fine.error();
    if (Status fine = set_up(layout, pattern.up); !fine) return fine.error();
    if (Status fine = set_start(layout, pattern.start); !fine) return fine.error();
    return layout;
}

class Weaver {
public:
    Weaver(const PointLattice& lattice, const Layout& layout) : lattice_(lattice), layout_(layout) {
        members.reserve(2 * (layout.levels() + 1) * (layout.columns / (2 * layout.half) + 1));
    }

    std::vector<Member> members;

    // From the corners of a level to those of the next, `rows` further.
    void cross(std::size_t level, std::size_t rows) {
        const std::size_t row = level * layout_.step;
        const auto across = static_cast<std::ptrdiff_t>(layout_.half * rows / layout_.step);
        for (std::size_t at = layout_.phase(level); at < layout_.columns; at += 2 * layout_.half)
            for (const auto& [by, way] : {std::pair{across, Way::diagonal}, {-across, Way::counter}})
                if (const auto to = layout_.beside(at, by))
                    add(layout_.index(at, row), layout_.index(*to, row + rows), way, level);
    }
    void ring(std::size_t level) {
        std::vector<std::size_t> columns;
        for (std::size_t at = layout_.phase(level); at < layout_.columns; at += 2 * layout_.half)
            columns.push_back(at);
        join(columns, level * layout_.step, level);
    }
    // Where the rows end and cut the last modules.
    void cut_ring() {
        const std::size_t level = layout_.levels();
        const auto across = static_cast<std::ptrdiff_t>(layout_.half * layout_.rest() / layout_.step);
        std::vector<std::size_t> columns;
        for (std::size_t at = layout_.phase(level); at < layout_.columns; at += 2 * layout_.half)
            for (const std::ptrdiff_t by : {-across, across})
                if (const auto to = layout_.beside(at, by)) columns.push_back(*to);
        std::ranges::sort(columns);
        columns.erase(std::unique(columns.begin(), columns.end()), columns.end());
        join(columns, layout_.bays_j, level + 1);
    }
    // Corners on an open side, one above the other.
    void side(std::size_t column) {
        std::optional<std::size_t> below;
        for (std::size_t level = 0; level <= layout_.levels(); ++level) {
            if (layout_.phase(level) != 0) continue;
            const std::size_t row = level * layout_.step;
            if (below) add(layout_.index(column, *below), layout_.index(column, row), Way::along_j, column);
            below = row;
        }
    }

private:
    void add(std::uint32_t from, std::uint32_t to, Way way, std::size_t row) {
        if (!lattice_.present(from) || !lattice_.present(to)) return;
        members.push_back({from, to, way, static_cast<std::uint32_t>(row)});
    }
    void join(const std::vector<std::size_t>& columns, std::size_t row, std::size_t level) {
        for (std::size_t at = 0; at + 1 < columns.size(); ++at)
            add(layout_.index(columns[at], row), layout_.index(columns[at + 1], row), Way::along_i, level);
        if (layout_.closed_i && columns.size() > 2)
            add(layout_.index(columns.back(), row), layout_.index(columns.front(), row), Way::along_i, level);
    }

    const PointLattice& lattice_;
    const Layout& layout_;
};

void add_rings(const Layout& layout, DiagridRings rings, Weaver& weaver) {
    if (rings == DiagridRings::none) return;
    const std::size_t last = layout.levels();
    for (std::size_t level = 0; level <= last; ++level) {
        if (layout.closed_j && level == last) break;
        const bool rim = !layout.closed_j && (level == 0 || (level == last && layout.rest() == 0));
        const bool wanted =
            rings == DiagridRings::levels || (rings == DiagridRings::modules && level % 2 == 0) || rim;
        if (wanted) weaver.ring(level);
    }
    if (layout.rest() > 0) weaver.cut_ring();
    if (layout.closed_i) return;
    weaver.side(0);
    weaver.side(layout.columns - 1);
}

}  // namespace

Result<std::vector<Member>> diagrid_members(const PointLattice& lattice, const DiagridPattern& pattern,
                                            const Run& run) {
    const Result<Layout> layout = layout_of(lattice, pattern);
    if (!layout) return layout.error();
    Weaver weaver(lattice, *layout);
    for (std::size_t level = 0; level < layout->levels(); ++level) {
        if (run.cancelled()) return cancelled_error();
        weaver.cross(level, layout->step);
    }
    if (layout->rest() > 0) weaver.cross(layout->levels(), layout->rest());
    add_rings(*layout, pattern.rings, weaver);
    return std::move(weaver.members);
}

}  // namespace plume

#include "core/milling/rehearsal.hpp"

#include <algorithm>
#include <limits>
#include <numeric>

#include "core/base/numbers.hpp"
#include "core/base/parallel.hpp"
#include "core/base/text.hpp"
#include "core/milling/rehearsal_words.hpp"
#include "core/milling/surface_ways.hpp"

namespace plume {
namespace {

constexpr std::size_t most_places = 1000;

// Arcs in pieces that are true to a fiftieth of a cell.
double fine(const CellGrid& grid) {
    return grid.cell / 50;
}

Status cut_all(const ToolPath& path, const RehearsalJob& job, Rehearsal& made, const Run& run) {
    Vec3 at = path.start;
    for (std::size_t number = 0; number < path.moves.size(); ++number) {
        if (number % 4096 == 0) {
            if (run.cancelled()) return cancelled_error();
            run.report(static_cast<double>(number) / static_cast<double>(path.moves.size()));
        }
        const ToolMove& move = path.moves[number];
        const Cutter& cutter = job.cutters[std::min<std::size_t>(move.tool, job.cutters.size() - 1)];
        double taken = 0;
        for (const Vec3 place : places_along(at, move, fine(made.stock.grid()))) {
            taken = std::max(taken, made.stock.cut(cutter, at, place));
            made.below_board = std::max(made.below_board, -job.board.thickness - place.z);
            at = place;
        }
        if (move.form != ToolMove::Form::rapid || taken <= job.within) continue;
        if (made.rapid_cuts++ == 0) made.first_rapid_cut = move.line;
    }
    return Done{};
}

class Comparison {
public:
    Comparison(const RehearsalJob& job, Rehearsal& made) : job_(job), made_(made), grid_(made.stock.grid()) {}

    Status compare(const Run& run) {
        made_.form = form_heights(*job_.form, grid_);
        const double area = grid_.cell * grid_.cell;
        double sum = 0;
        std::size_t covered = 0;
        for (std::size_t cell = 0; cell < grid_.count(); ++cell) {
            if (made_.form.layers[cell] == 0) continue;
            const double left = left_at(cell);
            ++covered;
            sum += std::max(0.0, left);
            made_.most_left = std::max(made_.most_left, left);
            if (-left <= job_.within) continue;
            made_.most_too_deep = std::max(made_.most_too_deep, -left);
            made_.area_too_deep += area;
        }
        if (covered > 0) made_.mean_left = sum / static_cast<double>(covered);
        gather_places();
        return look_whether_too_tight(run);
    }

private:
    double form_height(std::size_t cell) const { return static_cast<double>(made_.form.heights[cell]); }
    // Upwards, times how much of the form's normal points up there.
    double left_at(std::size_t cell) const {
        const double upwards = static_cast<double>(made_.stock.heights()[cell]) - form_height(cell);
        return upwards / std::sqrt(1 + square(rise_at(cell, 1, cell % grid_.columns, grid_.columns)) +
                                   square(rise_at(cell, grid_.columns, cell / grid_.columns, grid_.rows)));
    }
    static double square(double value) { return value * value; }
    // Of the form between a cell's neighbours, where it is there; the less steep side of an edge.
    double rise_at(std::size_t cell, std::size_t step, std::size_t at, std::size_t count) const {
        const auto rise = [&](bool there, std::size_t low, std::size_t high) {
            if (!there || made_.form.layers[low] == 0 || made_.form.layers[high] == 0)
                return std::numeric_limits<double>::infinity();
            return std::abs(form_height(high) - form_height(low)) / grid_.cell;
        };
        const double least =
            std::min(rise(at > 0, cell - step, cell), rise(at + 1 < count, cell, cell + step));
        return std::isfinite(least) ? least : 0;
    }
    bool is_left(std::size_t cell) const {
        return made_.form.layers[cell] > 0 && left_at(cell) > job_.within;
    }

    void gather_places() {
        std::vector<std::uint8_t> seen(grid_.count(), 0);
        std::vector<std::size_t> waiting;
        for (std::size_t first = 0; first < grid_.count(); ++first) {
            if (seen[first] || !is_left(first)) continue;
            LeftPlace place;
            waiting.assign(1, first);
            seen[first] = 1;
            while (!waiting.empty()) {
                const std::size_t cell = waiting.back();
                waiting.pop_back();
                place.area += grid_.cell * grid_.cell;
                const std::size_t column = cell % grid_.columns, row = cell / grid_.columns;
                if (left_at(cell) > place.most) {
                    place.most = left_at(cell);
                    place.upwards = static_cast<double>(made_.stock.heights()[cell]) - form_height(cell);
                    place.worst = {grid_.x(column), grid_.y(row),
                                   static_cast<double>(made_.form.heights[cell])};
                }
                const auto look = [&](bool there, std::size_t other) {
                    if (!there || seen[other] || !is_left(other)) return;
                    seen[other] = 1;
                    waiting.push_back(other);
                };
                look(column > 0, cell - 1);
                look(column + 1 < grid_.columns, cell + 1);
                look(row > 0, cell - grid_.columns);
                look(row + 1 < grid_.rows, cell + grid_.columns);
            }
            made_.left.push_back(place);
        }
        made_.left_count = made_.left.size();
        std::ranges::stable_sort(made_.left, std::greater(), &LeftPlace::area);
        if (made_.left.size() > most_places) made_.left.resize(most_places);
    }

    // The lowest the last cutter leaves there, from wherever it comes.
    Status look_whether_too_tight(const Run& run) {
        if (made_.left.empty()) return Done{};
        // Steep places are looked at upwards, as the tip is.
        const Cutter& cutter = job_.cutters.back();
        const SurfaceWays ways(*job_.form, nullptr, 0, cutter, job_.within);
        const bool done = parallel_blocks(made_.left.size(), 8, run, [&](std::size_t begin, std::size_t end) {
            for (std::size_t place = begin; place < end; ++place)
                look_whether_too_tight(ways, made_.left[place]);
        });
        if (!done) return cancelled_error();
        return Done{};
    }
    void look_whether_too_tight(const SurfaceWays& ways, LeftPlace& place) const {
        constexpr int looks = 16;
        const Cutter& cutter = ways.cutter();
        double lowest = std::numeric_limits<double>::infinity();
        for (int i = -looks; i <= looks; ++i)
            for (int j = -looks; j <= looks; ++j) {
                const double x = cutter.radius * i / looks, y = cutter.radius * j / looks;
                const double distance = std::hypot(x, y);
                if (distance > cutter.radius) continue;
                const auto tip = ways.tip_at(place.worst.x + x, place.worst.y + y);
                if (tip) lowest = std::min(lowest, *tip + cutter.rise_at(distance));
            }
        place.too_tight = lowest - place.worst.z > std::max(job_.within / 2, place.upwards / 2);
    }

    const RehearsalJob& job_;
    Rehearsal& made_;
    const CellGrid& grid_;
};

}  // namespace

std::size_t Rehearsal::too_tight_count() const {
    return static_cast<std::size_t>(std::ranges::count(left, true, &LeftPlace::too_tight));
}

std::string Rehearsal::summary() const {
    std::vector<std::string> parts{duration_text(path.minutes * 60)};
    const std::size_t tight = too_tight_count(), standing = left_count - tight;
    if (!form.heights.empty() && left_count == 0)
        parts.push_back("within " + mm_text(std::max(most_left, most_too_deep)) + " of the form");
    if (left_count > left.size()) {
        parts.push_back("up to " + mm_text(most_left) + " left at " +
                        count_text(left_count, "place", "places") + ", " +
                        grouped_text(static_cast<std::int64_t>(tight)) + " of the largest " +
                        grouped_text(static_cast<std::int64_t>(left.size())) + " too tight for the cutter");
    } else if (tight > 0) {
        parts.push_back(count_text(tight, "place", "places") + " too tight for the cutter");
    }
    if (standing > 0 && left_count == left.size())
        parts.push_back("up to " + mm_text(most_left) + " left standing at " +
                        count_text(standing, "place", "places"));
    if (most_too_deep > 0 && area_too_deep > 0) parts.push_back("cut too deep by " + mm_text(most_too_deep));
    if (rapid_cuts > 0)
        parts.push_back(
            count_text(rapid_cuts, "rapid move cuts", "rapid moves cut") +
            (first_rapid_cut > 0 ? ", the first in line " + std::to_string(first_rapid_cut) : ""));
    if (below_board > 0) parts.push_back("cut " + mm_text(below_board) + " below the board");
    return with_dots(parts);
}

std::vector<std::string> Rehearsal::details() const {
    const auto metres = [](double length) { return short_text(length / 1000, 4) + " m"; };
    std::vector<std::string> lines;
    if (!form.heights.empty()) {
        lines.push_back("left standing up to " + mm_text(most_left) + ", " + mm_text(mean_left) +
                        " in the mean");
        lines.push_back(area_too_deep > 0 ? "cut too deep by up to " + mm_text(most_too_deep) + ", over " +
                                                short_text(area_too_deep / 100, 2) + " cm²"
                                          : "cut too deep nowhere");
        const std::size_t tight = too_tight_count();
        double area = 0;
        for (const LeftPlace& place : left)
            area += place.too_tight ? place.area : 0;
        if (tight > 0)
            lines.push_back("not reached: " + count_text(tight, "place", "places") + ", " +
                            short_text(area / 100, 2) + " cm²");
    }
    lines.push_back(count_text(move_count, "move", "moves") + ", " + metres(path.cutting) + " of cuts, " +
                    metres(path.rapid) + " between them");
    lines.push_back("deepest plunge " + mm_text(path.deepest_plunge));
    return lines;
}

Result<Rehearsal> rehearsed(const ToolPath& path, const RehearsalJob& job, const Run& run) {
    Rehearsal made{Stock(cells_over(0, 0, job.board.width, job.board.depth, job.about_cells), 0)};
    made.move_count = path.moves.size();
    made.path = figures_of(path, job.speeds);
    if (Status done = cut_all(path, job, made, run); !done) return done.error();
    if (job.form)
        if (Status done = Comparison(job, made).compare(run); !done) return done.error();
    return made;
}

}  // namespace plume

#include "core/geometry/surfaces/level_arcs.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>
#include <numeric>

#include "core/base/parallel.hpp"
#include "core/geometry/curves/spline_basis.hpp"
#include "core/geometry/surfaces/patch_edit.hpp"

namespace plume {
namespace {

constexpr int most_quarterings = 8;
constexpr std::size_t order = highest_degree + 1;
// Of the function's size: what is less is rounding.
constexpr double rounding = 1e-14;

using Line = std::array<double, order>;

// A polynomial over a stretch of the parameters, in Bernstein form: coefficient (a, b) at a + (p + 1) b.
struct Cell {
    std::size_t p = 0, q = 0;
    double u0 = 0, u1 = 1, v0 = 0, v1 = 1;
    std::array<double, order * order> at{};

    double& operator()(std::size_t a, std::size_t b) { return at[a + (p + 1) * b]; }
    double operator()(std::size_t a, std::size_t b) const { return at[a + (p + 1) * b]; }
};

// Halves a line at its middle (de Casteljau); `line` becomes its first half.
void halve(Line& line, std::size_t degree, Line& second) {
    for (std::size_t round = 0; round <= degree; ++round) {
        second[degree - round] = line[degree];
        for (std::size_t at = degree; at > round; --at)
            line[at] = (line[at] + line[at - 1]) / 2;
    }
}

// Every line of a cell that runs along a direction, halved.
std::pair<Cell, Cell> halves_along(const Cell& cell, int direction) {
    std::pair<Cell, Cell> halves{cell, cell};
    const bool along_u = direction == 0;
    if (along_u)
        halves.first.u1 = halves.second.u0 = std::midpoint(cell.u0, cell.u1);
    else
        halves.first.v1 = halves.second.v0 = std::midpoint(cell.v0, cell.v1);
    const std::size_t degree = along_u ? cell.p : cell.q, lines = along_u ? cell.q : cell.p;
    const std::size_t step = along_u ? 1 : cell.p + 1, next_line = along_u ? cell.p + 1 : 1;
    Line line{}, second{};
    for (std::size_t number = 0; number <= lines; ++number) {
        const std::size_t first = number * next_line;
        for (std::size_t at = 0; at <= degree; ++at)
            line[at] = cell.at[first + at * step];
        halve(line, degree, second);
        for (std::size_t at = 0; at <= degree; ++at) {
            halves.first.at[first + at * step] = line[at];
            halves.second.at[first + at * step] = second[at];
        }
    }
    return halves;
}

struct Value {
    double here = 0, slope = 0;
};
Value value_at(Line line, std::size_t degree, double t) {
    double slope = 0;
    for (std::size_t round = degree; round > 0; --round) {
        if (round == 1) slope = static_cast<double>(degree) * (line[1] - line[0]);
        for (std::size_t at = 0; at < round; ++at)
            line[at] += t * (line[at + 1] - line[at]);
    }
    return {line[0], slope};
}

// Zero counts as above.
bool is_below(double value) {
    return value < 0;
}

// Where a line changes its sign, of which its ends have different ones: Newton's steps, halved where they
// lead out.
double root_of(const Line& line, std::size_t degree) {
    constexpr int most_steps = 60;
    const bool rises = is_below(line[0]);
    double low = 0, high = 1;
    double t = line[0] / (line[0] - line[degree]);
    for (int step = 0; step < most_steps; ++step) {
        const Value value = value_at(line, degree, t);
        (is_below(value.here) == rises ? low : high) = t;
        const double next = t - value.here / value.slope;
        const double inside = next > low && next < high ? next : std::midpoint(low, high);
        if (std::abs(inside - t) <= 1e-15 || high - low <= 1e-15) return inside;
        t = inside;
    }
    return t;
}

class Arcs {
public:
    Arcs(double size, std::vector<LevelArc>& arcs) : hardly_(rounding * size), arcs_(arcs) {}

    void look_in(const Cell& cell, int quarterings) {
        const std::span coefficients(cell.at.data(), (cell.p + 1) * (cell.q + 1));
        if (std::ranges::none_of(coefficients, is_below) || std::ranges::all_of(coefficients, is_below))
            return;
        if (quarterings == most_quarterings || (keeps_sign(cell, 0) && keeps_sign(cell, 1)))
            return add_arcs(cell);
        const auto [left, right] = halves_along(cell, 0);
        for (const Cell& half : {left, right}) {
            const auto [near, far] = halves_along(half, 1);
            look_in(near, quarterings + 1);
            look_in(far, quarterings + 1);
        }
    }

private:
    // Of the slopes along a direction, that is: what rises by rounding alone does not.
    bool keeps_sign(const Cell& cell, int direction) const {
        const std::size_t next = direction == 0 ? 1 : cell.p + 1;
        const std::size_t columns = direction == 0 ? cell.p : cell.p + 1,
                          rows = direction == 0 ? cell.q + 1 : cell.q;
        bool rises = false, falls = false;
        for (std::size_t b = 0; b < rows; ++b)
            for (std::size_t a = 0; a < columns; ++a) {
                const std::size_t here = a + (cell.p + 1) * b;
                const double by = cell.at[here + next] - cell.at[here];
                rises = rises || by > hardly_;
                falls = falls || -by > hardly_;
            }
        return !(rises && falls);
    }

    // Places on the edges where corners are of different signs, anticlockwise from the first edge.
    void add_arcs(const Cell& cell) {
        std::array<LevelPlace, 4> places;
        std::size_t count = 0;
        const auto along_u = [&](std::size_t b, double v) {
            if (is_below(cell(0, b)) == is_below(cell(cell.p, b))) return;
            Line line{};
            for (std::size_t a = 0; a <= cell.p; ++a)
                line[a] = cell(a, b);
            places[count++] = {std::lerp(cell.u0, cell.u1, root_of(line, cell.p)), v};
        };
        const auto along_v = [&](std::size_t a, double u) {
            if (is_below(cell(a, 0)) == is_below(cell(a, cell.q))) return;
            Line line{};
            for (std::size_t b = 0; b <= cell.q; ++b)
                line[b] = cell(a, b);
            places[count++] = {u, std::lerp(cell.v0, cell.v1, root_of(line, cell.q))};
        };
        along_u(0, cell.v0);
        along_v(cell.p, cell.u1);
        along_u(cell.q, cell.v1);
        along_v(0, cell.u0);
        if (count == 2) arcs_.push_back({places[0], places[1]});
        if (count < 4) return;
        // A saddle: its middle says which corners hang together.
        const bool with_first = is_below(middle_of(cell)) == is_below(cell(0, 0));
        arcs_.push_back({places[0], places[with_first ? 1 : 3]});
        arcs_.push_back({places[with_first ? 3 : 1], places[2]});
    }
    static double middle_of(const Cell& cell) {
        const Cell corner = halves_along(halves_along(cell, 0).first, 1).first;
        return corner(corner.p, corner.q);
    }

    double hardly_;
    std::vector<LevelArc>& arcs_;
};

// Every knot as often as the degree: poles are Bernstein coefficients.
SplinePatch in_bernstein_form(SplinePatch patch) {
    for (const int direction : {0, 1}) {
        patch = changed(patch, direction, opened(basis_along(patch, direction)));
        const SplineBasis& basis = basis_along(patch, direction);
        std::vector<double> more;
        for (const double knot : knot_breaks(basis))
            more.insert(more.end(),
                        static_cast<std::size_t>(std::max(0, basis.degree - multiplicity_at(basis, knot))),
                        knot);
        patch = changed(patch, direction, refined(basis, std::move(more)));
    }
    return patch;
}

// The bays of the function, and of its weights where it is rational: what is zero at a level is its numerator
// less the level times its denominator.
class Bays {
public:
    explicit Bays(const SplinePatch& function)
        : patch_(in_bernstein_form(function)), u_(knot_breaks(patch_.u())), v_(knot_breaks(patch_.v())) {
        for (std::size_t pole = 0; pole < patch_.x().size(); ++pole)
            size_ = std::max(size_, std::abs(patch_.x()[pole]) * weight(pole));
    }
    std::size_t columns() const { return u_.size() - 1; }
    std::size_t rows() const { return v_.size() - 1; }
    double size() const { return size_; }

    std::pair<double, double> range(std::size_t column, std::size_t row) const {
        double least = std::numeric_limits<double>::infinity(), most = -least;
        for_each_pole(column, row, [&](std::size_t, std::size_t, std::size_t pole) {
            least = std::min(least, patch_.x()[pole]);
            most = std::max(most, patch_.x()[pole]);
        });
        return {least, most};
    }
    Cell cell(std::size_t column, std::size_t row, double level) const {
        Cell cell{static_cast<std::size_t>(patch_.u().degree),
                  static_cast<std::size_t>(patch_.v().degree),
                  u_[column],
                  u_[column + 1],
                  v_[row],
                  v_[row + 1],
                  {}};
        for_each_pole(column, row, [&](std::size_t a, std::size_t b, std::size_t pole) {
            cell(a, b) = (patch_.x()[pole] - level) * weight(pole);
        });
        return cell;
    }

private:
    double weight(std::size_t pole) const { return patch_.rational() ? patch_.weights()[pole] : 1; }
    template <class Each>
    void for_each_pole(std::size_t column, std::size_t row, const Each& each) const {
        const auto p = static_cast<std::size_t>(patch_.u().degree),
                   q = static_cast<std::size_t>(patch_.v().degree);
        for (std::size_t b = 0; b <= q; ++b)
            for (std::size_t a = 0; a <= p; ++a)
                each(a, b, column * p + a + patch_.u().pole_count() * (row * q + b));
    }

    SplinePatch patch_;
    std::vector<double> u_, v_;
    double size_ = 0;
};

}  // namespace

Result<LevelArcs> level_arcs(const SplinePatch& function, std::span<const double> levels, const Run& run) {
    const Bays bays(function);
    std::vector<LevelArcs> rows(bays.rows());
    const bool done = parallel_blocks(rows.size(), 1, run, [&](std::size_t begin, std::size_t end) {
        for (std::size_t row = begin; row < end; ++row) {
            rows[row].of.resize(levels.size());
            for (std::size_t column = 0; column < bays.columns(); ++column) {
                const auto [least, most] = bays.range(column, row);
                const double hardly = rounding * std::max(bays.size(), std::abs(most));
                auto level = std::ranges::lower_bound(levels, least - hardly);
                for (; level != levels.end() && *level <= most + hardly; ++level) {
                    if (most - least <= hardly) {
                        ++rows[row].level_bays;
                        continue;
                    }
                    const auto number = static_cast<std::size_t>(level - levels.begin());
                    Arcs(bays.size(), rows[row].of[number]).look_in(bays.cell(column, row, *level), 0);
                }
            }
        }
    });
    if (!done) return cancelled_error();
    LevelArcs all;
    all.of.resize(levels.size());
    for (LevelArcs& row : rows) {
        all.level_bays += row.level_bays;
        for (std::size_t level = 0; level < levels.size(); ++level)
            all.of[level].insert(all.of[level].end(), row.of[level].begin(), row.of[level].end());
    }
    return all;
}

}  // namespace plume

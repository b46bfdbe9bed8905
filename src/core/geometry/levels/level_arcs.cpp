#include "core/geometry/levels/level_arcs.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdint>
#include <limits>
#include <numeric>

#include "core/base/parallel.hpp"
#include "core/geometry/curves/spline_change.hpp"
#include "core/geometry/curves/spline_system.hpp"

namespace plume {
namespace {

constexpr int most_quarterings = 8;
// Of the function's size: what is less is rounding.
constexpr double rounding = 1e-14;
// Of the function's extent: coefficients as near to a level are at it, in the same way for all bays that
// share them. Where a surface was meant to be level, its ripples are no lines.
constexpr double at_level_share = 1e-10;

struct NumberedArc {
    LevelArc arc;
    std::uint32_t level = 0;
};

// Lines of a cell, of an order at least its degrees + 1: low degrees take little room.
template <std::size_t order>
using Line = std::array<double, order>;

// A polynomial over a stretch of the parameters, in Bernstein form: coefficient (a, b) at a + (p + 1) b.
// Those that are not there are not written.
template <std::size_t order>
struct Cell {
    std::size_t p, q;
    double u0, u1, v0, v1;
    std::array<double, order * order> at;

    double& operator()(std::size_t a, std::size_t b) { return at[a + (p + 1) * b]; }
    double operator()(std::size_t a, std::size_t b) const { return at[a + (p + 1) * b]; }
    std::span<const double> coefficients() const { return {at.data(), (p + 1) * (q + 1)}; }
    std::size_t degree(int direction) const { return direction == 0 ? p : q; }
    // From a coefficient to the next along a direction.
    std::size_t step(int direction) const { return direction == 0 ? 1 : p + 1; }
    // The number-th of the lines that run along a direction.
    Line<order> line(int direction, std::size_t number) const {
        Line<order> line;
        for (std::size_t a = 0; a <= degree(direction); ++a)
            line[a] = at[number * step(1 - direction) + a * step(direction)];
        return line;
    }
};

// Halves a line at its middle (de Casteljau); `line` becomes its first half.
template <std::size_t order>
void halve(Line<order>& line, std::size_t degree, Line<order>& second) {
    for (std::size_t round = 0; round <= degree; ++round) {
        second[degree - round] = line[degree];
        for (std::size_t at = degree; at > round; --at)
            line[at] = (line[at] + line[at - 1]) / 2;
    }
}

// Every line of a cell that runs along a direction, halved.
template <std::size_t order>
std::pair<Cell<order>, Cell<order>> halves_along(const Cell<order>& cell, int direction) {
    std::pair<Cell<order>, Cell<order>> halves{cell, cell};
    if (direction == 0)
        halves.first.u1 = halves.second.u0 = std::midpoint(cell.u0, cell.u1);
    else
        halves.first.v1 = halves.second.v0 = std::midpoint(cell.v0, cell.v1);
    const std::size_t degree = cell.degree(direction), step = cell.step(direction);
    for (std::size_t number = 0; number <= cell.degree(1 - direction); ++number) {
        const std::size_t first = number * cell.step(1 - direction);
        Line<order> line = cell.line(direction, number), second;
        halve<order>(line, degree, second);
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
template <std::size_t order>
Value value_at(Line<order> line, std::size_t degree, double t) {
    for (std::size_t round = degree; round > 1; --round)
        for (std::size_t at = 0; at < round; ++at)
            line[at] += t * (line[at + 1] - line[at]);
    const double by = line[1] - line[0];
    return {line[0] + t * by, static_cast<double>(degree) * by};
}

// Zero counts as above.
bool is_below(double value) {
    return value < 0;
}

// Where a line changes its sign, of which its ends have different ones: Newton's steps, halved where they
// lead out. A step so short that its square is nothing is the last.
template <std::size_t order>
double root_of(const Line<order>& line, std::size_t degree) {
    constexpr int most_steps = 60;
    constexpr double short_step = 1e-8;
    const bool rises = is_below(line[0]);
    double low = 0, high = 1;
    // An end that is nothing but rounding says nothing about where the sign changes.
    const double guess = line[0] / (line[0] - line[degree]);
    double t = guess > 1e-3 && guess < 1 - 1e-3 ? guess : 0.5;
    for (int step = 0; step < most_steps; ++step) {
        const Value value = value_at<order>(line, degree, t);
        (is_below(value.here) == rises ? low : high) = t;
        const double next = t - value.here / value.slope;
        const bool leads_out = !(next >= low && next <= high);
        if (!leads_out && std::abs(next - t) <= short_step) return next;
        t = leads_out ? std::midpoint(low, high) : next;
        if (high - low <= std::numeric_limits<double>::epsilon()) break;
    }
    return t;
}

template <std::size_t order>
class Arcs {
public:
    Arcs(double size, std::uint32_t level, std::vector<NumberedArc>& arcs)
        : hardly_(rounding * size), level_(level), arcs_(arcs) {}

    void look_in(const Cell<order>& cell, int quarterings) {
        const std::span coefficients = cell.coefficients();
        const auto below = std::ranges::count_if(coefficients, is_below);
        if (below == 0 || static_cast<std::size_t>(below) == coefficients.size()) return;
        if (quarterings == most_quarterings || is_simple(cell)) return add_arcs(cell);
        const auto [left, right] = halves_along(cell, 0);
        for (const Cell<order>* half : {&left, &right}) {
            const auto [near, far] = halves_along(*half, 1);
            look_in(near, quarterings + 1);
            look_in(far, quarterings + 1);
        }
    }

private:
    // Where one slope keeps its sign, the level is a graph over the other parameter: no loop, and on the two
    // edges square to that at most one place. On the other two there is at most one where their coefficients
    // change their sign once (Descartes' rule).
    bool is_simple(const Cell<order>& cell) const {
        for (const int direction : {0, 1})
            if (keeps_sign(cell, direction) &&
                changes(cell.line(1 - direction, 0), cell.degree(1 - direction)) <= 1 &&
                changes(cell.line(1 - direction, cell.degree(direction)), cell.degree(1 - direction)) <= 1)
                return true;
        return false;
    }
    static int changes(const Line<order>& line, std::size_t degree) {
        int count = 0;
        for (std::size_t at = 0; at < degree; ++at)
            count += is_below(line[at]) != is_below(line[at + 1]) ? 1 : 0;
        return count;
    }
    // Of the slopes along a direction, that is: what rises by rounding alone does not.
    bool keeps_sign(const Cell<order>& cell, int direction) const {
        const std::size_t next = cell.step(direction);
        const std::size_t columns = direction == 0 ? cell.p : cell.p + 1,
                          rows = direction == 0 ? cell.q + 1 : cell.q;
        double most = 0, least = 0;
        for (std::size_t b = 0; b < rows; ++b)
            for (std::size_t a = 0; a < columns; ++a) {
                const std::size_t here = a + (cell.p + 1) * b;
                const double by = cell.at[here + next] - cell.at[here];
                most = std::max(most, by);
                least = std::min(least, by);
            }
        return !(most > hardly_ && -least > hardly_);
    }

    // Places on the edges where corners are of different signs, anticlockwise from the first edge.
    void add_arcs(const Cell<order>& cell) {
        std::array<LevelPlace, 4> places;
        std::size_t count = 0;
        const auto look_along = [&](int direction, bool far) {
            const std::size_t degree = cell.degree(direction);
            const Line<order> line = cell.line(direction, far ? cell.degree(1 - direction) : 0);
            if (is_below(line[0]) == is_below(line[degree])) return;
            const double share = root_of<order>(line, degree);
            places[count++] = direction == 0
                                  ? LevelPlace{std::lerp(cell.u0, cell.u1, share), far ? cell.v1 : cell.v0}
                                  : LevelPlace{far ? cell.u1 : cell.u0, std::lerp(cell.v0, cell.v1, share)};
        };
        look_along(0, false);
        look_along(1, true);
        look_along(0, true);
        look_along(1, false);
        if (count == 2) add(places[0], places[1]);
        if (count < 4) return;
        const bool with_second = second_is_next(cell, places);
        add(places[0], places[with_second ? 1 : 3]);
        add(places[with_second ? 3 : 1], places[2]);
    }
    void add(LevelPlace from, LevelPlace to) { arcs_.push_back({{from, to}, level_}); }

    // Of places on all four edges. A graph over v comes to that of two edges first that is lower; one over u
    // likewise. Where neither slope keeps its sign there is a saddle: its middle says which corners hang
    // together.
    bool second_is_next(const Cell<order>& cell, const std::array<LevelPlace, 4>& places) const {
        if (keeps_sign(cell, 0)) return places[1].v < places[3].v;
        if (keeps_sign(cell, 1)) return places[0].u > places[2].u;
        return is_below(middle_of(cell)) == is_below(cell(0, 0));
    }
    static double middle_of(const Cell<order>& cell) {
        const Cell<order> corner = halves_along(halves_along(cell, 0).first, 1).first;
        return corner(corner.p, corner.q);
    }

    double hardly_;
    std::uint32_t level_;
    std::vector<NumberedArc>& arcs_;
};

// The bays of the function in Bernstein form, and of its weights where it is rational: what is zero at a
// level is its numerator less the level times its denominator. Coefficients of v lie side by side.
class Bays {
public:
    explicit Bays(const SplinePatch& function)
        : u_(in_bernstein_form(function.u())),
          v_(in_bernstein_form(function.v())),
          u_breaks_(knot_breaks(u_.basis)),
          v_breaks_(knot_breaks(v_.basis)) {
        Doubles numbers(function.x().size());
        for (std::size_t pole = 0; pole < numbers.size(); ++pole)
            numbers[pole] = function.x()[pole] * (function.rational() ? function.weights()[pole] : 1);
        numbers_ = coefficients(numbers, function.u().pole_count());
        if (function.rational())
            weights_ = coefficients({function.weights().span().begin(), function.weights().span().end()},
                                    function.u().pole_count());
        for (const double number : numbers_)
            size_ = std::max(size_, std::abs(number));
        const auto [least, most] = std::ranges::minmax(numbers_);
        at_level_ = at_level_share * (most - least);
    }
    std::size_t columns() const { return u_breaks_.size() - 1; }
    std::size_t rows() const { return v_breaks_.size() - 1; }
    double size() const { return size_; }
    int highest() const { return std::max(u_.basis.degree, v_.basis.degree); }

    std::pair<double, double> range(std::size_t column, std::size_t row) const {
        double least = std::numeric_limits<double>::infinity(), most = -least;
        for_each_coefficient(column, row, [&](std::size_t, std::size_t, std::size_t at) {
            const double value = weights_.empty() ? numbers_[at] : numbers_[at] / weights_[at];
            least = std::min(least, value);
            most = std::max(most, value);
        });
        return {least, most};
    }
    template <std::size_t order>
    Cell<order> cell(std::size_t column, std::size_t row, double level) const {
        Cell<order> cell;
        cell.p = static_cast<std::size_t>(u_.basis.degree);
        cell.q = static_cast<std::size_t>(v_.basis.degree);
        cell.u0 = u_breaks_[column];
        cell.u1 = u_breaks_[column + 1];
        cell.v0 = v_breaks_[row];
        cell.v1 = v_breaks_[row + 1];
        for_each_coefficient(column, row, [&](std::size_t a, std::size_t b, std::size_t at) {
            const double apart = numbers_[at] - (weights_.empty() ? level : level * weights_[at]);
            cell(a, b) = std::abs(apart) <= at_level_ ? 0 : apart;
        });
        return cell;
    }

private:
    Doubles coefficients(const Doubles& poles, std::size_t count_u) const {
        const Doubles along_v = changed_rows(v_, poles, count_u);
        return changed_rows(u_, transposed(along_v, count_u, v_.poles.size(), 1), v_.poles.size());
    }
    template <class Each>
    void for_each_coefficient(std::size_t column, std::size_t row, const Each& each) const {
        const auto p = static_cast<std::size_t>(u_.basis.degree),
                   q = static_cast<std::size_t>(v_.basis.degree);
        for (std::size_t a = 0; a <= p; ++a)
            for (std::size_t b = 0; b <= q; ++b)
                each(a, b, row * q + b + v_.poles.size() * (column * p + a));
    }

    SplineChange u_, v_;
    std::vector<double> u_breaks_, v_breaks_;
    Doubles numbers_, weights_;
    double size_ = 0, at_level_ = 0;
};

struct ArcsOfRow {
    std::vector<NumberedArc> arcs;
    std::size_t level_bays = 0;
};

template <std::size_t order>
ArcsOfRow arcs_of_row(const Bays& bays, std::size_t row, std::span<const double> levels) {
    ArcsOfRow made;
    for (std::size_t column = 0; column < bays.columns(); ++column) {
        const auto [least, most] = bays.range(column, row);
        const double hardly = rounding * std::max(bays.size(), std::abs(most));
        auto level = std::ranges::lower_bound(levels, least - hardly);
        for (; level != levels.end() && *level <= most + hardly; ++level) {
            if (most - least <= hardly) {
                ++made.level_bays;
                continue;
            }
            const auto number = static_cast<std::uint32_t>(level - levels.begin());
            Arcs<order>(bays.size(), number, made.arcs).look_in(bays.cell<order>(column, row, *level), 0);
        }
    }
    return made;
}

// One list a level, in the order of rows.
std::vector<std::vector<LevelArc>> by_level(const std::vector<ArcsOfRow>& rows, std::size_t levels) {
    std::vector<std::size_t> counts(levels, 0);
    for (const ArcsOfRow& row : rows)
        for (const NumberedArc& arc : row.arcs)
            ++counts[arc.level];
    std::vector<std::vector<LevelArc>> of(levels);
    for (std::size_t level = 0; level < levels; ++level)
        of[level].reserve(counts[level]);
    for (const ArcsOfRow& row : rows)
        for (const NumberedArc& arc : row.arcs)
            of[arc.level].push_back(arc.arc);
    return of;
}

}  // namespace

Result<LevelArcs> level_arcs(const SplinePatch& function, std::span<const double> levels, const Run& run) {
    const Bays bays(function);
    constexpr std::size_t low = 4, high = highest_degree + 1;
    const auto arcs_of = bays.highest() < static_cast<int>(low) ? arcs_of_row<low> : arcs_of_row<high>;
    std::vector<ArcsOfRow> rows(bays.rows());
    const bool done = parallel_blocks(rows.size(), 1, run, [&](std::size_t begin, std::size_t end) {
        for (std::size_t row = begin; row < end; ++row)
            rows[row] = arcs_of(bays, row, levels);
    });
    if (!done) return cancelled_error();
    LevelArcs all{by_level(rows, levels.size()), 0};
    for (const ArcsOfRow& row : rows)
        all.level_bays += row.level_bays;
    return all;
}

}  // namespace plume

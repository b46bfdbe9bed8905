#include "core/geometry/curves/spline_change.hpp"

#include <algorithm>
#include <cmath>
#include <numeric>

namespace plume {
namespace {

// Whether two knots are one but for rounding.
bool same_knot(double a, double b, double period) {
    return std::abs(a - b) <= 1e-13 * std::max({std::abs(a), std::abs(b), period});
}

// The blossom at `degree` arguments of the polynomial around a parameter of the domain.
PoleSum blossom(const SplineBasis& basis, double around, std::vector<double> arguments) {
    const auto degree = static_cast<std::size_t>(basis.degree);
    if (basis.closed) {
        const double shift = std::floor((around - basis.start()) / range_of(basis)) * range_of(basis);
        if (shift != 0 && around != basis.end()) {
            around -= shift;
            for (double& argument : arguments)
                argument -= shift;
        }
    }
    const std::size_t span = span_at(basis, std::clamp(around, basis.start(), basis.end()));
    const std::vector<double>& knots = basis.knots;
    PoleSum sum{span - degree, std::vector<double>(degree + 1, 0)};
    sum.shares[0] = 1;
    for (std::size_t order = 1; order <= degree; ++order) {
        const double t = arguments[order - 1];
        double saved = 0;
        for (std::size_t r = 0; r < order; ++r) {
            const double right = knots[span + r + 1], left = knots[span + 1 + r - order];
            const double share = sum.shares[r] / (right - left);
            sum.shares[r] = saved + (right - t) * share;
            saved = (t - left) * share;
        }
        sum.shares[order] = saved;
    }
    return sum;
}

// The knots behind the start up to the end, as often as they stand there: what a closed direction repeats.
std::vector<double> round_of_knots(const SplineBasis& basis) {
    const auto degree = static_cast<std::ptrdiff_t>(basis.degree);
    return {basis.knots.begin() + degree + 1,
            basis.knots.begin() + static_cast<std::ptrdiff_t>(basis.pole_count()) + 1};
}

SplineBasis closed_basis(const std::vector<double>& round, double start, int degree) {
    SplineBasis basis;
    basis.degree = degree;
    basis.closed = true;
    const auto count = static_cast<std::ptrdiff_t>(round.size());
    const double period = round.back() - start;
    const auto knot = [&](std::ptrdiff_t index) {
        const std::ptrdiff_t turns = index >= 0 ? index / count : -((-index + count - 1) / count);
        return round[static_cast<std::size_t>(index - turns * count)] + static_cast<double>(turns) * period;
    };
    for (std::ptrdiff_t index = -degree - 1; index < count + degree; ++index)
        basis.knots.push_back(knot(index));
    // Rounding must not move the ends of the domain, nor what is repeated beyond them to their other side.
    for (std::size_t before = 0; before < static_cast<std::size_t>(degree); ++before)
        basis.knots[before] = std::min(basis.knots[before], start);
    basis.knots[static_cast<std::size_t>(degree)] = start;
    for (std::size_t behind = basis.pole_count(); behind < basis.knots.size(); ++behind)
        basis.knots[behind] = std::max(basis.knots[behind], round.back());
    return basis;
}

SplineBasis open_basis(const std::vector<double>& inner, double start, double end, int degree) {
    SplineBasis basis;
    basis.degree = degree;
    basis.knots.assign(static_cast<std::size_t>(degree) + 1, start);
    basis.knots.insert(basis.knots.end(), inner.begin(), inner.end());
    basis.knots.insert(basis.knots.end(), static_cast<std::size_t>(degree) + 1, end);
    return basis;
}

// The knots between which a pole of a basis stands: its blossom's arguments.
std::vector<double> arguments_of(const SplineBasis& basis, std::size_t pole) {
    const auto from = basis.knots.begin() + static_cast<std::ptrdiff_t>(pole) + 1;
    return {from, from + basis.degree};
}

double mean_of(const std::vector<double>& numbers) {
    return std::accumulate(numbers.begin(), numbers.end(), 0.0) / static_cast<double>(numbers.size());
}

// Every pole of a new basis of the same degree.
SplineChange same_degree(const SplineBasis& old, SplineBasis basis) {
    SplineChange change{std::move(basis), {}};
    for (std::size_t pole = 0; pole < change.basis.pole_count(); ++pole) {
        std::vector<double> arguments = arguments_of(change.basis, pole);
        const double around = std::clamp(mean_of(arguments), change.basis.start(), change.basis.end());
        change.poles.push_back(blossom(old, around, std::move(arguments)));
    }
    return change;
}

void repeat_first(SplineChange& change) {
    if (!change.basis.closed) return;
    const std::size_t distinct = change.basis.pole_count() - static_cast<std::size_t>(change.basis.degree);
    for (std::size_t pole = distinct; pole < change.poles.size(); ++pole)
        change.poles[pole] = change.poles[pole - distinct];
}

PoleSum blended(const std::vector<PoleSum>& sums) {
    PoleSum mean;
    std::size_t last = 0;
    mean.first = sums.front().first;
    for (const PoleSum& sum : sums) {
        mean.first = std::min(mean.first, sum.first);
        last = std::max(last, sum.first + sum.shares.size());
    }
    mean.shares.assign(last - mean.first, 0);
    for (const PoleSum& sum : sums)
        for (std::size_t a = 0; a < sum.shares.size(); ++a)
            mean.shares[sum.first - mean.first + a] += sum.shares[a] / static_cast<double>(sums.size());
    return mean;
}

// Each knot once more.
std::vector<double> doubled_once(const std::vector<double>& knots) {
    std::vector<double> more;
    for (std::size_t index = 0; index < knots.size(); ++index) {
        more.push_back(knots[index]);
        if (index + 1 == knots.size() || knots[index + 1] != knots[index]) more.push_back(knots[index]);
    }
    return more;
}

SplineChange raised_once(const SplineBasis& old) {
    const auto degree = static_cast<std::size_t>(old.degree);
    SplineBasis basis;
    if (old.closed) {
        basis = closed_basis(doubled_once(round_of_knots(old)), old.start(), old.degree + 1);
    } else {
        const std::vector<double> inner(old.knots.begin() + old.degree + 1,
                                        old.knots.begin() + static_cast<std::ptrdiff_t>(old.pole_count()));
        basis = open_basis(doubled_once(inner), old.start(), old.end(), old.degree + 1);
    }
    basis.nodes = old.nodes;
    SplineChange change{std::move(basis), {}};
    for (std::size_t pole = 0; pole < change.basis.pole_count(); ++pole) {
        const std::vector<double> all = arguments_of(change.basis, pole);
        const double around = std::clamp(mean_of(all), old.start(), old.end());
        std::vector<PoleSum> sums;
        for (std::size_t without = 0; without <= degree; ++without) {
            std::vector<double> arguments = all;
            arguments.erase(arguments.begin() + static_cast<std::ptrdiff_t>(without));
            sums.push_back(blossom(old, around, std::move(arguments)));
        }
        change.poles.push_back(blended(sums));
    }
    repeat_first(change);
    return change;
}

// `second` of the poles that `first` makes.
SplineChange chained(const SplineChange& first, SplineChange second) {
    for (PoleSum& pole : second.poles) {
        PoleSum through;
        std::size_t last = 0;
        through.first = first.poles[pole.first].first;
        for (std::size_t a = 0; a < pole.shares.size(); ++a) {
            const PoleSum& old = first.poles[pole.first + a];
            through.first = std::min(through.first, old.first);
            last = std::max(last, old.first + old.shares.size());
        }
        through.shares.assign(last - through.first, 0);
        for (std::size_t a = 0; a < pole.shares.size(); ++a) {
            const PoleSum& old = first.poles[pole.first + a];
            for (std::size_t b = 0; b < old.shares.size(); ++b)
                through.shares[old.first - through.first + b] += pole.shares[a] * old.shares[b];
        }
        pole = std::move(through);
    }
    return second;
}

SplineChange unchanged(const SplineBasis& basis) {
    SplineChange change{basis, {}};
    for (std::size_t pole = 0; pole < basis.pole_count(); ++pole)
        change.poles.push_back({pole, {1}});
    return change;
}

}  // namespace

SplineChange refined(const SplineBasis& basis, std::vector<double> more) {
    std::ranges::sort(more);
    std::vector<double> round = round_of_knots(basis);
    if (!basis.closed) round.resize(round.size() - 1);  // without the end
    const double period = range_of(basis);
    const auto before = [&](double a, double b) { return a < b && !same_knot(a, b, period); };
    for (const double knot : more) {
        const auto same = [&](double other) { return same_knot(knot, other, period); };
        const auto [twin, behind] = std::equal_range(round.begin(), round.end(), knot, before);
        const auto stands = behind - twin;
        const bool at_end = same(basis.start()) || same(basis.end());
        if (knot < basis.start() || knot > basis.end() || stands >= basis.degree || (at_end && !basis.closed))
            continue;
        // A closed direction's start is its end.
        const double exact = stands > 0 ? *twin : at_end ? basis.end() : knot;
        if (at_end && std::ranges::count(round, basis.end()) >= basis.degree) continue;
        round.insert(std::ranges::upper_bound(round, at_end ? basis.end() : exact),
                     at_end ? basis.end() : exact);
    }
    SplineBasis finer = basis.closed ? closed_basis(round, basis.start(), basis.degree)
                                     : open_basis(round, basis.start(), basis.end(), basis.degree);
    finer.nodes = basis.nodes;
    SplineChange change = same_degree(basis, std::move(finer));
    repeat_first(change);
    return change;
}

SplineChange raised(const SplineBasis& basis, int degree) {
    SplineChange change = basis.closed ? unchanged(basis) : opened(basis);
    while (change.basis.degree < std::min(degree, highest_degree))
        change = chained(change, raised_once(change.basis));
    return change;
}

namespace {

// A knot where one is hardly apart: a piece of no length between the two would have no shape of its own.
double snapped(const SplineBasis& basis, double parameter) {
    const double period = range_of(basis);
    const double turn = basis.closed && parameter > basis.end() ? period : 0;
    const auto next = std::ranges::lower_bound(basis.knots, parameter - turn);
    for (const auto knot : {next, next == basis.knots.begin() ? next : next - 1})
        if (knot != basis.knots.end() && std::abs(*knot + turn - parameter) <= knots_hardly_apart * period)
            return *knot + turn;
    return parameter;
}

}  // namespace

SplineChange part_of(const SplineBasis& basis, double from, double to) {
    const double period = range_of(basis);
    from = snapped(basis, from);
    to = std::max(snapped(basis, to), from + knots_hardly_apart * period);
    std::vector<double> inner;
    const std::vector<double> round = round_of_knots(basis);
    for (const double turn : {0.0, period}) {
        for (const double knot : round) {
            const double moved = knot + turn;
            const bool at_end = same_knot(moved, from, period) || same_knot(moved, to, period);
            if (moved > from && moved < to && !at_end) inner.push_back(moved);
        }
        if (!basis.closed) break;
    }
    SplineBasis part = open_basis(inner, from, to, basis.degree);
    if (!basis.nodes.empty()) {
        part.nodes.push_back(from);
        for (const double turn : {0.0, period})
            for (const double node : basis.nodes)
                if (node + turn > part.nodes.back() && node + turn < to && (turn == 0 || basis.closed))
                    part.nodes.push_back(node + turn);
        part.nodes.push_back(to);
    }
    return same_degree(basis, std::move(part));
}

SplineChange opened(const SplineBasis& basis) {
    SplineChange change = part_of(basis, basis.start(), basis.end());
    if (!basis.closed) change.basis.nodes = basis.nodes;
    return change;
}

SplineChange in_bernstein_form(const SplineBasis& basis) {
    const std::vector<double> breaks = knot_breaks(basis);
    const auto degree = static_cast<std::size_t>(basis.degree);
    std::vector<double> inner;
    for (std::size_t bay = 1; bay + 1 < breaks.size(); ++bay)
        inner.insert(inner.end(), degree, breaks[bay]);
    SplineChange change{open_basis(inner, breaks.front(), breaks.back(), basis.degree), {}};
    for (std::size_t bay = 0; bay + 1 < breaks.size(); ++bay)
        for (std::size_t pole = bay == 0 ? 0 : 1; pole <= degree; ++pole) {
            std::vector<double> arguments(degree, breaks[bay]);
            std::fill_n(arguments.begin(), pole, breaks[bay + 1]);
            change.poles.push_back(
                blossom(basis, std::midpoint(breaks[bay], breaks[bay + 1]), std::move(arguments)));
        }
    return change;
}

SplineChange reversed(const SplineBasis& basis) {
    SplineChange change{basis, {}};
    const double mirror = basis.start() + basis.end();
    for (std::size_t knot = 0; knot < basis.knots.size(); ++knot)
        change.basis.knots[knot] = mirror - basis.knots[basis.knots.size() - 1 - knot];
    // The ends stay what they are, to the last digit.
    for (double& knot : change.basis.knots)
        knot = same_knot(knot, basis.start(), range_of(basis)) ? basis.start()
               : same_knot(knot, basis.end(), range_of(basis)) ? basis.end()
                                                               : knot;
    change.basis.nodes.clear();
    for (const double node : basis.nodes) {
        // The first point of a closed one stands at its start, whichever way round.
        const double other = basis.closed && node == basis.start() ? node : mirror - node;
        change.basis.nodes.push_back(other);
    }
    std::ranges::sort(change.basis.nodes);
    for (std::size_t pole = 0; pole < basis.pole_count(); ++pole)
        change.poles.push_back({basis.pole_count() - 1 - pole, {1}});
    return change;
}

SplineBasis closed_at_seam(const SplineBasis& basis) {
    std::vector<double> round = round_of_knots(basis);
    while (std::ranges::count(round, basis.end()) < basis.degree)
        round.push_back(basis.end());
    SplineBasis closed = closed_basis(round, basis.start(), basis.degree);
    closed.nodes = basis.nodes;
    if (!closed.nodes.empty()) closed.nodes.pop_back();
    return closed;
}

SplineBasis over_domain(SplineBasis basis, double start, double end) {
    const double old_start = basis.start(), old_end = basis.end();
    const double scale = (end - start) / (old_end - old_start);
    const auto moved = [&](double t) {
        if (t == old_start) return start;
        return t == old_end ? end : start + (t - old_start) * scale;
    };
    for (double& knot : basis.knots)
        knot = moved(knot);
    for (double& node : basis.nodes)
        node = moved(node);
    return basis;
}

int multiplicity_at(const SplineBasis& basis, double parameter) {
    const double period = range_of(basis);
    const auto before = std::ranges::partition_point(
        basis.knots, [&](double knot) { return knot < parameter && !same_knot(knot, parameter, period); });
    const auto behind = std::ranges::find_if_not(
        before, basis.knots.end(), [&](double knot) { return same_knot(knot, parameter, period); });
    return static_cast<int>(behind - before);
}

Doubles changed_rows(const SplineChange& change, const Doubles& rows, std::size_t width) {
    Doubles made(change.poles.size() * width);
    for (std::size_t pole = 0; pole < change.poles.size(); ++pole) {
        const PoleSum& sum = change.poles[pole];
        for (std::size_t channel = 0; channel < width; ++channel) {
            double value = 0;
            for (std::size_t a = 0; a < sum.shares.size(); ++a)
                value += sum.shares[a] * rows[(sum.first + a) * width + channel];
            made[pole * width + channel] = value;
        }
    }
    return made;
}

}  // namespace plume

#include "core/geometry/surfaces/interlaced_grid.hpp"

#include <algorithm>
#include <cmath>
#include <optional>

#include "core/base/parallel.hpp"
#include "core/geometry/curves/spline_basis.hpp"
#include "core/geometry/curves/spline_system.hpp"

namespace plume {
namespace {

// One row of a triangular lattice or one column of a honeycomb: where its points stand, in bays.
struct Line {
    std::vector<double> at;
    std::vector<std::size_t> addresses;
};

struct Lines {
    std::vector<Line> lines;
    std::vector<double> all;  // where any of them has a point
    bool closed = false;
    double period = 0;
    bool along_i = true;
};

Error gap_at(Address at) {
    return {ErrorCode::has_gaps, "",
            "A smooth skin needs every point of the lattice, and there is a gap at i " +
                std::to_string(at.i) + ", j " + std::to_string(at.j),
            "Use flat facets, which leave the gaps open."};
}

// Points of a triangular lattice stand half a bay further in odd rows; those of a honeycomb a sixth of a row
// up or down, by turns.
double place_of(const PointLattice& lattice, Address at) {
    if (lattice.arrangement() == Arrangement::triangular)
        return static_cast<double>(at.i) + (at.j % 2 == 1 ? 0.5 : 0);
    return static_cast<double>(at.j) + ((at.i + at.j) % 2 == 0 ? 1.0 / 6 : -1.0 / 6);
}

std::vector<double> all_places(const Lines& lines) {
    std::vector<double> all;
    for (std::size_t line = 0; line < std::min<std::size_t>(lines.lines.size(), 4); ++line)
        all.insert(all.end(), lines.lines[line].at.begin(), lines.lines[line].at.end());
    std::ranges::sort(all);
    // Places are told apart by sixths of a bay.
    all.erase(std::unique(all.begin(), all.end(), [](double a, double b) { return b - a < 0.1; }), all.end());
    return all;
}

Result<Lines> lines_of(const PointLattice& lattice) {
    Lines result;
    result.along_i = lattice.arrangement() == Arrangement::triangular;
    const std::size_t count = lattice.counts()[result.along_i ? 1 : 0],
                      length = lattice.counts()[result.along_i ? 0 : 1];
    result.closed = lattice.closed(result.along_i ? 0 : 1);
    result.period = static_cast<double>(length);
    for (std::size_t number = 0; number < count; ++number) {
        Line line;
        for (std::size_t step = 0; step < length; ++step) {
            const Address at = result.along_i ? Address{step, number, 0} : Address{number, step, 0};
            const std::size_t index = lattice.index(at);
            if (!lattice.present(index)) {
                // A line may end a point earlier than others; further it would be guessed.
                if (step > 0 && step + 1 < length) return gap_at(at);
                continue;
            }
            if (!is_finite(lattice.point(index)))
                return Error{ErrorCode::not_finite, "",
                             "The point at i " + std::to_string(at.i) + ", j " + std::to_string(at.j) +
                                 " is not finite",
                             "Look at the step that moves it."};
            line.at.push_back(place_of(lattice, at));
            line.addresses.push_back(index);
        }
        if (result.closed && line.at.size() < length)
            return gap_at(result.along_i ? Address{0, number, 0} : Address{number, 0, 0});
        if (line.at.size() < (result.closed ? 3 : 2))
            return Error{ErrorCode::too_few_points, "", "A smooth skin needs longer rows",
                         "Add bays, or use flat facets."};
        result.lines.push_back(std::move(line));
    }
    result.all = all_places(result);
    return result;
}

// Over all places of all lines, whichever this one has points at.
SplineBasis basis_over(const Line& line, const Lines& lines) {
    if (lines.closed) {
        std::vector<double> nodes = line.at;
        nodes.push_back(nodes.front() + lines.period);
        return cubic_basis(std::move(nodes), true);
    }
    SplineBasis basis = cubic_basis(line.at, false);
    const auto ends = static_cast<std::ptrdiff_t>(basis.degree) + 1;
    std::fill(basis.knots.begin(), basis.knots.begin() + ends, std::min(line.at.front(), lines.all.front()));
    std::fill(basis.knots.end() - ends, basis.knots.end(), std::max(line.at.back(), lines.all.back()));
    return basis;
}

std::vector<const Column*> columns_of(const PointLattice& lattice) {
    std::vector<const Column*> columns{&lattice.x(), &lattice.y(), &lattice.z()};
    for (const Field& field : lattice.fields()) {
        bool finite = true;
        for (std::size_t index = 0; index < lattice.address_count(); ++index)
            finite = finite && (!lattice.present(index) || std::isfinite(field.values[index]));
        if (finite) columns.push_back(&field.values);
    }
    return columns;
}

// The numbers of one line at all places, place after place.
Result<Doubles> filled_in(const Line& line, const Lines& lines, const std::vector<const Column*>& columns) {
    const SplineBasis basis = basis_over(line, lines);
    const auto solver = collocation(basis, "smooth skin");
    if (!solver) return solver.error();
    const std::size_t width = columns.size();
    Doubles rows(line.at.size() * width);
    for (std::size_t point = 0; point < line.at.size(); ++point)
        for (std::size_t channel = 0; channel < width; ++channel)
            rows[point * width + channel] = (*columns[channel])[line.addresses[point]];
    const Doubles given = rows;
    solver->solve(rows.data(), width);
    const Doubles poles = wrapped_poles(rows, basis, width);
    Doubles filled(lines.all.size() * width, 0.0);
    std::size_t own = 0;
    for (std::size_t place = 0; place < lines.all.size(); ++place) {
        double at = lines.all[place];
        // Its own points to the last digit.
        if (own < line.at.size() && std::abs(line.at[own] - at) < 0.1) {
            std::copy_n(given.begin() + static_cast<std::ptrdiff_t>(own * width), width,
                        filled.begin() + static_cast<std::ptrdiff_t>(place * width));
            ++own;
            continue;
        }
        if (lines.closed) at += at < basis.start() ? lines.period : at >= basis.end() ? -lines.period : 0;
        const BasisAt there = basis_at(basis, at);
        for (std::size_t a = 0; a <= static_cast<std::size_t>(basis.degree); ++a)
            for (std::size_t channel = 0; channel < width; ++channel)
                filled[place * width + channel] +=
                    there.values[a] * poles[(there.first + a) * width + channel];
    }
    return filled;
}

}  // namespace

bool is_interlaced(const PointLattice& lattice) {
    return lattice.arrangement() == Arrangement::triangular ||
           lattice.arrangement() == Arrangement::hexagonal;
}

Result<EvenedGrid> evened_grid(const PointLattice& lattice, const Run& run) {
    const auto lines = lines_of(lattice);
    if (!lines) return lines.error();
    const std::vector<const Column*> columns = columns_of(lattice);
    const std::size_t places = lines->all.size(), count = lines->lines.size(), width = columns.size();
    std::vector<Doubles> filled(width, Doubles(places * count));
    std::vector<std::optional<Error>> errors(count);
    const bool done = parallel_blocks(count, 16, run, [&](std::size_t begin, std::size_t end) {
        for (std::size_t number = begin; number < end; ++number) {
            const auto line = filled_in(lines->lines[number], *lines, columns);
            if (!line) {
                errors[number] = line.error();
                continue;
            }
            for (std::size_t place = 0; place < places; ++place) {
                const std::size_t index = lines->along_i ? place + places * number : number + count * place;
                for (std::size_t channel = 0; channel < width; ++channel)
                    filled[channel][index] = (*line)[place * width + channel];
            }
        }
    });
    if (!done) return cancelled_error();
    for (const auto& error : errors)
        if (error) return *error;
    PointLattice::Parts parts;
    parts.counts = lines->along_i ? std::array<std::size_t, 3>{places, count, 1}
                                  : std::array<std::size_t, 3>{count, places, 1};
    parts.closed = {lattice.closed(0), lattice.closed(1), false};
    parts.x = std::move(filled[0]);
    parts.y = std::move(filled[1]);
    parts.z = std::move(filled[2]);
    std::size_t channel = 3;
    for (const Field& field : lattice.fields())
        if (channel < width && columns[channel] == &field.values)
            parts.fields.push_back({field.name, std::move(filled[channel++]), field.dimension});
    auto grid = PointLattice::make(std::move(parts));
    if (!grid) return grid.error();
    EvenedGrid evened{*std::move(grid), std::vector<std::size_t>(lattice.address_count(), 0)};
    for (std::size_t number = 0; number < count; ++number) {
        const Line& line = lines->lines[number];
        for (std::size_t point = 0; point < line.at.size(); ++point) {
            const auto place = static_cast<std::size_t>(
                std::ranges::lower_bound(lines->all, line.at[point] - 0.1) - lines->all.begin());
            evened.own[line.addresses[point]] =
                lines->along_i ? place + places * number : number + count * place;
        }
    }
    return evened;
}

}  // namespace plume

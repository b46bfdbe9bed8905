#include "core/geometry/curves/spline_system.hpp"

#include <algorithm>

#include "core/geometry/curves/spline_basis.hpp"

namespace plume {

SplineBasis cubic_basis(std::vector<double> parameters, bool closed) {
    const double end = parameters.back();
    if (closed) parameters.pop_back();
    const int degree = closed ? 3 : std::min(3, static_cast<int>(parameters.size()) - 1);
    return interpolating_basis(std::move(parameters), degree, closed, end);
}

SplineBasis straight_basis(std::vector<double> parameters, bool closed) {
    SplineBasis basis;
    basis.degree = 1;
    basis.closed = closed;
    basis.knots = parameters;
    basis.knots.insert(basis.knots.begin(), parameters.front());
    basis.knots.push_back(parameters.back());
    if (closed) parameters.pop_back();
    basis.nodes = std::move(parameters);
    return basis;
}

Result<BandedSolver> collocation(const SplineBasis& basis, const std::string& what) {
    const std::size_t count = basis.nodes.size();
    const auto degree = static_cast<std::size_t>(basis.degree);
    // Closed: the cubic at a knot touches the poles one before to one after its own row once rows are shifted
    // by one pole, so the matrix is cyclic with band 1.
    BandedSolver solver(count, basis.closed ? 1 : degree, basis.closed);
    for (std::size_t row = 0; row < count; ++row) {
        const BasisAt at = basis_at(basis, basis.nodes[row]);
        for (std::size_t a = 0; a <= degree; ++a) {
            const std::size_t pole = at.first + a;
            if (at.values[a] == 0) continue;
            solver.add(row, basis.closed ? (pole + count - 1) % count : pole, at.values[a]);
        }
    }
    if (!solver.factor())
        return Error{ErrorCode::broken_invariant, "", "The points are too unevenly spaced for a " + what,
                     "Space them more evenly, or join them straight."};
    return solver;
}

// Repeats the first poles of a closed direction and undoes the shift of collocation().
Doubles wrapped_poles(const Doubles& solved, const SplineBasis& basis, std::size_t width) {
    if (!basis.closed) return solved;
    const std::size_t count = basis.nodes.size();
    Doubles poles(basis.pole_count() * width);
    for (std::size_t pole = 0; pole < basis.pole_count(); ++pole)
        std::copy_n(solved.begin() + static_cast<std::ptrdiff_t>((pole + count - 1) % count * width), width,
                    poles.begin() + static_cast<std::ptrdiff_t>(pole * width));
    return poles;
}

Doubles transposed(const Doubles& entries, std::size_t columns, std::size_t count, std::size_t width) {
    Doubles turned(entries.size());
    for (std::size_t row = 0; row < count; ++row)
        for (std::size_t column = 0; column < columns; ++column)
            for (std::size_t channel = 0; channel < width; ++channel)
                turned[(row + count * column) * width + channel] =
                    entries[(column + columns * row) * width + channel];
    return turned;
}

Column channel_of(const Doubles& data, std::size_t channels, std::size_t channel) {
    Doubles column(data.size() / channels);
    for (std::size_t index = 0; index < column.size(); ++index)
        column[index] = data[index * channels + channel];
    return column;
}

}  // namespace plume

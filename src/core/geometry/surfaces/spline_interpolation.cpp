#include "core/geometry/surfaces/spline_interpolation.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/parallel.hpp"
#include "core/geometry/curves/spline_system.hpp"
#include "core/geometry/points/two_directions.hpp"
#include "core/geometry/surfaces/interlaced_grid.hpp"

namespace plume {
namespace {

Status check(const PointLattice& lattice) {
    if (Status status = check_two_directions(lattice, "A smooth skin"); !status) return status;
    if (lattice.has_gaps())
        return Error{ErrorCode::has_gaps, "",
                     "A smooth skin needs every point of the lattice, and this one has gaps",
                     "Use flat facets, which leave the gaps open."};
    for (std::size_t index = 0; index < lattice.address_count(); ++index)
        if (!is_finite(lattice.point(index))) {
            const Address at = lattice.address(index);
            return Error{
                ErrorCode::not_finite, "",
                "The point at i " + std::to_string(at.i) + ", j " + std::to_string(at.j) + " is not finite",
                "Look at the step that moves it."};
        }
    return Done{};
}

// Chord-length parameters along `direction`, averaged over the rows across it; rows without length do not
// count. Holds one entry more than points when closed: the parameter at which the first point comes round.
std::vector<double> averaged_parameters(const PointLattice& lattice, int direction) {
    const auto along = static_cast<std::size_t>(direction), across = 1 - along;
    const std::size_t count = lattice.counts()[along], rows = lattice.counts()[across];
    const std::size_t step = along == 0 ? 1 : lattice.counts()[0];
    const std::size_t row_step = along == 0 ? lattice.counts()[0] : 1;
    const std::size_t bays = lattice.bays(direction);
    std::vector<double> sums(bays, 0), chords(bays);
    std::size_t counted = 0;
    for (std::size_t row = 0; row < rows; ++row) {
        double total = 0;
        for (std::size_t bay = 0; bay < bays; ++bay) {
            const Vec3 from = lattice.point(row * row_step + bay * step);
            const Vec3 to = lattice.point(row * row_step + (bay + 1) % count * step);
            chords[bay] = length(to - from);
            total += chords[bay];
        }
        if (!(total > 0) || !std::isfinite(total)) continue;
        for (std::size_t bay = 0; bay < bays; ++bay)
            sums[bay] += chords[bay] / total;
        ++counted;
    }
    std::vector<double> parameters(bays + 1, 0);
    for (std::size_t bay = 0; bay < bays; ++bay)
        parameters[bay + 1] =
            parameters[bay] + sums[bay] / static_cast<double>(std::max<std::size_t>(counted, 1));
    return parameters;
}

Result<SplineBasis> basis_along(const PointLattice& lattice, int direction) {
    std::vector<double> parameters = averaged_parameters(lattice, direction);
    for (std::size_t index = 1; index < parameters.size(); ++index)
        // Two parameters nearer than this leave no digits for the basis functions between them.
        if (!(parameters[index] - parameters[index - 1] > 1e-12))
            return Error{ErrorCode::broken_invariant, "",
                         std::string("The points at ") + (direction == 0 ? "i " : "j ") +
                             std::to_string(index - 1) + " and the next coincide in every " +
                             (direction == 0 ? "row" : "column"),
                         "Move them apart, or use flat facets."};
    return cubic_basis(std::move(parameters), lattice.closed(direction));
}

// Fields with numbers that are not finite would spoil every pole; they stay behind.
std::vector<const Field*> usable_fields(const PointLattice& lattice) {
    std::vector<const Field*> fields;
    for (const Field& field : lattice.fields())
        if (std::ranges::all_of(field.values.span(), [](double v) { return std::isfinite(v); }))
            fields.push_back(&field);
    return fields;
}

}  // namespace

Result<SplinePatch> interpolate_grid(const PointLattice& lattice, const Run& run) {
    if (is_interlaced(lattice)) {
        if (Status status = check_two_directions(lattice, "A smooth skin"); !status) return status.error();
        const auto even = evened_grid(lattice, run);
        return even ? interpolate_grid(even->grid, run) : Result<SplinePatch>(even.error());
    }
    if (Status status = check(lattice); !status) return status.error();
    const Result<SplineBasis> u = basis_along(lattice, 0), v = basis_along(lattice, 1);
    if (!u) return u.error();
    if (!v) return v.error();
    const Result<BandedSolver> solve_u = collocation(*u, "smooth skin"),
                               solve_v = collocation(*v, "smooth skin");
    if (!solve_u) return solve_u.error();
    if (!solve_v) return solve_v.error();

    const std::vector<const Field*> fields = usable_fields(lattice);
    const std::size_t channels = 3 + fields.size();
    const std::size_t columns = lattice.counts()[0], rows = lattice.counts()[1];
    Doubles data(columns * rows * channels);
    for (std::size_t index = 0; index < columns * rows; ++index) {
        double* const entry = data.data() + index * channels;
        entry[0] = lattice.x()[index];
        entry[1] = lattice.y()[index];
        entry[2] = lattice.z()[index];
        for (std::size_t f = 0; f < fields.size(); ++f)
            entry[3 + f] = fields[f]->values[index];
    }
    if (run.cancelled()) return cancelled_error();
    solve_v->solve(data.data(), columns * channels);
    data = wrapped_poles(data, *v, columns * channels);
    if (run.cancelled()) return cancelled_error();
    data = transposed(data, columns, v->pole_count(), channels);
    solve_u->solve(data.data(), v->pole_count() * channels);
    data = wrapped_poles(data, *u, v->pole_count() * channels);
    data = transposed(data, v->pole_count(), u->pole_count(), channels);

    SplinePatch::Parts parts{
        *u, *v, channel_of(data, channels, 0), channel_of(data, channels, 1), channel_of(data, channels, 2),
        {}, {}};
    for (std::size_t f = 0; f < fields.size(); ++f)
        parts.fields.push_back({fields[f]->name, channel_of(data, channels, 3 + f), fields[f]->dimension});
    return SplinePatch::make(std::move(parts));
}

}  // namespace plume

#include "core/geometry/curves/curve_interpolation.hpp"

#include <algorithm>
#include <numeric>
#include <optional>

#include "core/geometry/curves/spline_system.hpp"

namespace plume {
namespace {

std::vector<double> chord_parameters(const std::vector<Vec3>& points, bool closed) {
    std::vector<double> parameters{0};
    for (std::size_t index = 1; index < points.size(); ++index)
        parameters.push_back(parameters.back() + length(points[index] - points[index - 1]));
    if (closed) parameters.push_back(parameters.back() + length(points.front() - points.back()));
    return parameters;
}

// Leaves out points at the place of the one before; their parameters and numbers go with them.
void drop_repeats(CurvePoints& item) {
    std::vector<std::size_t> kept;
    for (std::size_t index = 0; index < item.points.size(); ++index)
        if (kept.empty() || item.points[index] != item.points[kept.back()]) kept.push_back(index);
    if (item.closed && kept.size() > 1 && item.points[kept.back()] == item.points[kept.front()])
        kept.pop_back();
    if (kept.size() == item.points.size()) return;
    CurvePoints fewer;
    fewer.closed = item.closed;
    for (const std::size_t index : kept)
        fewer.points.push_back(item.points[index]);
    if (!item.parameters.empty()) {
        for (const std::size_t index : kept)
            fewer.parameters.push_back(item.parameters[index]);
        if (item.closed) fewer.parameters.push_back(item.parameters.back());
    }
    for (const Field& field : item.fields) {
        Doubles values(kept.size());
        for (std::size_t at = 0; at < kept.size(); ++at)
            values[at] = field.values[kept[at]];
        fewer.fields.push_back({field.name, std::move(values), field.dimension});
    }
    item = std::move(fewer);
}

Status check(const CurvePoints& item) {
    const std::size_t least = item.closed ? 3 : 2;
    if (item.points.size() < least)
        return Error{ErrorCode::too_few_points, "",
                     item.closed ? "A closed curve needs three points at different places"
                                 : "A curve needs two points at different places",
                     "Give it more points, or move them apart."};
    const auto odd = std::ranges::find_if_not(item.points, is_finite);
    if (odd != item.points.end())
        return Error{ErrorCode::not_finite, "",
                     "Point " + std::to_string(odd - item.points.begin()) + " of a curve is not finite",
                     "Look at the step that makes the points."};
    return Done{};
}

// All channels of a point side by side, the solver's layout.
Doubles gathered(const CurvePoints& item, std::size_t channels) {
    Doubles data(item.points.size() * channels);
    for (std::size_t index = 0; index < item.points.size(); ++index) {
        double* const entry = data.data() + index * channels;
        entry[0] = item.points[index].x;
        entry[1] = item.points[index].y;
        entry[2] = item.points[index].z;
        for (std::size_t field = 0; field < item.fields.size(); ++field)
            entry[3 + field] = item.fields[field].values[index];
    }
    return data;
}

Doubles with_first_again(Doubles data, std::size_t channels) {
    data.resize(data.size() + channels);
    std::copy_n(data.begin(), channels, data.end() - static_cast<std::ptrdiff_t>(channels));
    return data;
}

bool all_finite(const Field& field) {
    return std::ranges::all_of(field.values.span(), [](double v) { return std::isfinite(v); });
}

}  // namespace

Result<SplineCurve> curve_through(CurvePoints item, CurveShape shape) {
    // A number that is not finite would spoil every pole of a smooth curve.
    std::erase_if(item.fields, [](const Field& field) { return !all_finite(field); });
    drop_repeats(item);
    if (Status status = check(item); !status) return status.error();
    std::vector<double> parameters =
        item.parameters.empty() ? chord_parameters(item.points, item.closed) : item.parameters;
    const std::size_t channels = 3 + item.fields.size();
    Doubles data = gathered(item, channels);
    SplineCurve::Parts parts;
    if (shape == CurveShape::straight) {
        parts.basis = straight_basis(std::move(parameters), item.closed);
        if (item.closed) data = with_first_again(std::move(data), channels);
    } else {
        parts.basis = cubic_basis(std::move(parameters), item.closed);
        const Result<BandedSolver> system = collocation(parts.basis, "smooth curve");
        if (!system) return system.error();
        system->solve(data.data(), channels);
        data = wrapped_poles(data, parts.basis, channels);
    }
    parts.x = channel_of(data, channels, 0);
    parts.y = channel_of(data, channels, 1);
    parts.z = channel_of(data, channels, 2);
    for (std::size_t field = 0; field < item.fields.size(); ++field)
        parts.fields.push_back(
            {item.fields[field].name, channel_of(data, channels, 3 + field), item.fields[field].dimension});
    return SplineCurve::make(std::move(parts));
}

namespace {

struct Run1D {
    std::vector<std::size_t> addresses;
    bool whole = true;  // no gap in it
};

// Stretches without gaps along one line of addresses; of a line that comes round one may run across its seam.
void add_runs(const PointLattice& lattice, std::vector<std::size_t> line, bool comes_round,
              std::vector<Run1D>& runs) {
    Run1D open;
    const auto gap =
        std::ranges::find_if(line, [&](std::size_t address) { return !lattice.present(address); });
    const bool whole = gap == line.end();
    if (comes_round) std::rotate(line.begin(), gap, line.end());
    for (const std::size_t address : line) {
        if (lattice.present(address)) {
            open.addresses.push_back(address);
            continue;
        }
        if (open.addresses.size() > 1) runs.push_back({open.addresses, false});
        open.addresses.clear();
    }
    if (open.addresses.size() > 1) runs.push_back({std::move(open.addresses), whole});
}

// Whether lines of this route join their last point to their first.
bool comes_round(const PointLattice& lattice, Route route) {
    if (route == Route::columns) return lattice.closed(1);
    const bool one_row = lattice.counts()[1] * lattice.counts()[2] == 1;
    return lattice.closed(0) && (route == Route::rows || one_row);
}

std::vector<Run1D> runs_of(const PointLattice& lattice, Route route) {
    std::vector<Run1D> runs;
    if (route == Route::in_order) {
        std::vector<std::size_t> all(lattice.address_count());
        std::iota(all.begin(), all.end(), std::size_t{0});
        add_runs(lattice, std::move(all), comes_round(lattice, route), runs);
        return runs;
    }
    const std::size_t along = route == Route::rows ? 0 : 1, across = 1 - along;
    const auto& counts = lattice.counts();
    for (std::size_t k = 0; k < counts[2]; ++k)
        for (std::size_t other = 0; other < counts[across]; ++other) {
            std::vector<std::size_t> line(counts[along]);
            for (std::size_t at = 0; at < counts[along]; ++at)
                line[at] = along == 0 ? lattice.index({at, other, k}) : lattice.index({other, at, k});
            add_runs(lattice, std::move(line), comes_round(lattice, route), runs);
        }
    return runs;
}

CurvePoints points_of(const PointLattice& lattice, const std::vector<std::size_t>& addresses) {
    CurvePoints item;
    for (const std::size_t address : addresses)
        item.points.push_back(lattice.point(address));
    for (const Field& field : lattice.fields()) {
        Doubles values(addresses.size());
        for (std::size_t at = 0; at < addresses.size(); ++at)
            values[at] = field.values[addresses[at]];
        item.fields.push_back({field.name, std::move(values), field.dimension});
    }
    return item;
}

}  // namespace

Result<CurveSet> join_points(const PointLattice& lattice, Route route, CurveShape shape, bool closed,
                             const Run& run) {
    const CurveMaker through = [shape](CurvePoints points) {
        return curve_through(std::move(points), shape);
    };
    return join_points(lattice, route, through, closed, run);
}

Result<CurveSet> join_points(const PointLattice& lattice, Route route, const CurveMaker& make, bool closed,
                             const Run& run) {
    CurveSet set;
    std::size_t left_out = 0;
    std::optional<Error> why;
    for (const Run1D& stretch : runs_of(lattice, route)) {
        if (run.cancelled()) return cancelled_error();
        CurvePoints item = points_of(lattice, stretch.addresses);
        item.closed = (closed || (comes_round(lattice, route) && stretch.whole)) && item.points.size() > 2;
        Result<SplineCurve> curve = make(std::move(item));
        if (curve) {
            set.curves.push_back(*std::move(curve));
            continue;
        }
        if (curve.error().code != ErrorCode::too_few_points) return curve.error();
        ++left_out;
        if (!why) why = curve.error();
    }
    if (set.curves.empty() && why) return *why;
    if (set.curves.empty())
        return Error{ErrorCode::too_few_points, "", "No two neighbouring points are left to be joined",
                     "Join another way, or keep more points."};
    if (left_out > 0)
        run.remark_loss(std::to_string(left_out) + (left_out == 1 ? " stretch has" : " stretches have") +
                        " too few points for a curve and " + (left_out == 1 ? "is" : "are") + " left out.");
    return set;
}

}  // namespace plume

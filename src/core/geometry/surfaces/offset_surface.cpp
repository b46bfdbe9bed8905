#include "core/geometry/surfaces/offset_surface.hpp"

#include <algorithm>
#include <atomic>
#include <cmath>
#include <limits>

#include "core/base/parallel.hpp"
#include "core/geometry/curves/spline_change.hpp"
#include "core/geometry/curves/spline_system.hpp"
#include "core/geometry/surfaces/bending.hpp"
#include "core/geometry/surfaces/patch_edit.hpp"
#include "core/geometry/surfaces/patch_evaluator.hpp"
#include "core/geometry/surfaces/trimming.hpp"

namespace plume {
namespace {

constexpr int most_rounds = 7, hopeful_rounds = 3;
constexpr std::size_t most_poles = 400'000;

// Just before a parameter.
double before(const SplineBasis& basis, double parameter) {
    return parameter - (basis.end() - basis.start()) * 1e-9;
}

// Parameters either side of which the surface points in two directions somewhere. Arcs have knots that could
// be creases and are none.
std::vector<double> creases_of(const PatchEvaluator& evaluator, const SplinePatch& patch, int direction) {
    constexpr double hardly_turned = 1e-6;
    const SplineBasis &basis = basis_along(patch, direction), &across = basis_along(patch, 1 - direction);
    std::vector<double> creases;
    const std::vector<double> breaks = knot_breaks(basis), probes = knot_means(across);
    for (std::size_t at = 1; at + 1 < breaks.size(); ++at) {
        if (multiplicity_at(basis, breaks[at]) < basis.degree) continue;
        const auto normal = [&](double along, double probe) {
            return direction == 0 ? normal_at(evaluator, patch.u(), patch.v(), along, probe)
                                  : normal_at(evaluator, patch.u(), patch.v(), probe, along);
        };
        if (std::ranges::any_of(probes, [&](double probe) {
                return length(normal(breaks[at], probe) - normal(before(basis, breaks[at]), probe)) >
                       hardly_turned;
            }))
            creases.push_back(breaks[at]);
    }
    return creases;
}

// The direction in which planes square to all the normals, each moved by 1, meet.
Vec3 mitred(const std::vector<Vec3>& normals) {
    Vec3 sum;
    for (const Vec3 normal : normals)
        sum = sum + normal;
    const Vec3 middle = unit_or_zero(sum);
    double least = 1;
    for (const Vec3 normal : normals)
        least = std::min(least, dot(middle, normal));
    // A fold of more than some 160 degrees has no corner that is near.
    return least > 0.1 ? middle * (1 / least) : middle * 10;
}

// Ways from places of a patch to those at a distance of 1.
class Ways {
public:
    explicit Ways(const SplinePatch& patch)
        : patch_(patch),
          evaluator_(patch),
          creases_{creases_of(evaluator_, patch, 0), creases_of(evaluator_, patch, 1)} {}

    bool creased() const { return !creases_[0].empty() || !creases_[1].empty(); }
    Vec3 normal(double u, double v) const { return normal_at(evaluator_, patch_.u(), patch_.v(), u, v); }
    // Along the normal; on a crease to where the offsets of its sides meet. Between creases the places slide
    // along the surface, evenly from none to as far as the crease's own place does: so they never pass it.
    Vec3 at(double u, double v) const {
        if (!creased()) return normal(u, v);
        const bool on_u = is_crease(0, u), on_v = is_crease(1, v);
        if (on_u || on_v) return mitre(u, v, on_u, on_v);
        return normal(u, v) + slide(0, u, v) + slide(1, u, v);
    }

private:
    bool is_crease(int direction, double parameter) const {
        return std::ranges::binary_search(creases_[static_cast<std::size_t>(direction)], parameter);
    }
    std::vector<double> sides(int direction, double parameter, bool crease) const {
        const SplineBasis& basis = basis_along(patch_, direction);
        if (!crease) return {parameter};
        return {before(basis, parameter), parameter};
    }
    Vec3 mitre(double u, double v, bool on_u, bool on_v) const {
        std::vector<Vec3> normals;
        for (const double a : sides(0, u, on_u))
            for (const double b : sides(1, v, on_v))
                normals.push_back(normal(a, b));
        return mitred(normals);
    }
    // How far a crease at `at` of a direction takes places of the side given along with it.
    Vec3 slide_of(int direction, double u, double v, double at, bool left) const {
        const double side = sides(direction, at, true)[left ? 0 : 1];
        return direction == 0 ? mitre(at, v, true, false) - normal(side, v)
                              : mitre(u, at, false, true) - normal(u, side);
    }
    Vec3 slide(int direction, double u, double v) const {
        const std::vector<double>& creases = creases_[static_cast<std::size_t>(direction)];
        if (creases.empty()) return {};
        const SplineBasis& basis = basis_along(patch_, direction);
        const double here = direction == 0 ? u : v;
        const auto next = std::ranges::upper_bound(creases, here);
        const double low = next == creases.begin() ? basis.start() : *std::prev(next),
                     high = next == creases.end() ? basis.end() : *next;
        const double share = (here - low) / (high - low);
        Vec3 way;
        if (next != creases.begin()) way = way + slide_of(direction, u, v, low, false) * (1 - share);
        if (next != creases.end()) way = way + slide_of(direction, u, v, high, true) * share;
        return way;
    }

    const SplinePatch& patch_;
    PatchEvaluator evaluator_;
    std::array<std::vector<double>, 2> creases_;
};

// Places of a patch on a grid, and from each the way to the one at a distance of 1.
struct GridOfWays {
    OffsetGrid grid;
    std::vector<Vec3> ways;
    bool creased = false;
};
Result<GridOfWays> ways_on(const SplinePatch& patch, std::vector<double> u, std::vector<double> v,
                           const Run& run) {
    const Ways way(patch);
    GridOfWays made{{patch, std::move(u), std::move(v), {}}, {}, way.creased()};
    OffsetGrid& grid = made.grid;
    const std::size_t columns = grid.u.size();
    grid.places.resize(columns * grid.v.size());
    made.ways.resize(grid.places.size());
    const auto each = [&](std::size_t column, std::size_t row, const SurfacePoint& point) {
        const std::size_t at = column + columns * row;
        grid.places[at] = point.position;
        const Vec3 area = cross(point.along_u, point.along_v);
        const double size = dot(point.along_u, point.along_u) + dot(point.along_v, point.along_v);
        const bool plain = !made.creased && dot(area, area) > 1e-16 * size * size;
        made.ways[at] = plain ? area * (1 / length(area)) : way.at(grid.u[column], grid.v[row]);
    };
    if (!visit_points(patch, grid.u, grid.v, each, run)) return cancelled_error();
    return made;
}

// Where the offset surface has to pass.
Result<std::vector<Vec3>> places_at(const GridOfWays& on, const OffsetBy& distance) {
    const Result<Doubles> by = distance(on.grid);
    if (!by) return by.error();
    std::vector<Vec3> places(on.ways.size());
    for (std::size_t at = 0; at < places.size(); ++at) {
        if (!std::isfinite((*by)[at]))
            return Error{ErrorCode::not_finite, "", "is not a finite number everywhere on the surface",
                         "Look where it divides by 0 or takes a root of less than 0."};
        places[at] = on.grid.places[at] + on.ways[at] * (*by)[at];
    }
    return places;
}

// The weighted sum of the poles' weights there.
double weight_at(const SplinePatch& patch, const BasisAt& u, const BasisAt& v) {
    if (!patch.rational()) return 1;
    double sum = 0;
    for (std::size_t b = 0; b <= static_cast<std::size_t>(patch.v().degree); ++b)
        for (std::size_t a = 0; a <= static_cast<std::size_t>(patch.u().degree); ++a)
            sum += u.values[a] * v.values[b] *
                   patch.weights()[u.first + a + patch.u().pole_count() * (v.first + b)];
    return sum;
}

// Through places given at the knot means, with the weights of the patch.
Result<SplinePatch> through(const SplinePatch& patch, const std::vector<Vec3>& places) {
    const SplineBasis u = with_nodes_at_means(patch.u()), v = with_nodes_at_means(patch.v());
    const Result<BandedSolver> in_u = collocation(u, "surface"), in_v = collocation(v, "surface");
    if (!in_u) return in_u.error();
    if (!in_v) return in_v.error();
    const std::size_t columns = u.pole_count(), rows = v.pole_count();
    constexpr std::size_t width = 3;
    Doubles data(columns * rows * width);
    std::vector<BasisAt> bases_u;
    for (const double node : u.nodes)
        bases_u.push_back(basis_at(u, node));
    for (std::size_t row = 0; row < rows; ++row) {
        const BasisAt at_v = basis_at(v, v.nodes[row]);
        for (std::size_t column = 0; column < columns; ++column) {
            const std::size_t at = column + columns * row;
            const Vec3 place = places[at] * weight_at(patch, bases_u[column], at_v);
            data[at * width] = place.x;
            data[at * width + 1] = place.y;
            data[at * width + 2] = place.z;
        }
    }
    in_v->solve(data.data(), columns * width);
    data = transposed(data, columns, rows, width);
    in_u->solve(data.data(), rows * width);
    data = transposed(data, rows, columns, width);
    if (patch.rational())
        for (std::size_t at = 0; at < columns * rows; ++at)
            for (std::size_t channel = 0; channel < width; ++channel)
                data[at * width + channel] /= patch.weights()[at];
    SplinePatch::Parts parts = patch.parts();
    parts.x = channel_of(data, width, 0);
    parts.y = channel_of(data, width, 1);
    parts.z = channel_of(data, width, 2);
    return SplinePatch::make(std::move(parts));
}

// How far a surface is from where it has to be, for each of the middles of one direction.
Result<std::vector<double>> deviations(const GridOfWays& on, int direction, const SplinePatch& offset,
                                       const OffsetBy& distance, const Run& run) {
    const auto wanted = places_at(on, distance);
    if (!wanted) return wanted.error();
    const std::size_t columns = on.grid.u.size();
    std::vector<double> apart(wanted->size());
    const auto each = [&](std::size_t column, std::size_t row, const SurfacePoint& point) {
        const std::size_t at = column + columns * row;
        const Vec3 off = point.position - (*wanted)[at];
        // Beside creases places slide along the surface, which takes them no further from it.
        apart[at] =
            on.creased ? std::abs(dot(off, unit_or_zero(cross(point.along_u, point.along_v)))) : length(off);
    };
    if (!visit_points(offset, on.grid.u, on.grid.v, each, run)) return cancelled_error();
    std::vector<double> worst(direction == 0 ? columns : on.grid.v.size(), 0);
    for (std::size_t at = 0; at < apart.size(); ++at) {
        double& most = worst[direction == 0 ? at % columns : at / columns];
        most = std::max(most, apart[at]);
    }
    return worst;
}

SplinePatch opened(const SplinePatch& patch) {
    SplinePatch open = patch;
    for (const int direction : {0, 1})
        if (basis_along(patch, direction).closed)
            open = changed(open, direction, opened(basis_along(open, direction)));
    return open;
}

// With closed directions as the patch has them.
SplinePatch closed_like(const SplinePatch& open, const SplinePatch& patch) {
    SplinePatch closed = open;
    for (const int direction : {0, 1})
        if (basis_along(patch, direction).closed) closed = closed_up(closed, direction);
    return closed;
}

}  // namespace

OffsetBy offset_by(double distance) {
    return [distance](const OffsetGrid& grid) -> Result<Doubles> {
        return Doubles(grid.places.size(), distance);
    };
}

Result<Offsets> offsets_of(const SplinePatch& patch, const std::vector<OffsetBy>& distances,
                           double tolerance_abs, const Run& run) {
    SplinePatch base = opened(with_trims(patch, {}));
    double before = std::numeric_limits<double>::infinity();
    for (int round = 0;; ++round) {
        run.report(static_cast<double>(round) / most_rounds);
        Offsets made{base, {}, 0};
        const std::array<std::vector<double>, 2> means{knot_means(base.u()), knot_means(base.v())},
            middles{knot_middles(base.u()), knot_middles(base.v())};
        const auto at_means = ways_on(base, means[0], means[1], run),
                   along_u = ways_on(base, middles[0], means[1], run),
                   along_v = ways_on(base, means[0], middles[1], run);
        for (const auto* grid : {&at_means, &along_u, &along_v})
            if (!*grid) return grid->error();
        std::array<std::vector<double>, 2> more;
        for (const OffsetBy& distance : distances) {
            const auto places = places_at(*at_means, distance);
            if (!places) return places.error();
            Result<SplinePatch> offset = through(base, *places);
            if (!offset) return offset.error();
            for (const int direction : {0, 1}) {
                const auto side = static_cast<std::size_t>(direction);
                const auto worst =
                    deviations(direction == 0 ? *along_u : *along_v, direction, *offset, distance, run);
                if (!worst) return worst.error();
                for (std::size_t middle = 0; middle < middles[side].size(); ++middle) {
                    made.deviation = std::max(made.deviation, (*worst)[middle]);
                    if ((*worst)[middle] > tolerance_abs) more[side].push_back(middles[side][middle]);
                }
            }
            made.at.push_back(*std::move(offset));
        }
        // What does not become truer by more knots (a face that folds, a crease of curved faces) stays so.
        const bool enough = (more[0].empty() && more[1].empty()) ||
                            (round >= hopeful_rounds && made.deviation > 0.5 * before);
        before = made.deviation;
        const std::size_t next =
            (base.u().pole_count() + more[0].size()) * (base.v().pole_count() + more[1].size());
        if (enough || round == most_rounds || next > most_poles) {
            made.patch = closed_like(made.patch, patch);
            for (SplinePatch& offset : made.at)
                offset = closed_like(offset, patch);
            return made;
        }
        for (const int direction : {0, 1}) {
            std::vector<double>& knots = more[static_cast<std::size_t>(direction)];
            std::ranges::sort(knots);
            knots.erase(std::unique(knots.begin(), knots.end()), knots.end());
            if (knots.empty()) continue;
            const SplineBasis& basis = basis_along(base, direction);
            // Cubic pieces come near with a tenth of the knots that straight ones need.
            base = changed(base, direction, basis.degree < 3 ? raised(basis, 3) : refined(basis, knots));
        }
    }
}

std::optional<TightestSide> tightest_on(const SplinePatch& patch, int side) {
    const PatchEvaluator evaluator(patch);
    // A patch of many poles has means enough.
    const auto parameters = [](const SplineBasis& basis) {
        std::vector<double> all = knot_means(basis);
        const std::vector<double> middles = knot_middles(basis);
        if (all.size() < 64) all.insert(all.end(), middles.begin(), middles.end());
        return all;
    };
    const std::vector<double> u = parameters(patch.u()), v = parameters(patch.v());
    std::vector<TightestSide> rows(v.size());
    parallel_blocks(v.size(), 512 / u.size() + 1, Run(), [&](std::size_t begin, std::size_t end) {
        for (std::size_t row = begin; row < end; ++row) {
            double most = 0;
            for (const double at : u) {
                const SurfaceBend bend = evaluator.bend_at(at, v[row]);
                const Bending curvatures = bending_of(bend);
                const double curvature = side > 0 ? curvatures.most() : -curvatures.least();
                if (!(curvature > most * (1 + 1e-9)) || !std::isfinite(curvature)) continue;
                most = curvature;
                rows[row] = {1 / curvature, bend.point.position};
            }
        }
    });
    std::optional<TightestSide> tightest;
    for (const TightestSide& row : rows)
        if (row.radius > 0 && (!tightest || row.radius < tightest->radius * (1 - 1e-9))) tightest = row;
    return tightest;
}

}  // namespace plume

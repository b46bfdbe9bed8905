#include "core/geometry/surfaces/surface_sampling.hpp"

#include <algorithm>
#include <array>
#include <cmath>

#include "core/base/parallel.hpp"
#include "core/geometry/curves/spline_basis.hpp"
#include "core/geometry/surfaces/patch_evaluator.hpp"

namespace plume {
namespace {

// Every n-th of the breaks; the last one is always among them.
std::vector<double> thinned(const std::vector<double>& breaks, std::size_t every) {
    std::vector<double> kept;
    for (std::size_t at = 0; at + 1 < breaks.size(); at += every)
        kept.push_back(breaks[at]);
    kept.push_back(breaks.back());
    return kept;
}

std::vector<BasisAt> bases_on(const SplineBasis& basis, const std::vector<double>& parameters) {
    std::vector<BasisAt> bases;
    bases.reserve(parameters.size());
    for (const double parameter : parameters)
        bases.push_back(basis_at(basis, parameter));
    return bases;
}

// Poles of the curve of constant v, channel after channel: [channel * poles + pole]. With slopes: its
// derivative.
void curve_poles(const std::vector<const double*>& channels, std::size_t poles_u, const BasisAt& at_v,
                 int degree_v, bool slopes, double* out) {
    const auto& shares = slopes ? at_v.slopes : at_v.values;
    for (std::size_t channel = 0; channel < channels.size(); ++channel) {
        double* const curve = out + channel * poles_u;
        std::fill_n(curve, poles_u, 0.0);
        for (std::size_t b = 0; b <= static_cast<std::size_t>(degree_v); ++b) {
            const double* const row = channels[channel] + (at_v.first + b) * poles_u;
            const double share = shares[b];
            for (std::size_t a = 0; a < poles_u; ++a)
                curve[a] += share * row[a];
        }
    }
}

double along(const double* curve, const BasisAt& at, int degree, bool slopes = false) {
    const auto& shares = slopes ? at.slopes : at.values;
    double sum = 0;
    for (std::size_t a = 0; a <= static_cast<std::size_t>(degree); ++a)
        sum += shares[a] * curve[at.first + a];
    return sum;
}

// Homogeneous coordinates when the patch has weights: x w, y w, z w, w, then fields times w.
struct Channels {
    std::vector<Doubles> owned;
    std::vector<const double*> data;
};

Channels channels_of(const SplinePatch& patch) {
    Channels channels;
    std::vector<const Column*> columns{&patch.x(), &patch.y(), &patch.z()};
    for (const Field& field : patch.fields())
        columns.push_back(&field.values);
    if (!patch.rational()) {
        for (const Column* column : columns)
            channels.data.push_back(column->data());
        return channels;
    }
    for (const Column* column : columns) {
        Doubles weighted(column->size());
        for (std::size_t index = 0; index < weighted.size(); ++index)
            weighted[index] = (*column)[index] * patch.weights()[index];
        channels.owned.push_back(std::move(weighted));
    }
    for (const Doubles& owned : channels.owned)
        channels.data.push_back(owned.data());
    channels.data.push_back(patch.weights().data());
    return channels;
}

// Position and derivatives from the curve of constant v and its derivative across.
SurfacePoint point_at(const double* curve, const double* across, std::size_t poles_u,
                      std::size_t weight_channel, bool rational, const BasisAt& at, int degree) {
    const auto read = [&](const double* from, std::size_t channel, bool slopes) {
        return along(from + channel * poles_u, at, degree, slopes);
    };
    SurfacePoint point{{read(curve, 0, false), read(curve, 1, false), read(curve, 2, false)},
                       {read(curve, 0, true), read(curve, 1, true), read(curve, 2, true)},
                       {read(across, 0, false), read(across, 1, false), read(across, 2, false)}};
    if (!rational) return point;
    // Quotient rule: (A / w)' = (A' - w' A/w) / w.
    const double w = read(curve, weight_channel, false);
    point.position = point.position * (1 / w);
    point.along_u = (point.along_u - point.position * read(curve, weight_channel, true)) * (1 / w);
    point.along_v = (point.along_v - point.position * read(across, weight_channel, false)) * (1 / w);
    return point;
}

void store(SurfaceSamples& samples, std::size_t index, const SurfacePoint& point) {
    samples.x[index] = point.position.x;
    samples.y[index] = point.position.y;
    samples.z[index] = point.position.z;
    const Vec3 normal = unit_or_zero(cross(point.along_u, point.along_v));
    samples.normal_x[index] = normal.x;
    samples.normal_y[index] = normal.y;
    samples.normal_z[index] = normal.z;
}

}  // namespace

std::size_t bays_of(const SplineBasis& basis) {
    return breaks_of(basis).size() - 1;
}

SampleLines sample_lines(const SplineBasis& basis, int per_bay, std::size_t every) {
    const std::vector<double> breaks = thinned(breaks_of(basis), every);
    SampleLines lines;
    for (std::size_t bay = 0; bay + 1 < breaks.size(); ++bay)
        for (int part = 0; part < per_bay; ++part) {
            lines.parameters.push_back(
                std::lerp(breaks[bay], breaks[bay + 1], static_cast<double>(part) / per_bay));
            lines.at_node.push_back(part == 0 ? 1 : 0);
        }
    if (basis.closed) return lines;
    lines.parameters.push_back(breaks.back());
    lines.at_node.push_back(1);
    return lines;
}

bool visit_points(const SplinePatch& patch, const std::vector<double>& u, const std::vector<double>& v,
                  const EachPoint& each, const Run& run) {
    const std::vector<BasisAt> bases_u = bases_on(patch.u(), u), bases_v = bases_on(patch.v(), v);
    const Channels channels = channels_of(patch);
    const std::size_t poles = patch.u().pole_count(), weight_channel = 3 + patch.fields().size();
    const std::size_t rows_a_block = std::max<std::size_t>(1, 4096 / u.size());
    return parallel_blocks(v.size(), rows_a_block, run, [&](std::size_t begin, std::size_t end) {
        std::vector<double> curve(channels.data.size() * poles), across(curve.size());
        for (std::size_t row = begin; row < end; ++row) {
            curve_poles(channels.data, poles, bases_v[row], patch.v().degree, false, curve.data());
            curve_poles(channels.data, poles, bases_v[row], patch.v().degree, true, across.data());
            for (std::size_t column = 0; column < u.size(); ++column)
                each(column, row,
                     point_at(curve.data(), across.data(), poles, weight_channel, patch.rational(),
                              bases_u[column], patch.u().degree));
        }
    });
}

namespace {

// The three curves of constant v whose poles are those of the patch under the values, slopes and bends of v,
// pole after pole: x, y, z and a number that fills the lane.
struct BendRow {
    std::array<std::vector<std::array<double, 4>>, 3> curves;
};

void set_row(BendRow& row, const SplinePatch& patch, const BasisBends& v) {
    const std::size_t poles = patch.u().pole_count();
    const std::array<const std::array<double, highest_degree + 1>*, 3> shares{&v.at.values, &v.at.slopes,
                                                                              &v.bends};
    for (std::size_t order = 0; order < 3; ++order)
        row.curves[order].assign(poles, {});
    for (std::size_t b = 0; b <= static_cast<std::size_t>(patch.v().degree); ++b) {
        const std::size_t first = (v.at.first + b) * poles;
        const double *x = patch.x().data() + first, *y = patch.y().data() + first,
                     *z = patch.z().data() + first;
        for (std::size_t order = 0; order < 3; ++order) {
            const double share = (*shares[order])[b];
            for (std::size_t a = 0; a < poles; ++a) {
                std::array<double, 4>& pole = row.curves[order][a];
                pole[0] += share * x[a];
                pole[1] += share * y[a];
                pole[2] += share * z[a];
            }
        }
    }
}

// The shares of the poles of a row at one parameter: values, slopes and bends, degree + 1 of each, close
// together.
struct RowShares {
    std::size_t first = 0;
    const double* shares = nullptr;
};

// All six in one pass over the poles, whose lanes the compiler adds side by side.
template <std::size_t known_degree>
SurfaceBend bend_on(const BendRow& row, const RowShares& at, std::size_t degree) {
    const std::size_t count = (known_degree > 0 ? known_degree : degree) + 1;
    std::array<std::array<double, 4>, 6> sums{};
    const auto add = [](std::array<double, 4>& sum, double share, const std::array<double, 4>& pole) {
        for (std::size_t lane = 0; lane < 4; ++lane)
            sum[lane] += share * pole[lane];
    };
    for (std::size_t a = 0; a < count; ++a) {
        const double value = at.shares[a], slope = at.shares[count + a], bend = at.shares[2 * count + a];
        const std::size_t pole = at.first + a;
        const auto &here = row.curves[0][pole], &across = row.curves[1][pole];
        add(sums[0], value, here);
        add(sums[1], slope, here);
        add(sums[2], bend, here);
        add(sums[3], value, across);
        add(sums[4], slope, across);
        add(sums[5], value, row.curves[2][pole]);
    }
    const auto place = [&](std::size_t sum) { return Vec3{sums[sum][0], sums[sum][1], sums[sum][2]}; };
    return {{place(0), place(1), place(3)}, place(2), place(4), place(5)};
}

// With the instructions of newer processors, which add four numbers at once: all of it is inlined.
__attribute__((target("avx2,fma"), flatten)) SurfaceBend wide_bend_on(const BendRow& row, const RowShares& at,
                                                                      std::size_t) {
    return bend_on<3>(row, at, 3);
}

auto bends_by(const SplineBasis& basis) {
    if (basis.degree != 3) return &bend_on<0>;
    return __builtin_cpu_supports("avx2") && __builtin_cpu_supports("fma") ? &wide_bend_on : &bend_on<3>;
}

struct SharesOfRow {
    std::vector<std::size_t> first;
    std::vector<double> shares;
};

SharesOfRow shares_on(const SplineBasis& basis, const std::vector<double>& parameters) {
    SharesOfRow row;
    const auto count = static_cast<std::ptrdiff_t>(basis.degree) + 1;
    for (const double parameter : parameters) {
        const BasisBends bends = basis_bends_at(basis, parameter);
        row.first.push_back(bends.at.first);
        for (const auto* shares : {&bends.at.values, &bends.at.slopes, &bends.bends})
            row.shares.insert(row.shares.end(), shares->begin(), shares->begin() + count);
    }
    return row;
}

}  // namespace

bool visit_bends(const SplinePatch& patch, const std::vector<double>& u, const std::vector<double>& v,
                 const EachBend& each, const Run& run) {
    const std::size_t rows_a_block = std::max<std::size_t>(1, 4096 / u.size());
    if (patch.rational()) {
        const PatchEvaluator evaluator(patch);
        return parallel_blocks(v.size(), rows_a_block, run, [&](std::size_t begin, std::size_t end) {
            for (std::size_t row = begin; row < end; ++row)
                for (std::size_t column = 0; column < u.size(); ++column)
                    each(column, row, evaluator.bend_at(u[column], v[row]));
        });
    }
    const SharesOfRow shares = shares_on(patch.u(), u);
    const auto degree = static_cast<std::size_t>(patch.u().degree);
    const auto bend = bends_by(patch.u());
    return parallel_blocks(v.size(), rows_a_block, run, [&](std::size_t begin, std::size_t end) {
        BendRow curves;
        for (std::size_t row = begin; row < end; ++row) {
            set_row(curves, patch, basis_bends_at(patch.v(), v[row]));
            for (std::size_t column = 0; column < u.size(); ++column)
                each(column, row,
                     bend(curves, {shares.first[column], shares.shares.data() + column * 3 * (degree + 1)},
                          degree));
        }
    });
}

Result<SurfaceSamples> sample_on(const SplinePatch& patch, const SampleLines& u, const SampleLines& v,
                                 const Run& run) {
    const std::vector<BasisAt> bases_u = bases_on(patch.u(), u.parameters),
                               bases_v = bases_on(patch.v(), v.parameters);
    SurfaceSamples samples;
    samples.count_u = bases_u.size();
    samples.count_v = bases_v.size();
    samples.closed_u = patch.u().closed;
    samples.closed_v = patch.v().closed;
    const std::size_t total = samples.count_u * samples.count_v;
    for (Doubles* column :
         {&samples.x, &samples.y, &samples.z, &samples.normal_x, &samples.normal_y, &samples.normal_z})
        column->resize(total);
    std::vector<Doubles> fields(patch.fields().size(), Doubles(total));

    const Channels channels = channels_of(patch);
    const std::size_t poles = patch.u().pole_count(), weight_channel = 3 + fields.size();
    const std::size_t rows_a_block = std::max<std::size_t>(1, 4096 / samples.count_u);
    const bool finished =
        parallel_blocks(samples.count_v, rows_a_block, run, [&](std::size_t begin, std::size_t end) {
            std::vector<double> curve(channels.data.size() * poles), across(curve.size());
            for (std::size_t row = begin; row < end; ++row) {
                curve_poles(channels.data, poles, bases_v[row], patch.v().degree, false, curve.data());
                curve_poles(channels.data, poles, bases_v[row], patch.v().degree, true, across.data());
                for (std::size_t column = 0; column < samples.count_u; ++column) {
                    const std::size_t index = column + row * samples.count_u;
                    const BasisAt& at = bases_u[column];
                    store(samples, index,
                          point_at(curve.data(), across.data(), poles, weight_channel, patch.rational(), at,
                                   patch.u().degree));
                    const double weight =
                        patch.rational() ? along(curve.data() + weight_channel * poles, at, patch.u().degree)
                                         : 1;
                    for (std::size_t f = 0; f < fields.size(); ++f)
                        fields[f][index] =
                            along(curve.data() + (3 + f) * poles, at, patch.u().degree) / weight;
                }
            }
        });
    if (!finished) return cancelled_error();
    for (std::size_t f = 0; f < fields.size(); ++f)
        samples.fields.push_back({patch.fields()[f].name, std::move(fields[f]), patch.fields()[f].dimension});
    return samples;
}

Result<SurfaceSamples> sample(const SplinePatch& patch, int per_bay, const Run& run) {
    return sample_on(patch, sample_lines(patch.u(), per_bay, 1), sample_lines(patch.v(), per_bay, 1), run);
}

std::size_t nodes_per_sample(const SplinePatch& patch, std::size_t target) {
    const auto bays = static_cast<double>(bays_of(patch.u())) * static_cast<double>(bays_of(patch.v()));
    return static_cast<std::size_t>(std::max(1.0, std::ceil(std::sqrt(bays / static_cast<double>(target)))));
}

std::optional<std::pair<double, double>> range_at_nodes(const SplinePatch& patch, const Field& field) {
    const std::vector<BasisAt> bases_u = bases_on(patch.u(), sample_lines(patch.u(), 1, 1).parameters),
                               bases_v = bases_on(patch.v(), sample_lines(patch.v(), 1, 1).parameters);
    const std::size_t poles = patch.u().pole_count();
    Doubles weighted(patch.rational() ? field.values.size() : 0);
    for (std::size_t pole = 0; pole < weighted.size(); ++pole)
        weighted[pole] = field.values[pole] * patch.weights()[pole];
    std::vector<const double*> channels{field.values.span().data()};
    if (patch.rational()) channels = {weighted.data(), patch.weights().data()};
    std::vector<std::pair<double, double>> rows(bases_v.size(), {Box::infinite, -Box::infinite});
    parallel_blocks(rows.size(), 16, Run(), [&](std::size_t begin, std::size_t end) {
        std::vector<double> curve(channels.size() * poles);
        for (std::size_t row = begin; row < end; ++row) {
            curve_poles(channels, poles, bases_v[row], patch.v().degree, false, curve.data());
            auto [low, high] = rows[row];
            for (const BasisAt& at : bases_u) {
                double value = along(curve.data(), at, patch.u().degree);
                if (patch.rational()) value /= along(curve.data() + poles, at, patch.u().degree);
                if (!std::isfinite(value)) continue;
                low = std::min(low, value);
                high = std::max(high, value);
            }
            rows[row] = {low, high};
        }
    });
    std::pair<double, double> range{Box::infinite, -Box::infinite};
    for (const auto& [low, high] : rows)
        range = {std::min(range.first, low), std::max(range.second, high)};
    if (range.first > range.second) return {};
    return range;
}

int samples_per_bay(const SplinePatch& patch, std::size_t target) {
    const auto bays = static_cast<double>(bays_of(patch.u()) * bays_of(patch.v()));
    return static_cast<int>(std::clamp(std::floor(std::sqrt(static_cast<double>(target) / bays)), 1.0, 16.0));
}

Result<Mesh> mesh_of(const SurfaceSamples& samples) {
    Mesh::Parts parts;
    parts.x = samples.x;
    parts.y = samples.y;
    parts.z = samples.z;
    parts.fields = samples.fields;
    const std::size_t bays_u = samples.closed_u ? samples.count_u : samples.count_u - 1;
    const std::size_t bays_v = samples.closed_v ? samples.count_v : samples.count_v - 1;
    for (std::size_t b = 0; b < bays_v; ++b)
        for (std::size_t a = 0; a < bays_u; ++a) {
            const std::size_t right = (a + 1) % samples.count_u, above = (b + 1) % samples.count_v;
            for (const std::size_t corner : {a + samples.count_u * b, right + samples.count_u * b,
                                             right + samples.count_u * above, a + samples.count_u * above})
                parts.corners.push_back(static_cast<std::uint32_t>(corner));
            parts.first.push_back(static_cast<std::uint32_t>(parts.corners.size()));
        }
    return Mesh::make(std::move(parts));
}

}  // namespace plume

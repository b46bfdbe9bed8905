#include "core/geometry/numbers/distance.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>
#include <optional>

#include "core/base/parallel.hpp"
#include "core/geometry/curves/segment_tree.hpp"
#include "core/geometry/measures/point_tree.hpp"

namespace plume {
namespace {

// Chunks stay in the first-level cache while every attractor passes over them.
constexpr std::size_t chunk_size = 1024;

struct Chunk {
    const double *x, *y, *z;
    std::size_t count;
};

void distances_to(Vec3 place, const Chunk& chunk, double* __restrict out) {
    for (std::size_t index = 0; index < chunk.count; ++index) {
        const double dx = chunk.x[index] - place.x, dy = chunk.y[index] - place.y,
                     dz = chunk.z[index] - place.z;
        out[index] = std::sqrt(dx * dx + dy * dy + dz * dz);
    }
}

// An attractor with the tree of its segments, if it is a path.
struct Source {
    const Attractor* attractor;
    std::unique_ptr<const SegmentTree> tree;
};

void distances_to(const Source& source, const Chunk& chunk, double* __restrict out) {
    if (!source.tree) return distances_to(source.attractor->position, chunk, out);
    std::size_t guess = 0;
    for (std::size_t index = 0; index < chunk.count; ++index) {
        const NearestPlace found =
            source.tree->nearest({chunk.x[index], chunk.y[index], chunk.z[index]}, guess);
        guess = found.segment;
        out[index] = found.distance;
    }
}

// Compares squares and takes one root a point instead of one an attractor.
void nearest_point(const Chunk& chunk, const std::vector<Source>& sources, double* __restrict out) {
    std::fill_n(out, chunk.count, std::numeric_limits<double>::infinity());
    for (const Source& source : sources) {
        const Vec3 place = source.attractor->position;
        const double scale = 1 / (source.attractor->weight * source.attractor->weight);
        for (std::size_t index = 0; index < chunk.count; ++index) {
            const double dx = chunk.x[index] - place.x, dy = chunk.y[index] - place.y,
                         dz = chunk.z[index] - place.z;
            const double square = (dx * dx + dy * dy + dz * dz) * scale;
            out[index] = square < out[index] ? square : out[index];
        }
    }
    for (std::size_t index = 0; index < chunk.count; ++index)
        out[index] = std::sqrt(out[index]);
}

// From so many equal attractors on a tree of them is quicker than passing over all (measured in bench/).
constexpr std::size_t least_for_tree = 64;

// Of attractors that are points of the same weight.
void nearest_point(const Chunk& chunk, const PointTree& tree, double weight, double* __restrict out) {
    for (std::size_t index = 0; index < chunk.count; ++index)
        out[index] =
            std::sqrt(tree.nearest_square({chunk.x[index], chunk.y[index], chunk.z[index]})) / weight;
}

using ChunkNumbers = std::array<double, chunk_size>;

// The general way: paths among them, or weights of either sign.
void nearest(const Chunk& chunk, const std::vector<Source>& sources, double* __restrict out,
             ChunkNumbers& signs) {
    ChunkNumbers distances;  // NOLINT: written by distances_to before it is read
    std::fill_n(out, chunk.count, std::numeric_limits<double>::infinity());
    for (const Source& source : sources) {
        distances_to(source, chunk, distances.data());
        const double scale = 1 / std::abs(source.attractor->weight),
                     sign = source.attractor->weight < 0 ? -1 : 1;
        for (std::size_t index = 0; index < chunk.count; ++index) {
            const double weighed = distances[index] * scale;
            signs[index] = weighed < out[index] ? sign : signs[index];
            out[index] = weighed < out[index] ? weighed : out[index];
        }
    }
}

void accumulate(const Chunk& chunk, const std::vector<Source>& sources, const DistanceRule& rule,
                double* __restrict out) {
    const bool product = rule.combination == Combination::product;
    ChunkNumbers answers;  // NOLINT: written by distances_to before it is read
    double total = 0;
    std::fill_n(out, chunk.count, product ? 1.0 : 0.0);
    for (const Source& source : sources) {
        distances_to(source, chunk, answers.data());
        respond(rule.shaping, rule.reach, std::span(answers).first(chunk.count));
        const double weight = source.attractor->weight;
        total += std::abs(weight);
        for (std::size_t index = 0; index < chunk.count; ++index) {
            if (product)
                out[index] *= weight == 1 ? answers[index] : std::pow(answers[index], weight);
            else
                out[index] += weight * answers[index];
        }
    }
    if (rule.combination == Combination::average)
        for (std::size_t index = 0; index < chunk.count; ++index)
            out[index] /= total;
}

Dimension dimension_of(const DistanceRule& rule, const std::vector<Attractor>& attractors) {
    if (rule.shaping.response != Response::distance) return plain_number;
    if (rule.combination != Combination::product) return a_length;
    double power = 0;
    for (const Attractor& attractor : attractors)
        power += attractor.weight;
    // Distances to fractional powers have no unit one could write; they are passed on as plain numbers.
    if (power != std::round(power) || std::abs(power) > 100) return plain_number;
    return {static_cast<std::int16_t>(power), 0};
}

}  // namespace

Result<Field> distance_field(const PointLattice& lattice, const Attractors& attractors,
                             const DistanceRule& rule, const Run& run) {
    std::vector<Source> sources;
    std::vector<Vec3> places;
    bool plain = true, equal = true;
    for (const Attractor& item : attractors.items()) {
        sources.push_back({&item, item.path ? std::make_unique<const SegmentTree>(*item.path) : nullptr});
        places.push_back(item.position);
        plain = plain && !item.path && item.weight > 0;
        equal = equal && item.weight == attractors.items().front().weight;
    }
    std::optional<PointTree> tree;
    if (plain && equal && rule.combination == Combination::nearest && places.size() >= least_for_tree)
        tree.emplace(places);
    Doubles values(lattice.address_count());
    const bool finished =
        parallel_blocks(values.size(), usual_block, run, [&](std::size_t begin, std::size_t end) {
            for (std::size_t at = begin; at < end; at += chunk_size) {
                const Chunk chunk{lattice.x().data() + at, lattice.y().data() + at, lattice.z().data() + at,
                                  std::min(chunk_size, end - at)};
                double* const out = values.data() + at;
                if (rule.combination != Combination::nearest) {
                    accumulate(chunk, sources, rule, out);
                    continue;
                }
                if (plain) {
                    if (tree)
                        nearest_point(chunk, *tree, sources.front().attractor->weight, out);
                    else
                        nearest_point(chunk, sources, out);
                    respond(rule.shaping, rule.reach, {out, chunk.count});
                    continue;
                }
                ChunkNumbers signs;
                signs.fill(1);
                nearest(chunk, sources, out, signs);
                respond(rule.shaping, rule.reach, {out, chunk.count});
                for (std::size_t index = 0; index < chunk.count; ++index)
                    out[index] *= signs[index];
            }
        });
    if (!finished) return cancelled_error();
    return Field{"", std::move(values), dimension_of(rule, attractors.items())};
}

}  // namespace plume

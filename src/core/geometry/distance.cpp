#include "core/geometry/distance.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>

#include "core/base/parallel.hpp"

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

// Compares squares and takes one root a point instead of one an attractor.
void nearest(const Chunk& chunk, const std::vector<Attractor>& attractors, double* __restrict out) {
    std::fill_n(out, chunk.count, std::numeric_limits<double>::infinity());
    for (const Attractor& attractor : attractors) {
        const Vec3 place = attractor.position;
        const double scale = 1 / (attractor.weight * attractor.weight);
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

void accumulate(const Chunk& chunk, const std::vector<Attractor>& attractors, const DistanceRule& rule,
                double* __restrict out) {
    const bool product = rule.combination == Combination::product;
    std::array<double, chunk_size> answers;  // NOLINT: written by distances_to before it is read
    double total = 0;
    std::fill_n(out, chunk.count, product ? 1.0 : 0.0);
    for (const Attractor& attractor : attractors) {
        distances_to(attractor.position, chunk, answers.data());
        respond(rule.response, rule.reach, std::span(answers).first(chunk.count));
        const double weight = attractor.weight;
        total += weight;
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
    if (rule.response != Response::distance) return plain_number;
    if (rule.combination != Combination::product) return a_length;
    double power = 0;
    for (const Attractor& attractor : attractors)
        power += attractor.weight;
    // Distances to fractional powers have no unit one could write; they are passed on as plain numbers.
    if (power != std::round(power) || power > 100) return plain_number;
    return {static_cast<std::int16_t>(power), 0};
}

}  // namespace

Result<Field> distance_field(const PointLattice& lattice, const Attractors& attractors,
                             const DistanceRule& rule, const Run& run) {
    Doubles values(lattice.address_count());
    const bool finished =
        parallel_blocks(values.size(), usual_block, run, [&](std::size_t begin, std::size_t end) {
            for (std::size_t at = begin; at < end; at += chunk_size) {
                const Chunk chunk{lattice.x().data() + at, lattice.y().data() + at, lattice.z().data() + at,
                                  std::min(chunk_size, end - at)};
                double* const out = values.data() + at;
                if (rule.combination == Combination::nearest) {
                    nearest(chunk, attractors.items(), out);
                    respond(rule.response, rule.reach, {out, chunk.count});
                } else {
                    accumulate(chunk, attractors.items(), rule, out);
                }
            }
        });
    if (!finished) return cancelled_error();
    return Field{"", std::move(values), dimension_of(rule, attractors.items())};
}

}  // namespace plume

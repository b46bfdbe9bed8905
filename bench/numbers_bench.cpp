// Times of numbers on a million points, posts and picking, each beside a baseline measured in the same run.

#include <benchmark/benchmark.h>

#include <cmath>

#include "core/base/parallel.hpp"
#include "core/geometry/meshes/posts.hpp"
#include "core/geometry/numbers/distance.hpp"
#include "core/geometry/numbers/noise_field.hpp"
#include "core/geometry/pictures/image_sampling.hpp"
#include "core/picture/drawable.hpp"
#include "core/picture/picking.hpp"

namespace plume {
namespace {

constexpr std::size_t side = 1000, million = side * side;

PointLattice million_points() {
    Doubles x(million), y(million), z(million);
    for (std::size_t index = 0; index < million; ++index) {
        x[index] = static_cast<double>(index % side) * 0.036;
        y[index] = static_cast<double>(index / side) * 0.024;
        z[index] = std::sin(x[index]) * std::cos(y[index]);
    }
    PointLattice::Parts parts;
    parts.counts = {side, side, 1};
    parts.x = std::move(x);
    parts.y = std::move(y);
    parts.z = std::move(z);
    return *PointLattice::make(std::move(parts));
}

std::vector<Attractor> sixteen() {
    std::vector<Attractor> items;
    for (int at = 0; at < 16; ++at)
        items.push_back({"a", {std::fmod(at * 7.7, 36.0), std::fmod(at * 5.3, 24.0), 0.3 * at}, 1});
    return items;
}

void BM_Nearest_of_16_with_response_1M(benchmark::State& state) {
    const PointLattice points = million_points();
    const Attractors items = *Attractors::make(sixteen());
    for (auto _ : state)
        benchmark::DoNotOptimize(
            distance_field(points, items, {Combination::nearest, Response::half_sine, 12}, Run()));
}
BENCHMARK(BM_Nearest_of_16_with_response_1M)->Unit(benchmark::kMillisecond)->UseRealTime();

// The baseline: squares, one root and the half sine's polynomial in one plain loop the compiler vectorises,
// on the same threads.
void BM_Nearest_of_16_plain_loop_1M(benchmark::State& state) {
    const PointLattice points = million_points();
    const std::vector<Attractor> items = sixteen();
    for (auto _ : state) {
        Doubles out(million);
        const double *x = points.x().data(), *y = points.y().data(), *z = points.z().data();
        parallel_blocks(million, usual_block, Run(), [&](std::size_t begin, std::size_t end) {
            double* const to = out.data();
            for (std::size_t at = begin; at < end; at += 1024) {
                const std::size_t stop = std::min(at + 1024, end);
                for (std::size_t index = at; index < stop; ++index)
                    to[index] = 1e300;
                for (const Attractor& item : items) {
                    const Vec3 p = item.position;
                    for (std::size_t index = at; index < stop; ++index) {
                        const double dx = x[index] - p.x, dy = y[index] - p.y, dz = z[index] - p.z;
                        const double square = dx * dx + dy * dy + dz * dz;
                        to[index] = square < to[index] ? square : to[index];
                    }
                }
                for (std::size_t index = at; index < stop; ++index)
                    to[index] = std::sqrt(to[index]);
                respond(Response::half_sine, 12, {to + at, stop - at});
            }
        });
        benchmark::DoNotOptimize(out.data());
    }
}
BENCHMARK(BM_Nearest_of_16_plain_loop_1M)->Unit(benchmark::kMillisecond)->UseRealTime();

// Alike they are found by a tree; one of another weight has all of them passed over.
Attractors thousand(double last_weight) {
    std::vector<Attractor> items;
    for (int at = 0; at < 1000; ++at)
        items.push_back({"a", {std::fmod(at * 7.77, 36.0), std::fmod(at * 5.31, 24.0), 0.001 * at}, 1});
    items.back().weight = last_weight;
    return *Attractors::make(std::move(items));
}

void BM_Nearest_of_1000(benchmark::State& state) {
    const PointLattice points = million_points();
    const Attractors items = thousand(state.range(0) == 0 ? 1 : 2);
    for (auto _ : state)
        benchmark::DoNotOptimize(distance_field(points, items, {}, Run()));
}
// 0: by a tree; 1: every one.
BENCHMARK(BM_Nearest_of_1000)->Arg(0)->Arg(1)->Unit(benchmark::kMillisecond)->UseRealTime();

std::vector<Vec3> long_curve() {
    std::vector<Vec3> corners;
    for (int at = 0; at <= 10'000; ++at) {
        const double t = at * 0.004;
        corners.push_back({18 + t * 0.4 * std::cos(t), 12 + t * 0.3 * std::sin(t), std::sin(2 * t)});
    }
    return corners;
}

void BM_Curve_of_10000_segments_1M(benchmark::State& state) {
    const PointLattice points = million_points();
    const auto corners = long_curve();
    const Attractors items =
        *Attractors::make({{"path", corners.front(), 1, std::make_shared<const std::vector<Vec3>>(corners)}});
    for (auto _ : state)
        benchmark::DoNotOptimize(distance_field(points, items, {}, Run()));
}
BENCHMARK(BM_Curve_of_10000_segments_1M)->Unit(benchmark::kMillisecond)->UseRealTime();

// The baseline on a hundredth of the points: every segment for every point, segments laid out for vectors.
void BM_Curve_of_10000_segments_every_one_10k(benchmark::State& state) {
    const PointLattice points = million_points();
    const auto corners = long_curve();
    const std::size_t count = corners.size() - 1;
    std::vector<double> fx(count), fy(count), fz(count), ax(count), ay(count), az(count), inverse(count);
    for (std::size_t at = 0; at < count; ++at) {
        const Vec3 along = corners[at + 1] - corners[at];
        fx[at] = corners[at].x, fy[at] = corners[at].y, fz[at] = corners[at].z;
        ax[at] = along.x, ay[at] = along.y, az[at] = along.z;
        inverse[at] = 1 / dot(along, along);
    }
    for (auto _ : state) {
        Doubles out(million / 100);
        parallel_blocks(out.size(), 256, Run(), [&](std::size_t begin, std::size_t end) {
            std::vector<double> squares(count);
            for (std::size_t index = begin; index < end; ++index) {
                const Vec3 p = points.point(index * 100);
                for (std::size_t at = 0; at < count; ++at) {
                    const double dx = p.x - fx[at], dy = p.y - fy[at], dz = p.z - fz[at];
                    double share = (dx * ax[at] + dy * ay[at] + dz * az[at]) * inverse[at];
                    share = share < 0 ? 0 : share;
                    share = share > 1 ? 1 : share;
                    const double ox = dx - share * ax[at], oy = dy - share * ay[at], oz = dz - share * az[at];
                    squares[at] = ox * ox + oy * oy + oz * oz;
                }
                double least = squares[0];
                for (std::size_t at = 1; at < count; ++at)
                    least = squares[at] < least ? squares[at] : least;
                out[index] = std::sqrt(least);
            }
        });
        benchmark::DoNotOptimize(out.data());
    }
}
BENCHMARK(BM_Curve_of_10000_segments_every_one_10k)->Unit(benchmark::kMillisecond)->UseRealTime();

// One core: the loop itself, without threads.
void BM_Noise_6_octaves_1M_one_core(benchmark::State& state) {
    const PointLattice points = million_points();
    Doubles out(million);
    const NoiseLoop loop = __builtin_cpu_supports("avx2") ? avx2_noise : baseline_noise;
    const NoiseRule rule{6, 0.5, 1, {0, 0, 0}};
    for (auto _ : state)
        for (std::size_t at = 0; at < million; at += 500)
            loop(points.x().data() + at, points.y().data() + at, points.z().data() + at, 500, rule,
                 out.data() + at);
    benchmark::DoNotOptimize(out.data());
}
BENCHMARK(BM_Noise_6_octaves_1M_one_core)->Unit(benchmark::kMillisecond)->UseRealTime();

void BM_Picture_cubic_1M_one_core(benchmark::State& state) {
    Raster raster{1024, 768, 1, std::vector<float>(1024 * 768)};
    for (std::size_t at = 0; at < raster.values.size(); ++at)
        raster.values[at] = static_cast<float>(at % 251) / 251.0F;
    Doubles u(million), v(million), out(million);
    for (std::size_t index = 0; index < million; ++index) {
        u[index] = static_cast<double>(index % side) / (side - 1);
        v[index] = static_cast<double>(index / side) / (side - 1);
    }
    const ImageSampler sampler(raster, Filter::cubic, Beyond::edge);
    for (auto _ : state)
        sampler.sample(u.data(), v.data(), million, out.data());
    benchmark::DoNotOptimize(out.data());
}
BENCHMARK(BM_Picture_cubic_1M_one_core)->Unit(benchmark::kMillisecond)->UseRealTime();

// The baseline of times that are asked for in seconds: a million sines of the C library.
void BM_Sines_1M_one_core(benchmark::State& state) {
    const PointLattice points = million_points();
    Doubles out(million);
    for (auto _ : state)
        for (std::size_t index = 0; index < million; ++index)
            out[index] = std::sin(points.x()[index] * 31);
    benchmark::DoNotOptimize(out.data());
}
BENCHMARK(BM_Sines_1M_one_core)->Unit(benchmark::kMillisecond)->UseRealTime();

std::vector<Post> many_posts() {
    std::vector<Post> posts(100'000);
    for (std::size_t at = 0; at < posts.size(); ++at) {
        posts[at].placement.origin = {static_cast<double>(at % 400) * 0.9,
                                      static_cast<double>(at / 400) * 0.9, 0};
        posts[at].height = 1 + static_cast<double>(at % 17) * 0.1;
        posts[at].turn_rad = static_cast<double>(at) * 0.01;
    }
    return posts;
}

void BM_Posts_100k_boxes_to_triangles(benchmark::State& state) {
    const auto posts = many_posts();
    for (auto _ : state) {
        const Mesh mesh = *posts_mesh(posts, {Footprint::box, 4}, Run());
        benchmark::DoNotOptimize(make_drawable(mesh, {}, Run()));
    }
}
BENCHMARK(BM_Posts_100k_boxes_to_triangles)->Unit(benchmark::kMillisecond)->UseRealTime();

void BM_Posts_100k_boxes_mesh_alone(benchmark::State& state) {
    const auto posts = many_posts();
    for (auto _ : state)
        benchmark::DoNotOptimize(posts_mesh(posts, {Footprint::box, 4}, Run()));
}
BENCHMARK(BM_Posts_100k_boxes_mesh_alone)->Unit(benchmark::kMillisecond)->UseRealTime();

void BM_Posts_100k_overlaps(benchmark::State& state) {
    const auto posts = many_posts();
    for (auto _ : state)
        benchmark::DoNotOptimize(post_overlaps(posts, {Footprint::box, 4}, Run()));
}
BENCHMARK(BM_Posts_100k_overlaps)->Unit(benchmark::kMillisecond)->UseRealTime();

void BM_Pick_among_1M(benchmark::State& state) {
    const Drawable drawable = *make_drawable(million_points(), {}, Run());
    Camera camera;
    camera.fit(drawable.bounds, 740.0 / 545);
    double x = 100;
    for (auto _ : state) {
        x = x > 600 ? 100 : x + 1;
        benchmark::DoNotOptimize(pick_point(drawable, camera, {740, 545}, {x, 270}, 9));
    }
}
BENCHMARK(BM_Pick_among_1M)->Unit(benchmark::kMillisecond)->UseRealTime();

}  // namespace
}  // namespace plume

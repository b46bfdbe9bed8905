// Forms in balance: force densities against one factor of the same matrix, a net at rest, circles pushed
// apart.

#include <benchmark/benchmark.h>

#include <Eigen/Sparse>
#include <cmath>

#include "core/forces/force_density.hpp"
#include "core/forces/pushed_apart.hpp"
#include "core/forces/relaxation.hpp"
#include "core/forces/spread_lines.hpp"

namespace {

using namespace plume;

// A square net of 1 m meshes, held at its corners, loaded at each node.
Net square_net(std::size_t side) {
    Net net;
    const auto at = [&](std::size_t i, std::size_t j) { return static_cast<std::uint32_t>(i + j * side); };
    for (std::size_t j = 0; j < side; ++j)
        for (std::size_t i = 0; i < side; ++i) {
            const bool corner = (i == 0 || i + 1 == side) && (j == 0 || j + 1 == side);
            net.places.push_back(
                {static_cast<double>(i), static_cast<double>(j), corner && i == j ? 9.0 : 0.0});
            net.held.push_back(corner ? 1 : 0);
            net.loads.push_back({0, 0, -0.01});
            if (i > 0) net.links.push_back({at(i - 1, j), at(i, j)});
            if (j > 0) net.links.push_back({at(i, j - 1), at(i, j)});
        }
    return net;
}

void BM_Forces_100k_nodes_by_densities(benchmark::State& state) {
    const Net net = square_net(317);
    const std::vector<double> densities(net.links.size(), 1);
    double residual = 0;
    for (auto _ : state) {
        const auto made = balanced_by_densities(net, densities, Run());
        residual = made->residual;
        benchmark::DoNotOptimize(made->places.data());
    }
    state.counters["residual"] = residual;
}
BENCHMARK(BM_Forces_100k_nodes_by_densities)->Unit(benchmark::kMillisecond);

void BM_Forces_100k_nodes_bare_factor(benchmark::State& state) {
    const Net net = square_net(317);
    std::vector<Eigen::Triplet<double>> entries;
    const int count = static_cast<int>(net.places.size());
    for (const auto& [from, to] : net.links) {
        entries.emplace_back(from, from, 1);
        entries.emplace_back(to, to, 1);
        entries.emplace_back(to, from, -1);
    }
    for (int place = 0; place < count; ++place)
        if (net.held[static_cast<std::size_t>(place)] > 0) entries.emplace_back(place, place, 1e6);
    Eigen::SparseMatrix<double> matrix(count, count);
    matrix.setFromTriplets(entries.begin(), entries.end());
    const Eigen::MatrixXd right = Eigen::MatrixXd::Ones(count, 3);
    for (auto _ : state) {
        const Eigen::SimplicialLDLT<Eigen::SparseMatrix<double>> factor(matrix);
        const Eigen::MatrixXd found = factor.solve(right);
        benchmark::DoNotOptimize(found.data());
    }
}
BENCHMARK(BM_Forces_100k_nodes_bare_factor)->Unit(benchmark::kMillisecond);

void BM_Forces_6400_nodes_at_rest(benchmark::State& state) {
    const Net net = square_net(80);
    const Elasticity elasticity{std::vector<double>(net.links.size(), 1.02),
                                std::vector<double>(net.links.size(), 500)};
    for (auto _ : state)
        benchmark::DoNotOptimize(relaxed_net(net, elasticity, Run())->places.data());
}
BENCHMARK(BM_Forces_6400_nodes_at_rest)->Unit(benchmark::kMillisecond);

void BM_Forces_10k_circles_apart(benchmark::State& state) {
    Spheres spheres;
    for (std::size_t at = 0; at < 10'000; ++at) {
        const double turn = 2.399963 * static_cast<double>(at),
                     far = 0.5 * std::sqrt(static_cast<double>(at));
        spheres.places.push_back({far * std::cos(turn), far * std::sin(turn), 0});
        spheres.radii.push_back(0.3 + 0.3 * static_cast<double>(at % 7) / 7);
        spheres.stays.push_back(0);
    }
    const PushingRule rule{.kept = [](std::size_t, Vec3 place) { return Vec3{place.x, place.y, 0}; }};
    for (auto _ : state)
        benchmark::DoNotOptimize(pushed_apart(spheres, rule, Run())->places.data());
}
BENCHMARK(BM_Forces_10k_circles_apart)->Unit(benchmark::kMillisecond);

// 100 rounds of 40 lines that wave through each other's reach.
void BM_Forces_20k_points_of_lines_spread(benchmark::State& state) {
    std::vector<SpreadLine> lines;
    for (int line = 0; line < 40; ++line) {
        lines.emplace_back();
        for (int at = 0; at <= 500; ++at)
            lines.back().at.push_back(
                {0.04 * at, 0.19 * line + 0.05 * std::sin(0.1 * at * (1 + line % 3)), 0});
    }
    const SpreadingRule rule{.gap = 0.2, .most_rounds = 100};
    for (auto _ : state)
        benchmark::DoNotOptimize(spread_lines(lines, rule, Run())->lines.data());
}
BENCHMARK(BM_Forces_20k_points_of_lines_spread)->Unit(benchmark::kMillisecond);

}  // namespace

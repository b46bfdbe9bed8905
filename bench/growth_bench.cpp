// Growth: parts by rules against the same rule as a loop, and branches towards many goals.

#include <benchmark/benchmark.h>

#include <cmath>

#include "core/base/noise.hpp"
#include "core/growth/branch_tree.hpp"
#include "core/growth/colonisation.hpp"
#include "core/growth/grown_faces.hpp"
#include "core/growth/grown_parts.hpp"

namespace {

using namespace plume;

constexpr int generations_of_a_million = 19;

constexpr const char* forked =
    "a becomes\n"
    "a, moved size up, turned 0.5 rad about along, turned 0.2 rad about up, sized 0.8\n"
    "a, moved size up, turned -0.5 rad about along, turned 1.3 rad about up, sized 0.8";

// What a result of growth stores, as a loop would fill it.
struct PlainParts {
    std::vector<Placement> placements;
    Doubles x, y, z, depth, number, size;
    std::vector<std::uint32_t> parents;
    std::vector<std::uint16_t> names, lines;

    void add(const Placement& placement, double own_size, double own_depth, double own_number,
             std::uint32_t parent, int line) {
        placements.push_back(placement);
        x.push_back(placement.origin.x);
        y.push_back(placement.origin.y);
        z.push_back(placement.origin.z);
        size.push_back(own_size);
        depth.push_back(own_depth);
        number.push_back(own_number);
        parents.push_back(parent);
        names.push_back(0);
        lines.push_back(static_cast<std::uint16_t>(line));
    }
};

void BM_Growth_1M_parts_plain_loop(benchmark::State& state) {
    for (auto _ : state) {
        PlainParts parts;
        parts.add({}, 1, 0, 0, PartTree::none, 0);
        std::size_t begin = 0;
        for (int generation = 0; generation < generations_of_a_million; ++generation) {
            const std::size_t end = parts.placements.size();
            for (std::size_t parent = begin; parent < end; ++parent)
                for (int child = 0; child < 2; ++child) {
                    Placement placement = parts.placements[parent];
                    const double size = parts.size[parent];
                    placement.origin = placement.origin + placement.up * size;
                    const double lean = child ? -0.5 : 0.5, turn = child ? 1.3 : 0.2;
                    placement.up = placement.up * std::cos(lean) - placement.across * std::sin(lean);
                    placement.across = cross(placement.up, placement.along);
                    placement.along = placement.along * std::cos(turn) + placement.across * std::sin(turn);
                    placement.across = cross(placement.up, placement.along);
                    parts.add(placement, size * 0.8, generation + 1, child,
                              static_cast<std::uint32_t>(parent), child + 1);
                }
            begin = end;
        }
        benchmark::DoNotOptimize(parts.placements.data());
    }
}
BENCHMARK(BM_Growth_1M_parts_plain_loop)->Unit(benchmark::kMillisecond)->UseRealTime();

Placements grown(const char* text, std::size_t generations) {
    auto rules = std::make_shared<const GrowthRules>(*check_rules(text, {}));
    const GrowthStart start{{Placement{}}, {1}, {}, 1};
    GrowthLimits limits;
    limits.generations = generations;
    limits.most = 2'000'000;
    auto made = grow(*rules, start, limits, {}, Run());
    return *grown_parts(*std::move(made), rules, start, {}, {}, KeptParts::all);
}

void BM_Growth_1M_parts(benchmark::State& state) {
    for (auto _ : state)
        benchmark::DoNotOptimize(grown(forked, generations_of_a_million));
}
BENCHMARK(BM_Growth_1M_parts)->Unit(benchmark::kMillisecond)->UseRealTime();

// What is made at every move of a dragged angle.
void BM_Growth_100k_parts(benchmark::State& state) {
    constexpr const char* three =
        "a becomes\na, moved size up, turned 30° about along, sized 0.7\n"
        "a, moved size up, turned 120° about up, turned 30° about along, sized 0.7\n"
        "a, moved size up, turned -120° about up, turned 30° about along, sized 0.7";
    for (auto _ : state)
        benchmark::DoNotOptimize(grown(three, 10));  // 88 573
}
BENCHMARK(BM_Growth_100k_parts)->Unit(benchmark::kMillisecond)->UseRealTime();

void BM_Growth_by_chance_and_formula_1M(benchmark::State& state) {
    constexpr const char* text =
        "lean = 30°\na becomes\na, moved size up, turned lean * (0.5 + random(1)) about along, sized 0.8, "
        "with lean = lean * 0.95\n"
        "a, moved size up, turned -lean about along, turned 360° * random(2) about up, sized 0.7, chance "
        "0.95";
    for (auto _ : state)
        benchmark::DoNotOptimize(grown(text, 20));
}
BENCHMARK(BM_Growth_by_chance_and_formula_1M)->Unit(benchmark::kMillisecond)->UseRealTime();

void BM_Growth_towards_20k_goals(benchmark::State& state) {
    std::vector<Vec3> goals;
    for (double at = 0; at < 20'000; ++at)
        goals.push_back(
            {20 * (random_of(1, at) - 0.5), 20 * (random_of(2, at) - 0.5), 5 + 20 * random_of(3, at)});
    const Colonisation wishes{0.4, static_cast<double>(state.range(0)), 0.5};
    for (auto _ : state)
        benchmark::DoNotOptimize(colonise({Placement{}}, goals, wishes, Run()));
}
BENCHMARK(BM_Growth_towards_20k_goals)->Arg(2)->Arg(8)->Unit(benchmark::kMillisecond)->UseRealTime();

void BM_Growth_members_of_1M(benchmark::State& state) {
    const Placements parts = grown(forked, generations_of_a_million);
    for (auto _ : state) {
        const auto tree = branch_tree(parts, Run());
        benchmark::DoNotOptimize(branch_frame(parts, *tree, branch_thicknesses(*tree, 0.02, 2)));
    }
}
BENCHMARK(BM_Growth_members_of_1M)->Unit(benchmark::kMillisecond)->UseRealTime();

// A row of squares, cut into a million faces.
Mesh row_of_squares(std::size_t count) {
    Mesh::Parts parts;
    Doubles x, y, z;
    for (std::size_t column = 0; column <= count; ++column)
        for (const double side : {0.0, 1.0}) {
            x.push_back(static_cast<double>(column));
            y.push_back(side);
            z.push_back(0);
        }
    for (std::uint32_t at = 0; at < 2 * count; at += 2) {
        parts.corners.insert(parts.corners.end(), {at, at + 2, at + 3, at + 1});
        parts.first.push_back(static_cast<std::uint32_t>(parts.corners.size()));
    }
    parts.x = std::move(x);
    parts.y = std::move(y);
    parts.z = std::move(z);
    return *Mesh::make(std::move(parts));
}

Mesh cut(const char* text, std::size_t squares, std::size_t generations) {
    RulesSetting setting;
    setting.language = RulesLanguage::faces;
    const auto rules = std::make_shared<const GrowthRules>(*check_rules(text, setting));
    const Mesh mesh = row_of_squares(squares);
    FaceStart start = start_on(mesh, 1);
    FaceLimits limits;
    limits.generations = generations;
    limits.most = 4'000'000;
    auto made = grow_faces(*rules, start, limits, {}, Run());
    return *grown_faces(*std::move(made), rules, std::move(start), {}, {}, FaceParts::each, Run());
}

// 64 squares, in seven generations of quarters: 1 048 576 faces.
void BM_Growth_1M_faces(benchmark::State& state) {
    for (auto _ : state)
        benchmark::DoNotOptimize(cut("a becomes\nsplit 2\na", 64, 7));
}
BENCHMARK(BM_Growth_1M_faces)->Unit(benchmark::kMillisecond)->UseRealTime();

// About a million, by conditions and chance, inset and raised.
void BM_Growth_1M_faces_by_chance(benchmark::State& state) {
    constexpr const char* text =
        "a becomes\nsplit 2\na, where random(1) < 0.9\nb\n"
        "b becomes\ninset 0.2\nc, inside\nd, around\nc becomes\nraised 0.1 m * random(2), tapered 0.8\nd";
    for (auto _ : state)
        benchmark::DoNotOptimize(cut(text, 64, 6));
}
BENCHMARK(BM_Growth_1M_faces_by_chance)->Unit(benchmark::kMillisecond)->UseRealTime();

// What a mesh of as many faces takes to be written down by a loop.
void BM_Growth_1M_faces_plain_loop(benchmark::State& state) {
    for (auto _ : state) {
        constexpr std::uint32_t side = 128;
        Mesh::Parts parts;
        Doubles x, y, z;
        for (std::uint32_t j = 0; j <= side; ++j)
            for (std::uint32_t i = 0; i <= 64 * side; ++i) {
                x.push_back(i / 128.0);
                y.push_back(j / 128.0);
                z.push_back(0);
            }
        for (std::uint32_t j = 0; j < side; ++j)
            for (std::uint32_t i = 0; i < 64 * side; ++i) {
                const std::uint32_t at = j * (64 * side + 1) + i, above = at + 64 * side + 1;
                parts.corners.insert(parts.corners.end(), {at, at + 1, above + 1, above});
                parts.first.push_back(static_cast<std::uint32_t>(parts.corners.size()));
            }
        parts.x = std::move(x);
        parts.y = std::move(y);
        parts.z = std::move(z);
        benchmark::DoNotOptimize(*Mesh::make(std::move(parts)));
    }
}
BENCHMARK(BM_Growth_1M_faces_plain_loop)->Unit(benchmark::kMillisecond)->UseRealTime();

}  // namespace

// A scan of two million triangles read as a mesh, against its bytes alone.

#include <benchmark/benchmark.h>

#include <cmath>
#include <filesystem>

#include "core/base/file.hpp"
#include "core/readers/mesh_file.hpp"

namespace plume {
namespace {

std::filesystem::path scan() {
    return std::filesystem::temp_directory_path() / "plume-bench-scan.stl";
}

// Waves, row by row: loose triangles, as scanners write them.
void write_scan() {
    constexpr std::size_t side = 1000;
    std::string bytes(80, ' ');
    const auto put = [&](const auto& value) {
        bytes.append(reinterpret_cast<const char*>(&value), sizeof value);
    };
    const auto put_place = [&](std::size_t i, std::size_t j) {
        const float u = static_cast<float>(i) * 0.05F, v = static_cast<float>(j) * 0.05F;
        put(u);
        put(v);
        put(std::sin(u) * std::cos(v));
    };
    put(static_cast<std::uint32_t>(2 * side * side));
    for (std::size_t j = 0; j < side; ++j)
        for (std::size_t i = 0; i < side; ++i)
            for (const bool upper : {false, true}) {
                bytes.append(12, '\0');
                put_place(i, j);
                upper ? put_place(i + 1, j + 1) : put_place(i + 1, j);
                upper ? put_place(i, j + 1) : put_place(i + 1, j + 1);
                bytes.append(2, '\0');
            }
    (void)write_file(scan(), bytes);
}

void BM_Read_stl_2M_triangles(benchmark::State& state) {
    write_scan();
    for (auto _ : state)
        if (!read_mesh_file(scan(), Run())) state.SkipWithError("nothing was read");
    std::filesystem::remove(scan());
}
void BM_Read_stl_2M_triangles_bytes_alone(benchmark::State& state) {
    write_scan();
    for (auto _ : state)
        benchmark::DoNotOptimize(read_file(scan(), 1'000'000'000));
    std::filesystem::remove(scan());
}

BENCHMARK(BM_Read_stl_2M_triangles)->Unit(benchmark::kMillisecond)->UseRealTime();
BENCHMARK(BM_Read_stl_2M_triangles_bytes_alone)->Unit(benchmark::kMillisecond)->UseRealTime();

}  // namespace
}  // namespace plume

// Files of a million triangles against a bare write of the same bytes.

#include <benchmark/benchmark.h>
#include <zlib.h>

#include <cmath>
#include <cstring>
#include <filesystem>

#include "core/exchange/export.hpp"
#include "core/geometry/meshes/posts.hpp"
#include "core/geometry/surfaces/spline_interpolation.hpp"

namespace plume {
namespace {

constexpr std::size_t side = 708;  // vertices: 999 698 triangles

ValuePointer waves() {
    Mesh::Parts parts;
    Doubles x, y, z;
    for (std::size_t j = 0; j < side; ++j)
        for (std::size_t i = 0; i < side; ++i) {
            const double u = 0.05 * static_cast<double>(i), v = 0.05 * static_cast<double>(j);
            x.push_back(u);
            y.push_back(v);
            z.push_back(std::sin(u) * std::cos(v));
        }
    parts.x = std::move(x);
    parts.y = std::move(y);
    parts.z = std::move(z);
    for (std::uint32_t j = 0; j + 1 < side; ++j)
        for (std::uint32_t i = 0; i + 1 < side; ++i) {
            const std::uint32_t at = i + static_cast<std::uint32_t>(side) * j;
            const auto above = at + static_cast<std::uint32_t>(side);
            for (const std::uint32_t corner : {at, at + 1, above + 1, at, above + 1, above})
                parts.corners.push_back(corner);
            const auto end = static_cast<std::uint32_t>(parts.corners.size());
            parts.first.insert(parts.first.end(), {end - 3, end});
        }
    return std::make_shared<const Value>(*Mesh::make(std::move(parts)));
}

std::filesystem::path target(const std::string& extension) {
    return std::filesystem::temp_directory_path() / ("plume-bench" + extension);
}

void write_format(benchmark::State& state, const std::string& extension) {
    const ExportJob job{{{waves(), "waves"}}, {}, LengthUnit::metre};
    for (auto _ : state)
        if (!export_results(job, target(extension), Run())) state.SkipWithError("nothing was written");
    state.counters["MB"] = static_cast<double>(std::filesystem::file_size(target(extension))) / 1e6;
    std::filesystem::remove(target(extension));
}
void write_bare(benchmark::State& state, const std::string& extension) {
    const ExportJob job{{{waves(), "waves"}}, {}, LengthUnit::metre};
    if (!export_results(job, target(extension), Run())) return state.SkipWithError("nothing was written");
    const std::string bytes = *read_file(target(extension), 1'000'000'000);
    for (auto _ : state)
        if (!write_file(target(extension), bytes)) state.SkipWithError("nothing was written");
    std::filesystem::remove(target(extension));
}

void BM_Stl_1M_triangles(benchmark::State& state) {
    write_format(state, ".stl");
}
void BM_Stl_1M_triangles_bare(benchmark::State& state) {
    write_bare(state, ".stl");
}
void BM_Ply_1M_triangles(benchmark::State& state) {
    write_format(state, ".ply");
}
void BM_Ply_1M_triangles_bare(benchmark::State& state) {
    write_bare(state, ".ply");
}
void BM_Glb_1M_triangles(benchmark::State& state) {
    write_format(state, ".glb");
}
void BM_Glb_1M_triangles_bare(benchmark::State& state) {
    write_bare(state, ".glb");
}
void BM_3mf_1M_triangles(benchmark::State& state) {
    write_format(state, ".3mf");
}
// What the last file of a package holds, whose sizes stand in the package's directory.
std::string unpacked(const std::string& package) {
    const auto number_at = [&](std::size_t at) {
        std::uint32_t number = 0;
        std::memcpy(&number, package.data() + at, sizeof number);
        return number;
    };
    const std::size_t entry = package.rfind("PK\1\2"), head = number_at(entry + 42);
    std::string text(number_at(entry + 24), '\0');
    z_stream stream{};
    inflateInit2(&stream, -15);
    const std::size_t begin = head + 30 + (number_at(head + 26) & 0xFFFFU);
    stream.next_in = reinterpret_cast<Bytef*>(const_cast<char*>(package.data() + begin));
    stream.avail_in = number_at(entry + 20);
    stream.next_out = reinterpret_cast<Bytef*>(text.data());
    stream.avail_out = static_cast<uInt>(text.size());
    inflate(&stream, Z_FINISH);
    inflateEnd(&stream);
    return text;
}
// The compressor alone, over the same text at the same level.
void BM_3mf_1M_triangles_bare(benchmark::State& state) {
    const ExportJob job{{{waves(), "waves"}}, {}, LengthUnit::metre};
    if (!export_results(job, target(".3mf"), Run())) return state.SkipWithError("nothing was written");
    const std::string text = unpacked(*read_file(target(".3mf"), 1'000'000'000));
    std::filesystem::remove(target(".3mf"));
    for (auto _ : state) {
        uLongf size = compressBound(static_cast<uLong>(text.size()));
        std::string packed(size, '\0');
        compress2(reinterpret_cast<Bytef*>(packed.data()), &size, reinterpret_cast<const Bytef*>(text.data()),
                  static_cast<uLong>(text.size()), 4);
        state.counters["MB"] = static_cast<double>(size) / 1e6;
    }
    state.counters["text_MB"] = static_cast<double>(text.size()) / 1e6;
}
std::size_t row_of(std::size_t index, std::size_t columns) {
    return index / columns;
}

// Smooth skins through 8 x 8 points, side by side.
void BM_Step_2000_patches(benchmark::State& state) {
    SurfaceSet set;
    for (std::size_t at = 0; at < 2000; ++at) {
        PointLattice::Parts parts;
        parts.counts = {8, 8, 1};
        Doubles x, y, z;
        for (std::size_t point = 0; point < 64; ++point) {
            x.push_back(static_cast<double>(point % 8 + 10 * (at % 50)));
            y.push_back(static_cast<double>(row_of(point, 8) + 10 * row_of(at, 50)));
            z.push_back(std::sin(static_cast<double>(point * (at + 1))));
        }
        parts.x = std::move(x);
        parts.y = std::move(y);
        parts.z = std::move(z);
        set.patches.push_back(*interpolate_grid(*PointLattice::make(std::move(parts)), Run()));
    }
    const ExportJob job{{{std::make_shared<const Value>(std::move(set)), "skins"}}, {}, LengthUnit::metre};
    for (auto _ : state)
        if (!export_results(job, target(".step"), Run())) state.SkipWithError("nothing was written");
    std::filesystem::remove(target(".step"));
}
// Boards beside each other, no two alike, each with two numbers.
void BM_Ifc_10k_plates(benchmark::State& state) {
    std::vector<Post> plates;
    for (std::size_t at = 0; at < 10'000; ++at) {
        Post plate;
        const auto x = static_cast<double>(at % 100), y = static_cast<double>(row_of(at, 100));
        plate.placement = placement_of({2 * x, 2 * y, 0}, {0, 0, 1}, {1, 0, 0});
        plate.radius = 0.5 + 1e-5 * static_cast<double>(at);
        plate.height = 0.02 + 1e-6 * static_cast<double>(at);
        plates.push_back(plate);
    }
    const Mesh mesh = *posts_mesh(plates, {Footprint::polygon, 4}, Run());
    const ExportJob job{{{std::make_shared<const Value>(mesh), "plates"}}, {}, LengthUnit::metre};
    for (auto _ : state)
        if (!export_results(job, target(".ifc"), Run())) state.SkipWithError("nothing was written");
    std::filesystem::remove(target(".ifc"));
}
BENCHMARK(BM_Ifc_10k_plates)->Unit(benchmark::kMillisecond)->UseRealTime();
BENCHMARK(BM_Step_2000_patches)->Unit(benchmark::kMillisecond)->UseRealTime();
BENCHMARK(BM_Stl_1M_triangles)->Unit(benchmark::kMillisecond)->UseRealTime();
BENCHMARK(BM_Stl_1M_triangles_bare)->Unit(benchmark::kMillisecond)->UseRealTime();
BENCHMARK(BM_Ply_1M_triangles)->Unit(benchmark::kMillisecond)->UseRealTime();
BENCHMARK(BM_Ply_1M_triangles_bare)->Unit(benchmark::kMillisecond)->UseRealTime();
BENCHMARK(BM_Glb_1M_triangles)->Unit(benchmark::kMillisecond)->UseRealTime();
BENCHMARK(BM_3mf_1M_triangles)->Unit(benchmark::kMillisecond)->UseRealTime();
BENCHMARK(BM_3mf_1M_triangles_bare)->Unit(benchmark::kMillisecond)->UseRealTime();
BENCHMARK(BM_Glb_1M_triangles_bare)->Unit(benchmark::kMillisecond)->UseRealTime();

}  // namespace
}  // namespace plume

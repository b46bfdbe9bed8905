// Any bytes as a mesh of every format: each is read or refused with a sentence, and what is read keeps its
// promises.

#include <array>
#include <cstddef>
#include <cstdint>
#include <string>

#include "core/readers/cloud_file.hpp"
#include "core/readers/height_grid.hpp"
#include "core/readers/mesh_file.hpp"
#include "fuzz/demand.hpp"

namespace {

using namespace plume;

void read_as(const char* name, const std::string& bytes) {
    const auto file = read_mesh_bytes(bytes, name, Run());
    if (!file) return demand(!sentence(file.error()).empty());
    const Mesh& mesh = file->mesh;
    demand(mesh.face_count() > 0 && file->part_names.size() == mesh.part_count());
    for (std::size_t vertex = 0; vertex < mesh.vertex_count(); ++vertex)
        demand(is_finite(mesh.vertex(vertex)));
}

void read_points(const std::string& bytes) {
    const auto cloud = read_cloud_bytes(bytes, Run());
    if (!cloud) return demand(!sentence(cloud.error()).empty());
    demand(cloud->points.point_count() > 0);
}

void read_heights(const std::string& bytes) {
    const auto grid = read_height_grid(bytes, Run());
    if (!grid) return demand(!sentence(grid.error()).empty());
    demand(grid->heights.size() == grid->columns * grid->rows && grid->width > 0 && grid->depth > 0);
}

}  // namespace

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    const std::string bytes(reinterpret_cast<const char*>(data), size);
    for (const char* name : {"a.obj", "a.stl", "a.ply", "a.gltf"})
        read_as(name, bytes);
    read_points(bytes);
    read_heights(bytes);
    return 0;
}

#pragma once
// The readers of mesh formats, by what a file begins with (mesh_file.hpp).

#include "core/readers/mesh_file.hpp"
#include "core/readers/welded_triangles.hpp"

namespace plume {

// STL (3D Systems, StereoLithography Interface Specification, 1989), binary and text; a solid of a text is a
// part. In pieces, since such files are large: the whole is never in memory beside what comes of it.
Result<MeshFile> read_stl(const ReadAt& read_at, std::uint64_t size, const Run& run);
// PLY 1.0 (Greg Turk, The PLY Polygon File Format, 1994), text and binary of either order.
Result<MeshFile> read_ply(std::string_view bytes, const Run& run);
// OBJ (Wavefront, Advanced Visualizer Manual, appendix B1) with the colours of its materials.
Result<MeshFile> read_obj(std::string_view text, const std::filesystem::path& path, const Run& run);
// 3MF (3MF Consortium, Core Specification 1.2), by lib3mf in a process of its own.
Result<MeshFile> read_threemf(const std::filesystem::path& path, const Run& run);
// glTF 2.0 (Khronos), as text or binary, with its buffers.
Result<MeshFile> read_gltf(std::string_view bytes, const std::filesystem::path& path, const Run& run);

}  // namespace plume

#include "core/readers/mesh_file.hpp"

#include <algorithm>
#include <fstream>

#include "core/base/file.hpp"
#include "core/base/small_letters.hpp"
#include "core/readers/mesh_formats.hpp"
#include "core/readers/ply_head.hpp"
#include "core/readers/text_scan.hpp"

namespace plume {
namespace {

constexpr std::uintmax_t largest_file = 16'000'000'000;

// Texts whose first word tells nothing are told by their ending.
enum class MeshFormat { stl, ply, obj, gltf, threemf };

std::optional<MeshFormat> format_of(std::string_view head, const std::filesystem::path& path) {
    if (is_ply(head)) return MeshFormat::ply;
    if (head.starts_with("PK\x03\x04")) return MeshFormat::threemf;
    if (head.starts_with("glTF") || without_blanks(head).starts_with("{")) return MeshFormat::gltf;
    const std::string ending = ending_of(path);
    if (ending == ".stl" || head.starts_with("solid ")) return MeshFormat::stl;
    if (ending == ".obj" || head.starts_with("v ") || head.starts_with("# ")) return MeshFormat::obj;
    if (ending == ".ply") return MeshFormat::ply;
    if (ending == ".gltf" || ending == ".glb") return MeshFormat::gltf;
    return {};
}

Error no_mesh() {
    return {ErrorCode::file_unreadable, "", "is no mesh that can be read",
            "Choose a file of OBJ, STL, PLY, glTF, GLB or 3MF."};
}

Result<MeshFile> read_as(MeshFormat format, std::string_view bytes, const std::filesystem::path& path,
                         const Run& run) {
    switch (format) {
        case MeshFormat::ply:
            return read_ply(bytes, run);
        case MeshFormat::obj:
            return read_obj(bytes, path, run);
        case MeshFormat::gltf:
            return read_gltf(bytes, path, run);
        case MeshFormat::stl:
        case MeshFormat::threemf:
            break;
    }
    return no_mesh();
}

}  // namespace

Result<MeshFile> read_mesh_bytes(std::string bytes, const std::filesystem::path& path, const Run& run) {
    if (bytes.empty()) return Error{ErrorCode::empty_input, "", "is empty", "Choose another file."};
    const auto format = format_of(std::string_view(bytes).substr(0, 64), path);
    if (!format) return no_mesh();
    if (*format != MeshFormat::stl) return read_as(*format, bytes, path, run);
    const auto read_at = [&](std::uint64_t from, std::size_t count, char* into) {
        if (from > bytes.size() || count > bytes.size() - from) return false;
        std::copy_n(bytes.data() + from, count, into);
        return true;
    };
    return read_stl(read_at, bytes.size(), run);
}

Result<MeshFile> read_mesh_file(const std::filesystem::path& path, const Run& run) {
    if (Status regular = check_regular_file(path); !regular) return regular.error();
    std::ifstream stream(path, std::ios::binary);
    char head[64] = {};
    stream.read(head, sizeof head);
    const std::string_view begin(head, static_cast<std::size_t>(stream.gcount()));
    const auto format = format_of(begin, path);
    std::error_code problem;
    const std::uintmax_t size = std::filesystem::file_size(path, problem);
    if (format == MeshFormat::stl && !problem) {
        // Several threads read at once: each opens it for itself.
        const auto read_at = [&path](std::uint64_t from, std::size_t count, char* into) {
            std::ifstream piece(path, std::ios::binary);
            piece.seekg(static_cast<std::streamoff>(from));
            piece.read(into, static_cast<std::streamsize>(count));
            return piece.good();
        };
        return read_stl(read_at, size, run);
    }
    if (format == MeshFormat::threemf) return read_threemf(path, run);
    Result<std::string> bytes = read_file(path, largest_file);
    if (!bytes) return bytes.error();
    return read_mesh_bytes(*std::move(bytes), path, run);
}

}  // namespace plume

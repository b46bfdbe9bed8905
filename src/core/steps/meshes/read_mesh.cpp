#include "core/base/text.hpp"
#include "core/geometry/parts/mesh_parts.hpp"
#include "core/readers/mesh_file.hpp"
#include "core/steps/files/file_support.hpp"

namespace plume {
namespace {

auto file_of(const Inputs& in, const Run& run) {
    return linked(in, run, "mesh", read_mesh_file);
}

FileSpace space_of(const MeshFile& file) {
    return {[&file] { return file.mesh.bounds(); }, file.metres_per_unit, file.y_up};
}

Mesh with_readable_numbers(const Mesh& mesh, const Run& run) {
    if (mesh.fields().empty() && mesh.face_fields().empty()) return mesh;
    Mesh::Parts parts = mesh.parts();
    parts.fields = readable_fields(mesh.fields(), run);
    parts.face_fields = readable_fields(mesh.face_fields(), run);
    return *Mesh::make(std::move(parts));
}

void remark_materials(const MeshFile& file, const Run& run) {
    std::vector<NumberedName> names;
    for (const std::string& material : file.materials)
        names.push_back({names.size() + 1, material});
    remark_numbers("materials", names, run);
}

Result<Value> make(const Inputs& in, const Run& run) {
    const auto file = file_of(in, run);
    if (!file) return file.error();
    const auto picked = picked_parts((*file)->part_names, in, "parts");
    if (!picked) return picked.error();
    const bool all = std::ranges::find(*picked, 0) == picked->end();
    remark_losses((*file)->losses, run);
    remark_materials(**file, run);
    const Mesh mesh = all ? (*file)->mesh : with_parts((*file)->mesh, *picked);
    return in_study_space(Value(with_readable_numbers(mesh, run)), space_of(**file), in, run);
}

Result<Offers> parts_offered(const Inputs& in, const Run& run) {
    const auto file = file_of(in, run);
    if (!file) return file.error();
    const Mesh& mesh = (*file)->mesh;
    std::vector<FilePart> parts;
    for (std::size_t at = 0; at < mesh.part_count(); ++at) {
        const auto [begin, end] = mesh.part(at);
        FilePart& part = parts.emplace_back(
            FilePart{(*file)->part_names[at], count_text(end - begin, "face", "faces"), {}});
        for (const std::uint32_t corner : corners_of_part(mesh, at))
            part.bounds.include(mesh.vertex(corner));
    }
    return part_offers(parts, space_of(**file), in);
}

}  // namespace

StepKind read_mesh() {
    std::vector<SlotSpec> slots = {
        file_slot("file", "Mesh", {"Meshes", {"obj", "stl", "ply", "glb", "gltf", "3mf"}}),
        picks_slot("parts", "Parts", "all its parts"), file_up_slot()};
    std::ranges::move(file_space_slots(), std::back_inserter(slots));
    return {
        .key = "mesh.file",
        .verb = "Read a mesh from a file",
        .synonyms = "OBJ STL PLY glTF GLB 3MF import scan load open link faces",
        .sentence = std::string("Read the mesh {file}, {parts}, {up}, ") + file_space_sentence + ".",
        .slots = std::move(slots),
        .results = {Kind::mesh},
        .result_name = "mesh",
        .help =
            "A mesh from a file of OBJ, STL, PLY, glTF, GLB or 3MF, which stays linked. Its groups, objects "
            "or "
            "nodes are "
            "parts, of which some can be chosen; its numbers and colours (red, green, blue from 0 to 1) come "
            "along, and "
            "so do the numbers of its materials. Vertices that are the same in all that is kept are one "
            "vertex, so that "
            "closed forms are closed. Where the file states no unit, it is asked for.",
        .estimate = [](const Inputs& in) { return file_estimate(in, 2, 5e-9); },
        .make = make,
        .contexts = {{"parts", context(parts_offered)}, {"unit", offered_units(file_of, space_of)}},
    };
}

}  // namespace plume

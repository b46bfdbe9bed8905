#include "core/base/helper_program.hpp"
#include "core/base/numbers.hpp"
#include "core/readers/exact_file.hpp"
#include "core/readers/mesh_draft.hpp"
#include "core/readers/mesh_formats.hpp"

namespace plume {
namespace {

// A part's triangles behind those of the parts before.
bool add_part(const LooseMesh& mesh, std::uint32_t part, MeshDraft& draft, std::array<Doubles, 4>& numbers) {
    const std::size_t before = draft.x.size(), count = mesh.places[0].size(), faces = mesh.corners.size() / 3;
    for (const std::vector<double>& column : mesh.places)
        if (column.size() != count) return false;
    for (const std::vector<double>& column : mesh.numbers)
        if (column.size() != faces) return false;
    for (std::size_t at = 0; at < count; ++at)
        draft.add_vertex(mesh.places[0][at], mesh.places[1][at], mesh.places[2][at]);
    for (std::size_t face = 0; face < faces; ++face) {
        std::array<std::uint32_t, 3> corners{};
        for (std::size_t corner = 0; corner < 3; ++corner) {
            const std::uint32_t index = mesh.corners[3 * face + corner];
            corners[corner] =
                index < count ? static_cast<std::uint32_t>(before + index) : MeshDraft::no_vertex;
        }
        draft.add_face(corners, part);
    }
    for (std::size_t number = 0; number < numbers.size(); ++number)
        numbers[number].insert(numbers[number].end(), mesh.numbers[number].begin(),
                               mesh.numbers[number].end());
    return true;
}

}  // namespace

Result<MeshFile> read_threemf(const std::filesystem::path& path, const Run& run) {
    const Result<std::string> bytes = output_of_helper("plume-print-reader", {path.string()}, run);
    if (!bytes) return bytes.error();
    Result<ExactFile> file = exact_file_from(*bytes);
    if (!file) return file.error();
    MeshDraft draft;
    std::array<Doubles, 4> numbers;
    for (const ExactPart& part : file->parts) {
        draft.part_names.push_back(part.name);
        if (!add_part(part.loose, static_cast<std::uint32_t>(draft.part_names.size() - 1), draft, numbers))
            return Error{ErrorCode::file_damaged, "", "has bodies that do not fit together", "Get it anew."};
    }
    constexpr std::array names = {"material", "red", "green", "blue"};
    for (std::size_t number = 0; number < names.size(); ++number)
        draft.face_fields.push_back({names[number], Column(std::move(numbers[number])), plain_number});
    Result<MeshFile> made = finished(std::move(draft), run);
    if (!made) return made;
    made->metres_per_unit = file->metres_per_unit;
    made->materials = std::move(file->materials);
    made->losses.insert(made->losses.end(), file->losses.begin(), file->losses.end());
    return made;
}

}  // namespace plume

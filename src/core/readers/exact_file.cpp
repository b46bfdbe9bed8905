#include "core/readers/exact_file.hpp"

#include <fstream>

#include "core/base/file.hpp"
#include "core/base/helper_program.hpp"
#include "core/base/numbers.hpp"
#include "core/geometry/curves/curve_edit.hpp"
#include "core/geometry/surfaces/patch_edit.hpp"

namespace plume {
namespace {

// The kernel takes some twenty times as much memory.
constexpr std::uintmax_t largest_file = 1'000'000'000;

std::string head_of(const std::filesystem::path& path) {
    std::ifstream stream(path, std::ios::binary);
    std::string head(128, '\0');
    stream.read(head.data(), static_cast<std::streamsize>(head.size()));
    head.resize(static_cast<std::size_t>(stream.gcount()));
    return head;
}

Status check_head(const std::filesystem::path& path) {
    if (Status regular = check_regular_file(path); !regular) return regular.error();
    std::error_code problem;
    const std::uintmax_t size = std::filesystem::file_size(path, problem);
    if (problem || size == 0) return Error{ErrorCode::empty_input, "", "is empty", "Choose another file."};
    if (size > largest_file)
        return Error{ErrorCode::file_too_large, "",
                     "is " + bytes_text(static_cast<double>(size)) + ", more than the " +
                         bytes_text(static_cast<double>(largest_file)) + " such a file can have",
                     "Save less of it."};
    const std::string head = head_of(path);
    // The first lines of IGES end with S and their number.
    const bool iges = head.size() >= 80 && head[72] == 'S';
    if (is_step(path) || iges) return Done{};
    return Error{ErrorCode::file_unreadable, "", "is neither STEP nor IGES",
                 "Choose a file of STEP or IGES."};
}

}  // namespace

bool is_step(const std::filesystem::path& path) {
    return head_of(path).find("ISO-10303-21") != std::string::npos;
}

Box box_of(const ExactPart& part) {
    Box box;
    for (const SplineCurve& curve : part.curves)
        box.include(poles_box(curve));
    for (const SplinePatch& face : part.faces)
        box.include(poles_box(face));
    for (const ExactSolid& solid : part.solids) {
        for (const SplinePatch& patch : solid.patches)
            box.include(poles_box(patch));
        if (solid.mesh) box.include(solid.mesh->bounds());
    }
    return box;
}

Result<ExactFile> read_exact_file(const std::filesystem::path& path, const Run& run) {
    if (Status checked = check_head(path); !checked) return checked.error();
    const Result<std::string> bytes = output_of_helper("plume-exact-reader", {path.string()}, run);
    if (!bytes) return bytes.error();
    return exact_file_from(*bytes);
}

}  // namespace plume

#include "core/readers/curve_file.hpp"

#include "core/base/file.hpp"
#include "core/base/small_letters.hpp"
#include "core/readers/curve_formats.hpp"
#include "core/readers/text_scan.hpp"

namespace plume {
namespace {

// What is read of it takes some four times as much.
constexpr std::uintmax_t largest_file = 4'000'000'000;

}  // namespace

Result<CurveFile> read_curve_bytes(std::string_view bytes, const std::filesystem::path& path,
                                   const Run& run) {
    if (bytes.empty()) return Error{ErrorCode::empty_input, "", "is empty", "Choose another file."};
    const std::string_view head = without_blanks(bytes.substr(0, 256));
    if (ending_of(path) == ".dxf" || head.starts_with("0\n") || head.starts_with("0\r") ||
        head.starts_with("999") || head.starts_with("AutoCAD Binary DXF"))
        return read_dxf(bytes, run);
    if (ending_of(path) == ".svg" || head.starts_with("<")) return read_svg(bytes, run);
    return Error{ErrorCode::file_unreadable, "", "is no drawing that can be read",
                 "Choose a file of DXF or SVG."};
}

Result<CurveFile> read_curve_file(const std::filesystem::path& path, const Run& run) {
    const Result<std::string> bytes = read_file(path, largest_file);
    if (!bytes) return bytes.error();
    return read_curve_bytes(*bytes, path, run);
}

}  // namespace plume

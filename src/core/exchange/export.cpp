#include "core/exchange/export.hpp"

#include <algorithm>
#include <array>

#include "core/exchange/formats.hpp"

namespace plume {
namespace {

std::string extension_of(const std::filesystem::path& path) {
    std::string extension = path.extension().string();
    std::ranges::transform(extension, extension.begin(),
                           [](char c) { return c >= 'A' && c <= 'Z' ? static_cast<char>(c + 32) : c; });
    return extension;
}

}  // namespace

std::span<const ExportFormat> export_formats() {
    static const std::array<ExportFormat, 4> formats{
        {{".obj", "Wavefront OBJ: points, curves, facets, surfaces as facets", true, write_obj},
         {".stl", "STL, binary: facets, surfaces as facets", false, write_stl},
         {".csv", "CSV: a row a point, member, face or body, with its numbers", true, write_csv},
         {".xlsx", "Spreadsheet: the same rows, to be sorted and summed up", true, write_xlsx}}};
    return formats;
}

const ExportFormat* export_format_for(const std::filesystem::path& path) {
    const auto found = std::ranges::find(export_formats(), extension_of(path), &ExportFormat::extension);
    return found == export_formats().end() ? nullptr : &*found;
}

Error no_format_error(std::string place) {
    return {ErrorCode::unknown_name, std::move(place), "has no ending that names a format",
            "Use .obj, .stl, .csv or .xlsx."};
}

Result<std::string> export_value(const ExportJob& job, const std::filesystem::path& path, const Run& run) {
    const ExportFormat* format = export_format_for(path);
    const std::string file = "‘" + path.string() + "’";
    if (!format) return no_format_error(file);
    std::string what;
    const Status written = write_file(path, [&](const ByteSink& sink) -> Status {
        Result<std::string> result = format->write(job, sink, run);
        if (!result) return error_at(result.error(), "‘" + job.name + "’");
        what = *result;
        return Done{};
    });
    if (!written) return written.error();
    std::string report = "Wrote " + what + " to " + file + " in " + std::string(plain_name(job.unit));
    if (!format->states_unit) report += "; the format has no unit of its own, so tell whoever reads it";
    return report + ".";
}

}  // namespace plume

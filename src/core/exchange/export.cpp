#include "core/exchange/export.hpp"

#include <algorithm>

#include "core/base/guarded.hpp"
#include "core/base/hash.hpp"
#include "core/base/listed.hpp"
#include "core/base/small_letters.hpp"
#include "core/exchange/formats.hpp"
#include "core/results/items.hpp"

namespace plume {
namespace {

bool tells_parts(const Value& value) {
    const Items items = items_of(value);
    return items.are == "parts" && items.count > 1;
}

// What the format as such has no place for.
std::vector<std::string> without_place(const ExportJob& job, const ExportFormat& format) {
    std::vector<std::string> lost;
    std::vector<std::string> numbers;
    bool names = job.results.size() > 1, parts = false, materials = false, colours = false, exact = false;
    for (const ExportedResult& result : job.results) {
        for (const std::string& name : field_names(*result.value))
            if (std::ranges::find(numbers, name) == numbers.end()) numbers.push_back(name);
        parts = parts || tells_parts(*result.value);
        materials = materials || material_of(result.show.material);
        colours = colours || (!result.show.colour_by.empty() && result.show.colour_by != "-");
        exact = exact || is_exact(*result.value);
    }
    const auto add = [&](bool there, bool kept, const std::string& what) {
        if (there && !kept) lost.push_back(what);
    };
    add(names, format.keeps.names, "the names of the results");
    add(parts, format.keeps.parts, "the parts");
    add(materials, format.keeps.materials, "materials");
    add(colours, format.keeps.colours, "colours");
    if (!numbers.empty())
        add(true, format.keeps.numbers,
            (numbers.size() == 1 ? "the number " : "the numbers ") + listed(numbers, "and"));
    add(exact, format.keeps.exact || (format.exact_if_wanted && job.exact),
        std::string("exact curvature, for which ") + (format.exact_if_wanted
                                                          ? "facets stand unless exact parts are asked for"
                                                          : "straight pieces stand"));
    return lost;
}

// A format that cannot hold a result, or several.
Status check_fits(const ExportJob& job, const ExportFormat& format) {
    if (job.results.size() > 1 && !format.several)
        return Error{ErrorCode::out_of_range, format.name, "holds one result in a file",
                     "Write each to a file of its own."};
    for (const ExportedResult& result : job.results)
        if (!format.takes(*result.value)) {
            const WrittenForm form = form_of(*result.value);
            const bool could_have_faces =
                form != WrittenForm::nothing && form != WrittenForm::facets && format.forms.size() == 1;
            return Error{
                ErrorCode::wrong_kind, "‘" + result.name + "’",
                "holds " + with_article(kind_of(*result.value)) + ", which " + format.name +
                    " has no place for",
                could_have_faces ? "Skin it first, or choose another format." : "Choose another format."};
        }
    return Done{};
}

// What goes into the file beside; its name follows from it where that is wished for.
std::string text_beside(ExportJob& job, const ExportFormat& format) {
    std::string text = format.write_beside ? format.write_beside(job) : "";
    if (!text.empty() && job.beside_by_content)
        job.beside_stem += '-' + hex_text(Hasher().add(text).finish()).substr(0, 8);
    return text;
}

}  // namespace

bool ExportFormat::takes(const Value& value) const {
    return forms.empty() || std::ranges::find(forms, form_of(value)) != forms.end();
}

std::span<const ExportFormat> export_formats() {
    using enum WrittenForm;
    static const std::vector<ExportFormat> formats{
        {.extension = ".step",
         .name = "STEP",
         .holds = "curves, surfaces and bodies, exactly",
         .forms = {points, lines, bars, facets},
         .keeps = {.names = true, .parts = true, .exact = true},
         .write = write_step},
        {.extension = ".igs",
         .name = "IGES",
         .holds = "the same, for older programs",
         .forms = {points, lines, bars, facets},
         .keeps = {.names = true, .parts = true, .exact = true},
         .write = write_iges},
        {.extension = ".ifc",
         .name = "IFC",
         .holds = "parts of a building, with their numbers",
         .forms = {bars, facets},
         .keeps = {.names = true, .parts = true, .materials = true, .colours = true, .numbers = true},
         .layers = true,
         .classes = true,
         .exact_if_wanted = true,
         .write = write_ifc},
        {.extension = ".dxf",
         .name = "DXF",
         .holds = "drawings on layers: points, lines, arcs, splines, facets",
         .forms = {points, lines, bars, facets},
         .keeps = {.names = true, .colours = true},
         .layers = true,
         .write = write_dxf},
        {.extension = ".svg",
         .name = "SVG",
         .holds = "a plan to scale, on layers",
         .forms = {points, lines, bars, facets},
         .keeps = {.names = true, .colours = true, .exact = true},
         .layers = true,
         .to_scale = true,
         .own_unit = LengthUnit::millimetre,
         .write = write_svg},
        {.extension = ".pdf",
         .name = "PDF",
         .holds = "the same plan, to be printed",
         .forms = {points, lines, bars, facets},
         .keeps = {.names = true, .colours = true, .exact = true},
         .layers = true,
         .to_scale = true,
         .own_unit = LengthUnit::millimetre,
         .write = write_pdf},
        {.extension = ".obj",
         .name = "Wavefront OBJ",
         .holds = "points, curves, facets, with materials",
         .forms = {points, lines, bars, facets},
         .keeps = {.names = true, .parts = true, .materials = true, .colours = true},
         .write = write_obj,
         .beside = ".mtl",
         .write_beside = obj_materials},
        {.extension = ".stl",
         .name = "STL",
         .holds = "facets, for printers",
         .forms = {facets},
         .states_unit = false,
         .prints = true,
         .write = write_stl},
        {.extension = ".3mf",
         .name = "3MF",
         .holds = "bodies for printers, with parts, materials and colours",
         .forms = {facets},
         .keeps = {.names = true, .parts = true, .materials = true, .colours = true},
         .prints = true,
         .own_unit = LengthUnit::millimetre,
         .write = write_3mf},
        {.extension = ".ply",
         .name = "PLY",
         .holds = "points, bars, facets, with all numbers",
         .forms = {points, lines, bars, facets},
         .keeps = {.names = true, .parts = true, .colours = true, .numbers = true},
         .several = false,
         .write = write_ply},
        {.extension = ".glb",
         .name = "glTF",
         .holds = "all forms in one binary file, with parts, materials, colours, numbers",
         .forms = {points, lines, bars, facets},
         .keeps = {.names = true, .parts = true, .materials = true, .colours = true, .numbers = true},
         .own_unit = LengthUnit::metre,
         .write = write_glb},
        {.extension = ".csv",
         .name = "CSV",
         .holds = "a row a point, member, face or body, with its numbers",
         .forms = {},
         .keeps = {true, true, true, true, true, true},
         .several = false,
         .write = write_csv},
        {.extension = ".xlsx",
         .name = "Spreadsheet",
         .holds = "the same rows, to be sorted and summed up",
         .forms = {},
         .keeps = {true, true, true, true, true, true},
         .write = write_xlsx}};
    return formats;
}

const ExportFormat* export_format_for(const std::filesystem::path& path) {
    const auto found = std::ranges::find(export_formats(), ending_of(path), &ExportFormat::extension);
    return found == export_formats().end() ? nullptr : &*found;
}

std::string export_endings(std::string_view word) {
    std::vector<std::string> endings;
    for (const ExportFormat& format : export_formats())
        endings.push_back(format.extension);
    return listed(endings, std::string(word));
}

Error no_format_error(std::string place) {
    return {ErrorCode::unknown_name, std::move(place), "has no ending that names a format",
            "Use " + export_endings("or") + '.'};
}

Result<ExportedFiles> export_files(ExportJob job, const std::filesystem::path& path, const Run& run) {
    const ExportFormat* format = export_format_for(path);
    const std::string file = "‘" + path.string() + "’";
    if (!format) return no_format_error(file);
    if (Status fits = check_fits(job, *format); !fits) return fits.error();
    job.unit = format->own_unit.value_or(job.unit);
    job.beside_stem = path.stem().string();
    std::ranges::replace(job.beside_stem, ' ', '_');
    const std::string beside = text_beside(job, *format);
    const std::filesystem::path companion = path.parent_path() / (job.beside_stem + format->beside);
    ExportReport report;
    const Status written = write_file(path, [&](const ByteSink& sink) -> Status {
        Result<ExportReport> made = guarded([&] { return format->write(job, sink, run); });
        if (!made) return made.error();
        report = *std::move(made);
        // Before the file that refers to it takes its place.
        return beside.empty() ? Status(Done{}) : write_file(companion, beside);
    });
    if (!written) return written.error();
    std::string text = "Wrote " + report.what + " to " + file + " in " + std::string(plain_name(job.unit));
    std::vector<std::string> lost = without_place(job, *format);
    lost.insert(lost.end(), report.left_out.begin(), report.left_out.end());
    if (!lost.empty()) text += "; left out: " + listed(lost, "and");
    if (!format->states_unit) text += "; the format has no unit of its own, so tell whoever reads it";
    ExportedFiles files{text + ".", {path}};
    if (!beside.empty()) files.files.push_back(companion);
    return files;
}

Result<std::string> export_results(ExportJob job, const std::filesystem::path& path, const Run& run) {
    Result<ExportedFiles> files = export_files(std::move(job), path, run);
    if (!files) return files.error();
    return std::move(files->report);
}

}  // namespace plume

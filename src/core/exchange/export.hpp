#pragma once
// Results to files in open formats.

#include <algorithm>
#include <filesystem>
#include <span>
#include <string>
#include <vector>

#include "core/base/file.hpp"
#include "core/base/run.hpp"
#include "core/results/written.hpp"
#include "core/study/study.hpp"

namespace plume {

// A result and how it is shown: formats that keep colours and materials keep those.
struct ExportedResult {
    ValuePointer value;
    std::string name;
    Show show = {};
    std::string building_class = {};  // building_classes.hpp; empty: told from the name
};

struct ExportJob {
    std::vector<ExportedResult> results;  // at least one
    Units study_units;
    LengthUnit unit;  // lengths are converted to this
    // Of tables: what has a row (rows_of() in results/columns.hpp; empty: what usually has, and in
    // spreadsheets a sheet for each), and the column whose groups have one instead, if any.
    std::string rows = {}, group_by = {};
    // Of drawings: a number whose values are layers of their own, storeys in a building; empty: a layer a
    // result.
    std::string layers_by = {};
    // Of plans: how many of nature are one on paper; 0: so that it fits a sheet.
    double plan_scale = 0;
    // Bodies that cannot be printed are refused, saying where; of formats that `print`.
    bool for_print = false;
    // Curved parts as they are, of formats that usually have facets for them (`exact_if_wanted`).
    bool exact = false;
    // How far facets and lines may be off what is curved, study lengths; 0: as far as it still looks smooth.
    double within = 0;
    // Files beside the one written bear a fingerprint of what is in them in their names, so that what refers
    // to one always finds its own.
    bool beside_by_content = false;
    // Of files beside the one written, without their endings and without spaces; set by export_files().
    std::string beside_stem = {};

    double scale() const { return metres_per(study_units.length) / metres_per(unit); }
};

// What was written, for people ("425 vertices, 384 faces"), and what had no place in it ("the colours of
// faces").
struct ExportReport {
    std::string what;
    std::vector<std::string> left_out = {};

    // Once, however often it is met.
    void leave_out(const std::string& thing) {
        if (std::ranges::find(left_out, thing) == left_out.end()) left_out.push_back(thing);
    }
};

// What of a result a format has a place for, besides the form itself.
struct FormatKeeps {
    bool names = false;      // of results
    bool parts = false;      // of meshes, each by itself
    bool materials = false;  // else their colour at most
    bool colours = false;
    bool numbers = false;
    bool exact = false;  // smooth forms as they are, not by samples
};

struct ExportFormat {
    std::string extension;  // ".obj"
    std::string name;       // "Wavefront OBJ"
    std::string holds;      // "points, curves, facets"
    std::vector<WrittenForm> forms;
    bool states_unit = true;  // whether the file itself can say its unit
    FormatKeeps keeps = {};
    bool several = true;           // results in one file
    bool layers = false;           // that may go by a number
    bool to_scale = false;         // of a plan on paper
    bool prints = false;           // bodies are made of it: they can be checked
    bool classes = false;          // what results are in a building
    bool exact_if_wanted = false;  // else facets stand for what is curved
    // The one unit there is, if there is only one.
    std::optional<LengthUnit> own_unit = {};
    Result<ExportReport> (*write)(const ExportJob& job, const ByteSink& sink, const Run& run) = nullptr;
    // A file beside, which the file refers to: its ending, and its text; without text there is none.
    std::string beside = {};
    std::string (*write_beside)(const ExportJob& job) = nullptr;

    bool takes(const Value& value) const;
};

std::span<const ExportFormat> export_formats();
const ExportFormat* export_format_for(const std::filesystem::path& path);
// ".obj, .stl or .csv", with that word before the last.
std::string export_endings(std::string_view word);
// That there is none, said of a place.
Error no_format_error(std::string place);

struct ExportedFiles {
    std::string report;                        // what was written in which unit, and what was left out
    std::vector<std::filesystem::path> files;  // the one asked for first, then those it refers to
};

// Writes `path` in the format of its extension. Errors: nothing_to_write, not_finite (with the first place),
// wrong_kind, unknown_name (extension), file errors; `path` is then as it was.
Result<ExportedFiles> export_files(ExportJob job, const std::filesystem::path& path, const Run& run);
// The same, for who only wants the report.
Result<std::string> export_results(ExportJob job, const std::filesystem::path& path, const Run& run);

}  // namespace plume

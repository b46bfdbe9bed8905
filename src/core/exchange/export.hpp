#pragma once
// Results to files in open formats.

#include <filesystem>
#include <span>
#include <string>

#include "core/base/file.hpp"
#include "core/base/run.hpp"
#include "core/data/value.hpp"

namespace plume {

struct ExportJob {
    const Value& value;
    std::string name;  // of the result
    Units study_units;
    LengthUnit unit;  // lengths are converted to this
    // Of tables: what has a row (rows_of() in results/columns.hpp; empty: what usually has, and in
    // spreadsheets a sheet for each), and the column whose groups have one instead, if any.
    std::string rows = {}, group_by = {};

    double scale() const { return metres_per(study_units.length) / metres_per(unit); }
};

struct ExportFormat {
    std::string extension;  // ".obj"
    std::string label;      // "Wavefront OBJ: points, facets, surfaces as facets"
    bool states_unit;       // whether the file itself can say its unit
    // Writes the file's bytes and returns what was written, for people: "425 vertices, 384 faces".
    Result<std::string> (*write)(const ExportJob& job, const ByteSink& sink, const Run& run);
};

std::span<const ExportFormat> export_formats();
const ExportFormat* export_format_for(const std::filesystem::path& path);
// That it is nullptr, said of a place.
Error no_format_error(std::string place);

// Writes `path` in the format of its extension. Returns a sentence saying what was written in which unit.
// Errors: nothing_to_write, not_finite (with the first place), wrong_kind, unknown_name (extension), file
// errors; `path` is then as it was.
Result<std::string> export_value(const ExportJob& job, const std::filesystem::path& path, const Run& run);

}  // namespace plume

#pragma once
// Writers of the single formats, for export.cpp and the command line. See ExportFormat::write.

#include "core/exchange/export.hpp"

namespace plume {

// Points as `v` and `p`, facets as `v` and polygon `f`; the unit in a comment (Wavefront OBJ has no other
// place).
Result<std::string> write_obj(const ExportJob& job, const ByteSink& sink, const Run& run);
// Binary little-endian STL; polygons as triangles (triangulate.hpp); the unit in the 80-byte header, which
// readers ignore.
Result<std::string> write_stl(const ExportJob& job, const ByteSink& sink, const Run& run);
// The rows of columns_of(), units in the header; RFC 4180 quoting, '.' as decimal sign. Cells of numbers that
// are not finite stay empty; they are counted in what is returned.
Result<std::string> write_csv(const ExportJob& job, const ByteSink& sink, const Run& run);
// The same as a spreadsheet with a sheet for what each rows there are, a filter on every column, and sums of
// lengths, areas, volumes and masses below that follow it. Errors: out_of_range for more rows than a sheet
// has, file_unwritable.
Result<std::string> write_xlsx(const ExportJob& job, const ByteSink& sink, const Run& run);
// The same as JSON: {"result", "rows_are", "columns": [{"name", "unit"}], "rows": [[...]]}, null where a
// number is not finite.
Result<std::string> write_values_json(const ExportJob& job, const ByteSink& sink, const Run& run);

}  // namespace plume

#pragma once
// Writers of the single formats, for export.cpp and the command line. See ExportFormat::write.

#include "core/exchange/export.hpp"

namespace plume {

// STEP AP242 and IGES 5.3 by a geometry kernel: splines with their knots and poles, trims, closed bodies as
// solids, a product a result and a part, with the colours of materials. Meshes become planes. Errors:
// over_budget for meshes of too many facets.
Result<ExportReport> write_step(const ExportJob& job, const ByteSink& sink, const Run& run);
Result<ExportReport> write_iges(const ExportJob& job, const ByteSink& sink, const Run& run);
// IFC4: a project, a site, a building, storeys; an element of its class a result or a part, swept where it is
// an outline pulled along, else triangles; numbers as properties, materials, colours, quantities.
Result<ExportReport> write_ifc(const ExportJob& job, const ByteSink& sink, const Run& run);
// DXF R2000 by dxflib: layers, colours, the unit; points, lines of bars, arcs and circles, polylines with
// arcs, true splines, facets, labels as text where they are shown.
Result<ExportReport> write_dxf(const ExportJob& job, const ByteSink& sink, const Run& run);
// Plans (plan.hpp): results seen from above, to scale, on layers; SVG 1.1 and PDF 1.7.
Result<ExportReport> write_svg(const ExportJob& job, const ByteSink& sink, const Run& run);
Result<ExportReport> write_pdf(const ExportJob& job, const ByteSink& sink, const Run& run);
// An object a result, a group a part; points as `v` and `p`, lines and bars as `l`, facets as polygon `f`;
// colours behind the places, as most readers take them; the unit in a comment (Wavefront OBJ has no other
// place).
Result<ExportReport> write_obj(const ExportJob& job, const ByteSink& sink, const Run& run);
// The library of materials that write_obj() refers to (.mtl); empty where no result has one.
std::string obj_materials(const ExportJob& job);
// Binary little-endian STL; polygons as triangles (triangulate.hpp); the unit in the 80-byte header, which
// readers ignore.
Result<ExportReport> write_stl(const ExportJob& job, const ByteSink& sink, const Run& run);
// 3MF (3D Manufacturing Format, core and materials specifications), by lib3mf, in millimetres to six
// decimals: an object a result, or a part; closed ones as models, open ones as surfaces, which is said.
Result<ExportReport> write_3mf(const ExportJob& job, const ByteSink& sink, const Run& run);
// Binary little-endian PLY (Turk, The PLY Polygon File Format, 1994), all numbers in double precision:
// vertices, faces with the number of their part, edges of lines and bars, each with its fields in their
// units, which comments tell.
Result<ExportReport> write_ply(const ExportJob& job, const ByteSink& sink, const Run& run);
// glTF 2.0 in one binary file (GLB): metres, Y up; a node a result and a part, parts of one shape sharing
// their mesh, lines and points as such; numbers as attributes and extras, in units of their own.
Result<ExportReport> write_glb(const ExportJob& job, const ByteSink& sink, const Run& run);
// The rows of columns_of(), units in the header; RFC 4180 quoting, '.' as decimal sign. Cells of numbers that
// are not finite stay empty; they are counted in what is returned.
Result<ExportReport> write_csv(const ExportJob& job, const ByteSink& sink, const Run& run);
// The same as a spreadsheet with a sheet for what each rows there are, a filter on every column, and sums of
// lengths, areas, volumes and masses below that follow it. Errors: out_of_range for more rows than a sheet
// has, file_unwritable.
Result<ExportReport> write_xlsx(const ExportJob& job, const ByteSink& sink, const Run& run);
// The same as JSON: {"result", "rows_are", "columns": [{"name", "unit"}], "rows": [[...]]}, null where a
// number is not finite.
Result<ExportReport> write_values_json(const ExportJob& job, const ByteSink& sink, const Run& run);

}  // namespace plume

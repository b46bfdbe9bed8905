#pragma once
// Drawings: results from several sides on one sheet of paper, to scale, without what is hidden, with
// dimensions, a scale bar, north and a title block. Laid out by themselves, in rows in the order of the
// views.

#include <filesystem>

#include "core/data/sheet_names.hpp"
#include "core/exchange/plan.hpp"

namespace plume {

enum class SheetView { plan, from_south, from_east, from_north, from_west, at_an_angle };
// Of a name of data/sheet_names.hpp; nothing where there is none.
std::optional<SheetView> sheet_view_from(std::string_view name);

struct DrawingJob {
    std::vector<ExportedResult> results;  // at least one
    Units study_units;
    std::vector<SheetView> views;  // at least one
    PaperSize paper = {};
    double scale =
        0;  // how many of nature are one on paper; 0: the first of 1, 2, 5, 10, 20, 25, 50 … that fits
    bool dashed = false;  // what is hidden is drawn in dashes
    std::string title = {};
};

// Errors: those of scene_of(); out_of_range where the views do not fit the paper at the scale, with what
// would; empty_input where there is nothing to draw; over_budget for more lines than a sheet can show;
// cancelled.
Result<Plan> drawing_of(const DrawingJob& job, const Run& run);

// As the path's ending says: .pdf, .svg, .dxf. Returns a sentence saying what was drawn.
Result<std::string> write_drawing(const DrawingJob& job, const std::filesystem::path& path, const Run& run);

}  // namespace plume

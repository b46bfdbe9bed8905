#pragma once
// Drawings: results from several sides and in sections on one sheet of paper, to scale, without what is
// hidden, with contours, axes, dimensions, schedules, a scale bar, north and a title block. Laid out by
// themselves, in rows in the order of the views, schedules last; each may be placed instead.

#include <filesystem>

#include "core/data/sheet_names.hpp"
#include "core/exchange/plan.hpp"

namespace plume {

enum class SheetView {
    plan,
    from_south,
    from_east,
    from_north,
    from_west,
    at_an_angle,
    section_north,
    section_west,
    section_south,
    section_east,
    section_down
};
// Of a name of data/sheet_names.hpp; nothing where there is none.
std::optional<SheetView> sheet_view_from(std::string_view name);
std::string name_of(SheetView view);
bool is_section(SheetView view);

struct DrawingJob {
    std::vector<ExportedResult> results;  // at least one
    Units study_units;
    std::vector<SheetView> views;  // at least one
    PaperSize paper = {};
    double scale =
        0;  // how many of nature are one on paper; 0: the first of 1, 2, 5, 10, 20, 25, 50 … that fits
    bool dashed = false;           // what is hidden is drawn in dashes
    std::optional<Vec3> cut = {};  // where sections cut, study lengths; nothing: through the middle
    double contour_step = 0;       // in plan and at an angle, study lengths; 0: none
    std::vector<ExportedResult> distances = {};  // curves and frames whose straight pieces are measured
    std::vector<ExportedResult> axes = {};       // the same, drawn as axes and named
    std::vector<ExportedResult> schedules = {};
    std::string schedules_by = {};        // a number or text that groups their rows
    std::vector<SheetPlace> placed = {};  // the others are laid out in rows
    std::string title = {};
};

// Errors: those of scene_of() and rows_to_write(); out_of_range where the views do not fit the paper at the
// scale, with what would, where one is placed beyond it (slot "places"), and for contours too many to be
// drawn (slot "contour_step"); unlike_arrangement for distances and axes that are no lines (slot "results");
// empty_input where there is nothing to draw; over_budget for more lines than a sheet can show; cancelled.
Result<Plan> drawing_of(const DrawingJob& job, const Run& run);

// As the path's ending says: .pdf, .svg, .dxf. Returns a sentence saying what was drawn.
Result<std::string> write_drawing(const DrawingJob& job, const std::filesystem::path& path, const Run& run);

}  // namespace plume

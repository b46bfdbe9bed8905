#pragma once
// What stands on a sheet besides its views: the title block, dimensions, a scale bar, north; and where views
// go.

#include <optional>

#include "core/exchange/drawing.hpp"

namespace plume {

// Millimetres.
struct SheetSize {
    double width = 0, height = 0;
};
inline constexpr double sheet_foot = 28;  // below the views

// The lower left corners of what has these sizes, row by row from above, in the middle of each row; nothing
// where it does not fit.
std::optional<std::vector<PaperPlace>> laid_out(const std::vector<SheetSize>& sizes, SheetSize room);

PlanPath sheet_line(PaperPlace from, PaperPlace to, double stroke);

// A frame, and at the right below it the title, what is drawn, the scale and the paper.
void add_title_block(PlanLayer& layer, const DrawingJob& job, double scale);
// At the left: so many lengths that are round; an arrow that points up.
void add_scale_bar(PlanLayer& layer, const Units& units, double scale);
void add_north(PlanLayer& layer);

// A line with short strokes across its ends and its length at its middle.
void add_dimension(PlanLayer& layer, PaperPlace from, PaperPlace to, const std::string& text);
void add_view_title(PlanLayer& layer, PaperPlace middle, const std::string& title);
// Where a section cuts: a heavy stroke outwards from an end of its line, its letter, and an arrow that looks
// as the section does. Directions are unit.
inline constexpr double section_mark = 8;
void add_section_mark(PlanLayer& layer, PaperPlace end, PaperPlace outwards, PaperPlace looks,
                      const std::string& letter);
// Outwards from an end of an axis: its name in a circle.
inline constexpr double axis_mark = 9;
void add_axis_mark(PlanLayer& layer, PaperPlace end, PaperPlace outwards, const std::string& name);

}  // namespace plume

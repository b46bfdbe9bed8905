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
inline constexpr double sheet_foot = 28;                        // below the views
inline constexpr double below_a_view = 14, beside_a_view = 14;  // for dimensions and its title

// The lower left corners of what has these sizes, row by row from above, in the middle of each row; nothing
// where it does not fit.
std::optional<std::vector<PaperPlace>> laid_out(const std::vector<SheetSize>& sizes, SheetSize room);

PlanPath sheet_line(PaperPlace from, PaperPlace to, double stroke);

// A frame, and at the right below it the title, what is drawn, the scale and the paper.
void add_title_block(PlanLayer& layer, const DrawingJob& job, double scale);
// At the left: so many lengths that are round; an arrow that points up.
void add_scale_bar(PlanLayer& layer, const Units& units, double scale);
void add_north(PlanLayer& layer);
// Of a view: how wide and high it is, below it and beside it; below these its title.
void add_dimensions(PlanLayer& layer, PaperPlace low, SheetSize size, double mm_per_length,
                    const Units& units);
void add_view_title(PlanLayer& layer, PaperPlace low, SheetSize size, const std::string& title);

}  // namespace plume

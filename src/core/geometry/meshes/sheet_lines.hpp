#pragma once
// What is cut and what is written on sheets that panels were laid on (laid_panels.hpp), as curves.

#include <string>

#include "core/base/run.hpp"
#include "core/data/curve_set.hpp"
#include "core/data/mesh.hpp"

namespace plume {

// Each curve carries the pen that draws it, by this number.
enum class SheetPen { rim, cut, mark };

struct SheetLinePlan {
    bool rims = true, cuts = true, marks = true;
    std::string marked_by;     // the number of faces that is written on each panel
    double letter_height = 1;  // of the marks; half of it of what is written along edges
};

struct SheetLines {
    CurveSet curves;  // with the numbers pen and sheet
    std::size_t sheets = 0, panels = 0;
    std::size_t without_marks = 0;  // panels too thin for a mark
    std::size_t without_edges = 0;  // edges too short for what is written along them
};

// Wherever the sheets were moved to. Rims of sheets; borders of panels and their openings; on each panel its
// mark where there is most room, an arrow to what was up, and, where panels had neighbours, inside along each
// of its edges the edge's number, from 1 on, and behind > the panel beyond it. Letters become smaller where
// there is no room. Errors: unlike_arrangement where panels do not lie on their sheets or carry no number of
// that name; those of lettering(); cancelled.
Result<SheetLines> sheet_lines(const Mesh& laid, const SheetLinePlan& plan, const Run& run);

}  // namespace plume

#pragma once
// Sheets of paper: what SVG and PDF are made of, and drawings in DXF. Results seen from above, to scale.

#include <span>

#include "core/exchange/scene.hpp"

namespace plume {

// A place on paper: millimetres from its lower left corner.
struct PaperPlace {
    double x = 0, y = 0;
};
// From where the one before ended: a line, an arc of a circle (radius above 0; turning anticlockwise or not,
// by more than half a turn or not), or a cubic Bézier curve.
struct PlanStep {
    enum class Form { line, arc, cubic } form = Form::line;
    PaperPlace to;
    double radius = 0;
    bool anticlockwise = false, large = false;
    PaperPlace first = {}, second = {};  // of a cubic
};
// The circle a step that is an arc lies on, and by how much it turns, anticlockwise above 0.
struct PlanArc {
    PaperPlace centre;
    double radius = 0, begin_rad = 0, turn_rad = 0;

    PaperPlace at(double angle_rad) const;
};
PlanArc arc_of(PaperPlace from, const PlanStep& step);

enum class PlanDashes { none, dashed, chain };  // chain: long and short in turn
struct PlanPath {
    PaperPlace start;
    std::vector<PlanStep> steps;
    bool closed = false;
    Rgb colour;
    double stroke = 0.25;  // mm
    PlanDashes dashes = PlanDashes::none;
};
// Within rings that do not cross; holes are rings, too.
struct PlanFill {
    std::vector<std::vector<PaperPlace>> rings;
    Rgb colour;
};
struct PlanDot {
    PaperPlace at;
    Rgb colour;
};
struct PlanText {
    PaperPlace at;
    std::string text;
    double letters = 2.5;  // mm
    bool middle = false;   // the place is the middle of its line, not where it begins
};
// About how wide a text is, in a plain typeface.
double text_width_mm(const PlanText& text);
struct PlanLayer {
    std::string name;
    std::vector<PlanFill> fills = {};  // below all others
    std::vector<PlanPath> paths = {};
    std::vector<PlanDot> dots = {};
    std::vector<PlanText> texts = {};
};
// What stands on a sheet for itself: a view, a schedule.
struct PlanItem {
    std::string name;
    PaperPlace low;  // its lower left corner
    double width = 0, height = 0;
};
struct Plan {
    double width = 0, height = 0;  // of the paper, mm
    double scale = 1;              // how many of nature are one on paper
    std::vector<PlanLayer> layers;
    std::vector<PlanItem> items = {};
    ExportReport report;
};

inline constexpr Rgb plan_ink{0.1F, 0.1F, 0.1F};
inline constexpr double plan_margin = 10, plan_dot = 0.8;  // mm
// Drawn and left out in turn, mm; none for a line that is drawn through.
std::span<const double> dash_lengths(PlanDashes dashes);

// The layer of that name, made where there is none.
PlanLayer& layer_of(Plan& plan, const std::string& name);

// At the job's scale, or at the first of 1, 2, 5, 10, 20 … at which it fits a sheet of 841 mm by 594 mm.
// Curves are exact where they are lines, arcs or cubics in plan, else within a hundredth of a millimetre; of
// smooth surfaces the rims are drawn, of meshes the edges. Errors: those of scene_of() and check_layers();
// out_of_range for paper of more than 100 m; over_budget for more than a million lines; cancelled.
Result<Plan> plan_of(const ExportJob& job, const Run& run);

// A sheet as a file; what could not be kept is added to its report. PDF and DXF bear the title in them.
void write_plan_svg(const Plan& plan, const std::string& about, const ByteSink& sink);
void write_plan_pdf(Plan& plan, const std::string& title, const ByteSink& sink);
// In millimetres of the paper: lines, polylines, circles for dots, texts. Errors: those of files.
Status write_plan_dxf(const Plan& plan, const ByteSink& sink);

}  // namespace plume

#pragma once
// Sheets of paper: what SVG and PDF are made of, and drawings in DXF. Results seen from above, to scale.

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
struct PlanPath {
    PaperPlace start;
    std::vector<PlanStep> steps;
    bool closed = false;
    Rgb colour;
    double stroke = 0.25;  // mm
    bool dashed = false;
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
    std::vector<PlanPath> paths;
    std::vector<PlanDot> dots;
    std::vector<PlanText> texts;
};
struct Plan {
    double width = 0, height = 0;  // of the paper, mm
    double scale = 1;              // how many of nature are one on paper
    std::vector<PlanLayer> layers;
    ExportReport report;
};

inline constexpr Rgb plan_ink{0.1F, 0.1F, 0.1F};
inline constexpr double plan_margin = 10, plan_dot = 0.8;    // mm
inline constexpr double plan_dash = 1.5, plan_dash_gap = 1;  // mm

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

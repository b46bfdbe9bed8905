#include <algorithm>

#include "core/base/text.hpp"
#include "core/geometry/meshes/panel_names.hpp"
#include "core/geometry/meshes/sheet_lines.hpp"
#include "core/steps/curves/curve_support.hpp"

namespace plume {
namespace {

SheetLinePlan plan_of(const Inputs& in) {
    const std::string& what = in.word("what");
    const bool all = what == "all";
    return {all || what == "rims", all || what == "cuts", all || what == "marks", in.word("number"),
            in.number("height")};
}

// Panels that were laid carry numbers, one at least of which can be their mark.
std::optional<Error> unknown_mark(const Mesh& laid, const SheetLinePlan& plan) {
    const auto carries = [&](const std::string& name) {
        return std::ranges::find(laid.face_fields(), name, &Field::name) != laid.face_fields().end();
    };
    if (!plan.marks || !carries(panel_names::sheet) || carries(plan.marked_by)) return {};
    std::vector<std::string> names;
    for (const Field& field : laid.face_fields())
        names.push_back(field.name);
    return about_slot(Error{ErrorCode::out_of_range, "", "is not carried by the panels",
                            "Type one that they carry: " + listed_names(names) + "."},
                      "number");
}

Result<Value> make(const Inputs& in, const Run& run) {
    const auto& laid = in.held<Mesh>("sheets");
    const SheetLinePlan plan = plan_of(in);
    if (const auto error = unknown_mark(laid, plan)) return *error;
    auto drawn = sheet_lines(laid, plan, run);
    if (!drawn) return about_slot(drawn.error(), "sheets");
    run.remark(count_text(drawn->panels, "panel", "panels") + " on " +
               count_text(drawn->sheets, "sheet.", "sheets."));
    if (drawn->without_marks > 0)
        run.remark_loss(count_text(drawn->without_marks, "panel is", "panels are") + " too thin for a mark.");
    if (drawn->without_edges > 0)
        run.remark_loss(count_text(drawn->without_edges, "edge is", "edges are") +
                        " too short for what is written along it: a smaller height may do.");
    return Value(std::move(drawn->curves));
}

Estimate estimate(const Inputs& in) {
    const auto& mesh = in.held<Mesh>("sheets");
    const auto corners = static_cast<double>(mesh.corner_count());
    const bool marks = in.word("what") == "all" || in.word("what") == "marks";
    return {corners * (marks ? 7000 : 900), corners * (marks ? 2e-5 : 2e-6)};
}

}  // namespace

StepKind draw_sheets() {
    return {
        .key = "curve.of_sheets",
        .verb = "Draw cuts and marks of sheets",
        .synonyms = "cutting engrave laser mill edge numbers arrow neighbour labels outline nesting",
        .sentence = "Draw {what} of {sheets}, marked by {number}, letters {height} high.",
        .slots = {choice_slot(
                      "what", "What",
                      {{"all", "all lines", "rims, cuts and marks, told apart by the number pen: 0, 1, 2"},
                       {"rims", "the rims", "of sheets"},
                       {"cuts", "the cuts", "borders of panels and of their openings"},
                       {"marks", "the marks", "letters and arrows, as single strokes"}}),
                  reference_slot("sheets", "Sheets", {Kind::mesh}), name_slot("number", "Number", "panel"),
                  length_above_zero_slot("height", "Height", "50 mm")},
        .results = {Kind::curves},
        .result_name = "cuts",
        .help =
            "What is cut and written on panels that were laid on sheets: rims, cuts, and on each panel its "
            "mark, an arrow to what was up, and, of panels that had neighbours, inside along each edge its "
            "number and the panel beyond it: "
            "“2 > 17” is the second edge, which meets panel 17. Letters become smaller where there is no "
            "room.",
        .stays_beside = true,
        .drawn_plain = true,
        .estimate = estimate,
        .make = make,
    };
}

}  // namespace plume

#include <algorithm>

#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/geometry/meshes/laid_panels.hpp"
#include "core/study/step_kind.hpp"

namespace plume {
namespace {

StockSheet sheet_of(const Inputs& in) {
    return {in.number("width"), in.number("length"), in.number("margin"), in.number("spacing")};
}

Turning turning_of(const Inputs& in) {
    const std::string& word = in.word("turned");
    if (word == "up") return Turning::up;
    if (word == "half") return Turning::half;
    return word == "quarter" ? Turning::quarter : Turning::any;
}

std::string lengths_text(double width, double length, const Inputs& in) {
    return quantity_text({width, a_length}, in.units(), 3) + " by " +
           quantity_text({length, a_length}, in.units(), 3);
}

// Marks are whole, but for those that somebody computed.
std::string mark_text(double mark) {
    return short_text(mark, 9);
}

// "Panel 17, 2.1 m by 1.3 m, is larger than a sheet and left out."
void remark_too_large(const LaidPanels& laid, const Inputs& in, const Run& run) {
    if (laid.too_large.empty()) return;
    const LaidPanels::LeftOut& first = laid.too_large.front();
    const std::string named =
        "panel " + mark_text(first.panel) + ", " + lengths_text(first.width, first.length, in);
    run.remark_loss(laid.too_large.size() == 1
                        ? "The " + named + ", is larger than a sheet and left out."
                        : count_text(laid.too_large.size(), "panel is", "panels are") +
                              " larger than a sheet and left out, the first " + named + ".");
}

void remark_about(const LaidPanels& laid, const StockSheet& sheet, const Inputs& in, const Run& run) {
    const double stock = sheet.width * sheet.length * static_cast<double>(laid.sheet_count);
    const double used = 100 * laid.area / stock;
    run.remark(count_text(laid.mesh.part_count(), "panel", "panels") + " on " +
               count_text(laid.sheet_count, "sheet", "sheets") + " of " +
               lengths_text(sheet.width, sheet.length, in) + ": " + short_text(used, 3) +
               " % of them is used, " + short_text(100 - used, 3) + " % is waste.");
    if (laid.worst_gap > 1e-6 * std::max(sheet.width, sheet.length))
        run.remark("Panels are warped by up to " + quantity_text({laid.worst_gap, a_length}, in.units(), 3) +
                   "; they lie as seen square to them.");
    remark_too_large(laid, in, run);
    if (!laid.not_flat.empty())
        run.remark_loss(
            count_text(laid.not_flat.size(), "part is no flat plate", "parts are no flat plates") +
            " and left out, the first number " + mark_text(laid.not_flat.front()) + ".");
}

Result<Value> make(const Inputs& in, const Run& run) {
    const auto& mesh = in.held<Mesh>("mesh");
    if (mesh.face_count() == 0)
        return about_slot(Error{ErrorCode::empty_input, "", "has no face", "Choose another."}, "mesh");
    const StockSheet sheet = sheet_of(in);
    if (2 * sheet.margin >= std::min(sheet.width, sheet.length))
        return about_slot(
            Error{ErrorCode::out_of_range, "", "leaves nothing of a sheet", "Type less than half its width."},
            "margin");
    auto laid = laid_on_sheets(mesh, in.word("each") == "face", sheet, turning_of(in), run);
    if (!laid)
        return about_slot(laid.error(), laid.error().code == ErrorCode::out_of_range ? "width" : "mesh");
    remark_about(*laid, sheet, in, run);
    return Value(std::move(laid->mesh));
}

// What a panel takes grows with how many lie beside it.
Estimate estimate(const Inputs& in) {
    const auto& mesh = in.held<Mesh>("mesh");
    const bool by_part = in.word("each") == "part";
    const auto corners = static_cast<double>(mesh.corner_count()),
               faces = static_cast<double>(mesh.face_count());
    const double panels = std::max(1.0, by_part ? static_cast<double>(mesh.part_count()) : faces);
    // Plates have two sides.
    const double each = area(mesh) / (by_part && faces > panels ? 2 : 1) / panels;
    const double beside =
        each > 0 ? std::clamp(in.number("width") * in.number("length") / each, 1.0, panels) : panels;
    const double turns = in.word("turned") == "any" ? 24 : in.word("turned") == "quarter" ? 4 : 2;
    return {corners * 200, corners * 2e-6 + panels * turns * (5e-4 + 1.5e-5 * beside)};
}

}  // namespace

StepKind lay_on_sheets() {
    SlotSpec spacing = length_slot("spacing", "Spacing", "10 mm"),
             margin = length_slot("margin", "Margin", "10 mm");
    spacing.least = margin.least = 0;
    return {
        .key = "mesh.on_sheets",
        .verb = "Lay panels on sheets",
        .synonyms = "nest nesting pack packing cutting stock flat plates waste unfold plywood glass boards",
        .sentence =
            "Lay each {each} of {mesh} flat on sheets of {width} by {length}, {spacing} apart[more| and "
            "{margin} from their rims][more|, {turned}].",
        .slots = {choice_slot("each", "Each",
                              {{"part", "panel", "each part of the mesh, with its openings"},
                               {"face", "face", "by itself"}}),
                  reference_slot("mesh", "Mesh", {Kind::mesh}),
                  length_above_zero_slot("width", "Width", "1.25 m"),
                  length_above_zero_slot("length", "Length", "2.5 m"), spacing, margin,
                  choice_slot(
                      "turned", "Turned",
                      {{"quarter", "turned by quarters", "its longest edge along a side of the sheet"},
                       {"any", "turned as it fits", "by multiples of 15°; takes longer"},
                       {"up", "upwards along the length", "for grain and patterns that run one way"},
                       {"half", "up or down the length", "for grain that runs both ways"}})},
        .results = {Kind::mesh},
        .result_name = "sheets",
        .help =
            "Panels in their true shape on as few sheets as can be found, seen from outside: for cutting "
            "them. "
            "A panel with a thickness is laid by its larger side. Each carries its mark (panel), its sheet "
            "and "
            "where up was, as an angle from the sheet's width. Sheets stand side by side on the ground "
            "plane.",
        .stays_beside = true,
        .companion = "curve.of_sheets",
        .estimate = estimate,
        .make = make,
    };
}

}  // namespace plume

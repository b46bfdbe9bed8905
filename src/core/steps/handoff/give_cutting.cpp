#include "core/milling/flat_rehearsal.hpp"
#include "core/steps/handoff/delivery_support.hpp"

namespace plume {
namespace {

CuttingWishes wishes_in(const Inputs& in) {
    CuttingWishes cutting;
    cutting.by = in.word("by");
    cutting.lead_in = in.number("lead_in");
    cutting.margin = in.number("margin");
    cutting.feed = in.number("feed");
    cutting.mark_feed = in.number("mark_feed");
    if (cutting.by == "beam") {
        cutting.kerf = in.number("kerf");
        cutting.pierce_s = in.number("pierce");
        cutting.power = in.number("power");
        cutting.mark_power = in.number("mark_power");
        return cutting;
    }
    cutting.kerf = in.number("diameter");
    cutting.thickness = in.number("thickness");
    cutting.below = in.number("below");
    cutting.step_down = in.number("step_down");
    cutting.mark_depth = in.number("mark_depth");
    cutting.plunge_feed = in.number("plunge_feed");
    cutting.safe = in.number("safe");
    cutting.spindle = in.number("spindle");
    return cutting;
}

// What the words of the sentence cannot be together.
Status check(const CuttingWishes& cutting, const Inputs& in) {
    if (cutting.by == "beam" && !only_marks(given_a_length(cutting.mark_power, cutting.mark_feed),
                                            given_a_length(cutting.power, cutting.feed)))
        return about_slot(Error{ErrorCode::out_of_range, "", "would mark as strongly as it cuts",
                                "Type less, or a higher feed for marks."},
                          "mark_power");
    if (cutting.by == "cutter" && cutting.mark_depth >= cutting.thickness)
        return about_slot(Error{ErrorCode::out_of_range, "",
                                "of " + quantity_text({cutting.mark_depth, a_length}, in.units(), 4) +
                                    " goes through the sheet",
                                "Type less than its thickness."},
                          "mark_depth");
    return Done{};
}

Result<Value> make(const Inputs& in, const Run& /*run*/) {
    DeliveryWishes wishes;
    wishes.cutting = wishes_in(in);
    if (Status fine = check(*wishes.cutting, in); !fine) return fine.error();
    return delivery_of(in, std::move(wishes));
}

}  // namespace

StepKind give_cutting() {
    return {
        .key = "handoff.cutting",
        .verb = "Cut flat",
        .synonyms =
            "cutting laser plasma water jet knife router cnc gcode kerf lead in pierce engrave sheets panels "
            "profile nc tool path hand off deliver export",
        .sentence =
            "Cut {results} flat by {by}[by=beam| {kerf} wide][by=cutter| of {diameter}, through {thickness} "
            "and {below} into what lies below, {step_down} a level][more|, leading in by {lead_in}]; {feed} "
            "a minute[by=beam| at strength {power}][more&by=beam|, after {pierce} seconds of "
            "piercing][more&by=cutter|, {plunge_feed} downwards][by=cutter|, {spindle} turns a "
            "minute][more&by=cutter|, {safe} above the sheet between cuts][more&by=beam|; marks {mark_feed} "
            "a minute at strength {mark_power}][more&by=cutter|; marks {mark_feed} a minute, {mark_depth} "
            "deep][more|; without rims {margin} around][more|; as {format}], to {file}.",
        .slots = {results_slot("results", "Results", {Kind::curves},
                               {{"marks", "marks", "drawn on the sheet, not through it"},
                                {"rims", "rims", "of sheets: what lies within one is cut from it"}},
                               "to be cut"),
                  choice_slot("by", "By",
                              {{"beam", "a beam", "laser, plasma or water, which pierces and is put off"},
                               {"cutter", "a cutter", "which goes through level by level"}}),
                  from_zero(length_slot("kerf", "Width of the cut", "0.2 mm")),
                  length_above_zero_slot("diameter", "Diameter", "6 mm"),
                  length_above_zero_slot("thickness", "Thickness of the sheet", "18 mm"),
                  from_zero(length_slot("below", "Depth below the sheet", "0.5 mm")),
                  length_above_zero_slot("step_down", "Height of a level", "6 mm"),
                  from_zero(length_slot("lead_in", "Leading in", "5 mm")),
                  length_above_zero_slot("feed", "Feed", "3 m"),
                  count_slot("power", "Strength", "1000", 0),
                  from_zero(number_slot("pierce", "Seconds of piercing", "0.5")),
                  length_above_zero_slot("plunge_feed", "Feed downwards", "1 m"),
                  count_slot("spindle", "Turns a minute", "18000", 0),
                  length_above_zero_slot("safe", "Safe height", "10 mm"),
                  length_above_zero_slot("mark_feed", "Feed of marks", "6 m"),
                  count_slot("mark_power", "Strength of marks", "200", 0),
                  length_above_zero_slot("mark_depth", "Depth of marks", "0.5 mm"),
                  from_zero(length_slot("margin", "Margin", "20 mm")),
                  format_slot({{".nc", "G-code", "words of ISO 6983, millimetres"}}),
                  file_name_slot()},
        .results = {Kind::delivery},
        .result_name = "cutting",
        .help =
            "Cutting of panels and sheets by a beam or a cutter, along their lines as seen from above. Marks "
            "come first, then what lies within before what is around it, from place to place by the nearest "
            "next one. Outlines are followed outside and openings within, by half of the cut’s width; a cut "
            "begins beside its line, in what falls off. Lines that carry the number pen (Draw cuts and marks "
            "of sheets) are rims, cuts and marks by themselves; between sheets the machine stops. What is "
            "written is read back and rehearsed: the report says how long it takes, what is left uncut, what "
            "is cut into, and what is cut when it is loose already.",
        .make = make,
    };
}

}  // namespace plume

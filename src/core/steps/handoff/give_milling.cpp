#include "core/steps/handoff/delivery_support.hpp"

namespace plume {
namespace {

MillingWishes wishes_in(const Inputs& in) {
    MillingWishes milling;
    milling.seen = in.word("seen");
    milling.thickness = in.number("thickness");
    milling.margin = in.number("margin");
    milling.cutter = in.word("cutter");
    milling.diameter = in.number("diameter");
    if (in.has("corner")) milling.corner = in.number("corner");
    if (in.has("apart")) milling.apart = in.number("apart");
    if (in.has("ridge")) milling.ridge = in.number("ridge");
    milling.way = in.word("way");
    if (in.has("angle")) milling.angle = in.number("angle");
    if (in.has("rough_diameter")) {
        milling.rough_cutter = in.word("rough_cutter");
        milling.rough_diameter = in.number("rough_diameter");
        milling.rough_apart = in.number("rough_apart");
        milling.step_down = in.number("step_down");
        milling.allowance = in.number("allowance");
    }
    milling.feed = in.number("feed");
    milling.plunge_feed = in.number("plunge_feed");
    milling.spindle = in.number("spindle");
    milling.safe = in.number("safe");
    milling.clearance = in.number("clearance");
    return milling;
}

// What the words of the sentence cannot be together.
Status check(const MillingWishes& milling, const Inputs& in) {
    const auto shown = [&](double length) { return quantity_text({length, a_length}, in.units(), 4); };
    const double radius = milling.diameter / 2;
    if (milling.cutter == "rounded" && milling.corner > radius)
        return about_slot(Error{ErrorCode::out_of_range, "",
                                "of " + shown(milling.corner) + " is more than half of the cutter’s diameter",
                                "Type at most " + shown(radius) + ", or choose a ball."},
                          "corner");
    if (milling.ridge > 0 && milling.cutter == "flat")
        return about_slot(Error{ErrorCode::out_of_range, "",
                                "are told by their ridges, and a flat cutter leaves none on level faces and "
                                "steps on others",
                                "Type how far apart they are, or choose a ball."},
                          "by");
    const double corner = milling.cutter == "rounded" ? milling.corner : radius;
    if (milling.ridge > corner)
        return about_slot(Error{ErrorCode::out_of_range, "",
                                "of " + shown(milling.ridge) + " is higher than the cutter’s rounding",
                                "Type at most " + shown(corner) + '.'},
                          "ridge");
    if (milling.apart > milling.diameter)
        return about_slot(Error{ErrorCode::out_of_range, "",
                                "of " + shown(milling.apart) + " is more than the cutter is wide",
                                "Type at most " + shown(milling.diameter) + '.'},
                          "apart");
    if (milling.rough_apart > milling.rough_diameter)
        return about_slot(Error{ErrorCode::out_of_range, "",
                                "of " + shown(milling.rough_apart) + " is more than that cutter is wide",
                                "Type at most " + shown(milling.rough_diameter) + '.'},
                          "rough_apart");
    return Done{};
}

// Something to be milled; clamps go beside it.
Status check_forms(const Inputs& in) {
    for (const GivenResult& given : in.given("results"))
        if (given.as.empty()) return Done{};
    return about_slot(
        Error{ErrorCode::empty_input, "", "hold nothing but clamps", "Give a form to be milled."}, "results");
}

Result<Value> make(const Inputs& in, const Run& /*run*/) {
    if (Status forms = check_forms(in); !forms) return forms.error();
    DeliveryWishes wishes;
    wishes.milling = wishes_in(in);
    if (Status fine = check(*wishes.milling, in); !fine) return fine.error();
    return delivery_of(in, std::move(wishes));
}

}  // namespace

StepKind give_milling() {
    return {
        .key = "handoff.milling",
        .verb = "Mill a relief",
        .synonyms =
            "milling cnc router gcode cutter tool path roughing finishing board stock carve nc hand off "
            "deliver export",
        .sentence =
            "Mill {results}[more|, seen {seen},] from a board {thickness} thick[more| with {margin} around], "
            "by {cutter} of {diameter}[cutter=rounded| rounded by {corner}], {by}[by=apart| "
            "{apart}][by=ridge| {ridge}], {way}[way=parallel| at {angle}][more|, "
            "{roughing}][roughing=levels| by {rough_cutter} of {rough_diameter}, {rough_apart} apart, "
            "{step_down} a level, leaving {allowance}][more|; {feed} a minute, {plunge_feed} downwards, "
            "{spindle} turns a minute][more|, {safe} above the board between cuts][more|, {clearance} off "
            "clamps][more|; as {format}], to {file}.",
        .slots = {results_slot("results", "Results", {Kind::mesh, Kind::surface, Kind::bodies},
                               {{"clamps", "clamps", "kept clear of, sideways and above"}}, "to be milled"),
                  choice_slot("seen", "Seen",
                              {{"above", "from above", "its highest place at the board’s top"},
                               {"south", "from the south", "an upright relief, lying on its back"},
                               {"east", "from the east", ""},
                               {"north", "from the north", ""},
                               {"west", "from the west", ""}}),
                  length_above_zero_slot("thickness", "Thickness of the board", "60 mm"),
                  from_zero(length_slot("margin", "Margin", "20 mm")),
                  choice_slot("cutter", "Cutter",
                              {{"ball", "a ball", "half a sphere"},
                               {"flat", "a flat cutter", "square at its end"},
                               {"rounded", "a rounded cutter", "flat, with a rounding around"}}),
                  length_above_zero_slot("diameter", "Diameter", "12 mm"),
                  length_above_zero_slot("corner", "Rounding", "2 mm"),
                  choice_slot("by", "Paths",
                              {{"apart", "paths apart by", "of neighbours, in plan"},
                               {"ridge", "ridges up to", "between neighbours on a level face"}}),
                  length_above_zero_slot("apart", "Distance of paths", "1.2 mm"),
                  length_above_zero_slot("ridge", "Ridges", "0.03 mm"),
                  choice_slot("way", "Way",
                              {{"parallel", "in parallels", "there and back"},
                               {"contours", "along contours", "level by level, as far apart in height"},
                               {"spiral", "in a spiral", "from the middle outwards"}}),
                  angle_slot("angle", "Angle of parallels", "0°"),
                  choice_slot("roughing", "Roughing",
                              {{"none", "without roughing", ""},
                               {"levels", "roughed level by level", "along parallels at the same angle"}}),
                  choice_slot("rough_cutter", "Cutter for roughing",
                              {{"flat", "a flat cutter", ""}, {"ball", "a ball", ""}}),
                  length_above_zero_slot("rough_diameter", "Diameter for roughing", "20 mm"),
                  length_above_zero_slot("rough_apart", "Distance of paths for roughing", "10 mm"),
                  length_above_zero_slot("step_down", "Height of a level", "8 mm"),
                  from_zero(length_slot("allowance", "Allowance", "0.5 mm")),
                  length_above_zero_slot("feed", "Feed", "3 m"),
                  length_above_zero_slot("plunge_feed", "Feed downwards", "1 m"),
                  count_slot("spindle", "Turns a minute", "12000", 0),
                  length_above_zero_slot("safe", "Safe height", "10 mm"),
                  from_zero(length_slot("clearance", "Distance from clamps", "2 mm")),
                  format_slot({{".nc", "G-code", "words of ISO 6983, millimetres"}}),
                  file_name_slot()},
        .results = {Kind::delivery},
        .result_name = "milling",
        .help =
            "Milling of a relief or a surface by three axes from a board: roughing level by level if wished, "
            "then finishing by a ball, flat or rounded cutter along parallels, contours or a spiral, and "
            "along the rims. The cutter touches the form's faces exactly and cuts nothing of them. What is "
            "written is read back and rehearsed: the report says how long it takes, what is left standing, "
            "where the cutter cannot reach, and what is cut too deep.",
        .make = make,
    };
}

}  // namespace plume

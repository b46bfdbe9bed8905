#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/forces/spread_lines.hpp"
#include "core/geometry/curves/curve_rebuild.hpp"
#include "core/geometry/curves/within_outline.hpp"
#include "core/geometry/surfaces/form_search.hpp"
#include "core/steps/curves/curve_support.hpp"
#include "core/steps/curves/line_points.hpp"

namespace plume {
namespace {

// Where there is room for all, this share of what is left for each is begun with.
constexpr double begun_with = 0.5;
constexpr const char* apart_name = "apart";  // number of the result
constexpr double meet_below = 0.05;          // of the gap
constexpr double told_beyond = 5e-3;         // as a share of the lengths

LineLengths lengths_in(const Inputs& in) {
    const std::string& word = in.word("lengths");
    if (word == "least") return LineLengths::at_least;
    if (word == "short") return LineLengths::shortest;
    return word == "keep" ? LineLengths::kept : LineLengths::growing;
}
LineEnds ends_in(const Inputs& in) {
    const std::string& word = in.word("ends");
    return word == "held" ? LineEnds::held : word == "slide" ? LineEnds::sliding : LineEnds::loose;
}

double total_length(const CurveSet& set) {
    double total = 0;
    for (const SplineCurve& curve : set.curves)
        total += polygon_length(curve);
    return total;
}

SpreadLine line_along(const SplineCurve& curve, double gap) {
    const double points = std::clamp(std::round(spread_points(polygon_length(curve), gap)), 6.0, most_bays);
    return {even_points(curve, static_cast<std::size_t>(points)).points, curve.closed()};
}
std::vector<SpreadLine> lines_along(const CurveSet& set, double gap) {
    std::vector<SpreadLine> lines;
    for (const SplineCurve& curve : set.curves)
        lines.push_back(line_along(curve, gap));
    return lines;
}

void tell(const Inputs& in, const SpreadingRule& rule, const LinesSpread& made, const Run& run) {
    const auto text = [&](double size) { return quantity_text({size, a_length}, in.units(), 4); };
    if (made.least < made.gap)
        run.remark("Lines are at least " + text(made.least) + " apart, " + text(made.mean) +
                   " or more on the mean.");
    else
        run.remark("Lines are " + text(made.gap) + " apart or more.");
    if (made.close > 0)
        run.remark(count_text(made.close, "point is", "points are") + " nearer to a line than the " +
                   text(made.gap) + " that you asked for.");
    if (made.least < meet_below * made.gap) run.remark("Where lines meet or cross they go on doing so.");
    const bool grew = rule.lengths == LineLengths::growing;
    const bool grows_on = grew && !made.no_room && made.times < (1 - told_beyond) * rule.times;
    if (std::abs(made.times - 1) > told_beyond || grew)
        run.remark("All together they are " + short_text(made.times, 4) + " times as long as before" +
                   (made.no_room ? ": there is no room for more."
                    : grows_on   ? ": with more rounds they grow on."
                                 : "."));
    if (!made.at_rest)
        run.remark("They still move after " + count_text(made.rounds, "round", "rounds") + ".");
}

// Each through its points, with its own numbers at the same shares of its length, and how far it is from
// others.
Result<Value> as_curves(const CurveSet& before, const LinesSpread& made) {
    CurveSet set;
    for (std::size_t line = 0; line < made.lines.size(); ++line) {
        const SpreadLine& spread = made.lines[line];
        CurvePoints points = even_points(before.curves[line], spread.at.size() - (spread.closed ? 0 : 1));
        std::erase_if(points.fields, [](const Field& field) { return field.name == apart_name; });
        points.fields.push_back(
            {apart_name, Column(Doubles(made.apart[line].begin(), made.apart[line].end())), a_length});
        points.points = spread.at;
        points.parameters.clear();
        auto curve = curve_through(std::move(points), CurveShape::smooth);
        if (!curve) return about_slot(curve.error(), "lines");
        set.curves.push_back(*std::move(curve));
    }
    return Value(std::move(set));
}

const char* slot_of(ErrorCode code) {
    return code == ErrorCode::unlike_arrangement ? "ends" : code == ErrorCode::wrong_kind ? "apart" : "lines";
}

Result<Value> spread(const Inputs& in, SpreadingRule rule, double room, const Run& run) {
    const auto& set = in.held<CurveSet>("lines");
    rule.as_far_as_room = in.word("apart") == "room";
    rule.gap = rule.as_far_as_room ? begun_with * room / total_length(set) : in.number("gap");
    rule.lengths = lengths_in(in);
    if (in.has("times")) rule.times = in.number("times");
    rule.ends = ends_in(in);
    rule.stiffness = in.number("stiffness");
    if (in.has("others")) rule.around = lines_along(in.held<CurveSet>("others"), rule.gap);
    rule.most_rounds = in.count("rounds");
    const auto made = spread_lines(lines_along(set, rule.gap), rule, run);
    if (!made) return about_slot(made.error(), slot_of(made.error().code));
    tell(in, rule, *made, run);
    return as_curves(set, *made);
}

Error needs_outline(std::string_view slot, std::string what) {
    return about_slot(Error{ErrorCode::wrong_kind, "", std::move(what), "Spread them within an outline."},
                      slot);
}

Result<Value> make(const Inputs& in, const Run& run) {
    const std::string& where = in.word("where");
    const bool unbounded = where == "level" || where == "space";
    if (where != "outline" && ends_in(in) == LineEnds::sliding)
        return needs_outline("ends", "slide on the edge of an outline, and there is none");
    if (unbounded && in.word("apart") == "room")
        return needs_outline("apart", "is as far as there is room, and there is room without end");
    SpreadingRule rule;
    if (where == "outline") {
        const auto outline = Outline::make(in.held<CurveSet>("outline"));
        if (!outline) return about_slot(outline.error(), "outline");
        const WithinOutline within(*outline);
        rule.kept = [&](Vec3, Vec3 to, double from_edge) { return within.kept(to, from_edge); };
        rule.on_edge = [&](Vec3 place) { return within.on_edge(place); };
        return spread(in, rule, outline->area(), run);
    }
    if (where == "form") {
        const auto form = FormSearch::make(in.value("form"), run);
        if (!form) return about_slot(form.error(), "form");
        rule.kept = [&](Vec3, Vec3 to, double) { return form->nearest(to).place; };
        return spread(in, rule, form->size() * form->size() / 4, run);
    }
    if (where == "level") rule.kept = [](Vec3 from, Vec3 to, double) { return Vec3{to.x, to.y, from.z}; };
    return spread(in, rule, 0, run);
}

Estimate estimate(const Inputs& in) {
    const auto& set = in.held<CurveSet>("lines");
    const double curves = static_cast<double>(set.curves.size());
    const double times = in.has("times") ? in.number("times") : 1;
    const bool room = in.word("apart") == "room";
    const double length = total_length(set);
    const double begun = room ? 20 * curves * curves : spread_points(length, in.number("gap"));
    const double points = room ? begun : begun * times + 6 * curves;
    // As close to each other as those that the lines begin with; lines of no length are refused.
    const double around =
        in.has("others") && length > 0 ? begun * total_length(in.held<CurveSet>("others")) / length : 0;
    const double each = in.word("where") == "form" ? 1.5e-6 : 5e-7;
    return {(points + around) * 500, points * each * std::min(in.number("rounds"), 2000.0) + around * 5e-5};
}

}  // namespace

StepKind spread_lines_evenly() {
    SlotSpec times = number_slot("times", "Times", "5");
    times.least = 1;
    SlotSpec stiffness = number_slot("stiffness", "Stiffness", "0.5");
    stiffness.least = 0;
    stiffness.most = 1;
    return {
        .key = "forces.lines",
        .verb = "Spread lines evenly",
        .synonyms =
            "space spacing equidistant stripes repel meander labyrinth differential growth fill bundle",
        .sentence =
            "Spread {lines} evenly, {apart}[apart=gap| {gap} apart][more|, {where}][where=outline| "
            "{outline}][where=form| {form}], {lengths}[lengths=grow| {times} times their length], their ends "
            "{ends}[more|, as stiff as {stiffness} against bending][more|, {around}][around=others| "
            "{others}][more|, in at most {rounds} rounds].",
        .slots =
            {curves_slot("lines", "Lines"),
             choice_slot("apart", "Apart",
                         {{"gap", "at least", ""}, {"room", "as far apart as there is room", ""}}),
             length_above_zero_slot("gap", "Gap", "30 cm"),
             choice_slot("where", "Where",
                         {{"level", "each point at its height", ""},
                          {"space", "in space", ""},
                          {"outline", "within", "an outline, half the gap from its edge"},
                          {"form", "on", "a surface, a mesh or a body"}}),
             reference_slot("outline", "Outline", {Kind::curves}),
             reference_slot("form", "Form", {Kind::surface, Kind::mesh, Kind::bodies}),
             choice_slot("lengths", "Lengths",
                         {{"least", "no shorter than they are", "longer where they have to go round"},
                          {"short", "drawn short", "as far as others let them"},
                          {"keep", "as long as they are", ""},
                          {"grow", "growing to", "so many times their length, as far as there is room"}}),
             times,
             choice_slot("ends", "Ends",
                         {{"held", "held", ""},
                          {"slide", "sliding on the edge", "of the outline"},
                          {"free", "free", ""}}),
             stiffness,
             choice_slot("around", "Around",
                         {{"nothing", "around nothing else", ""}, {"others", "around", "lines that stay"}}),
             reference_slot("others", "Others", {Kind::curves}), count_slot("rounds", "Rounds", "4000", 1)},
        .results = {Kind::curves},
        .result_name = "spread",
        .help =
            "Lines push each other away until they lie evenly: as stripes, round something, or folded into "
            "what room there is where they grow. What turns back on itself keeps the gap too. Each carries "
            "`apart`, how far it is from the next line there, up to the gap.",
        .estimate = estimate,
        .make = make,
    };
}

}  // namespace plume

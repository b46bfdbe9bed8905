#include <algorithm>
#include <cmath>
#include <numbers>
#include <numeric>

#include "core/geometry/curves/curve_placements.hpp"
#include "core/geometry/measures/bounds.hpp"
#include "core/steps/curves/contour_support.hpp"
#include "core/steps/curves/curve_support.hpp"
#include "core/steps/curves/line_points.hpp"
#include "core/steps/moves/axis_slots.hpp"

namespace plume {
namespace {

using Planes = std::vector<Placement>;

// Through an axis, evenly over half a turn: each plane cuts to both sides.
Planes radial_planes(const Inputs& in) {
    const Placement axis = axis_of(in);
    const std::size_t count = in.count("count");
    Planes planes;
    for (std::size_t number = 0; number < count; ++number) {
        const double angle = std::numbers::pi * static_cast<double>(number) / static_cast<double>(count);
        planes.push_back(
            placement_of(axis.origin, axis.turned({-std::sin(angle), std::cos(angle), 0}), axis.up));
    }
    return planes;
}

Result<Planes> planes_along(const Inputs& in, const Run& run) {
    const auto rail = only_curve(in, "rail");
    if (!rail) return rail.error();
    auto placed = placements_along(*rail, in.count("count"), PlacementTurning::least, run);
    if (!placed) return about_slot(placed.error(), "rail");
    return placed;
}

struct Sections {
    Planes planes;
    Contours lines;  // whose levels are the numbers of the planes
};

// Square to a direction, so far apart: levels, found at once.
Result<Sections> parallel_sections(const Inputs& in, LineTruth truth, const Run& run) {
    const Placement across = plane_across(in);
    const auto form = heights_of(in.value("surface"), across, run);
    if (!form) return about_slot(form.error(), "surface");
    Sections sections{{across}, {}};
    const auto range = range_of(*form);
    if (!range) return sections;
    const auto heights = levels_every({in.number("spacing"), in.number("start")}, *range);
    if (!heights) return heights.error();
    auto lines = contours_of(*form, *heights, truth, run);
    if (!lines) return about_slot(lines.error(), "surface");
    sections.planes.assign(std::max<std::size_t>(heights->size(), 1), across);
    sections.lines = *std::move(lines);
    return sections;
}

Result<Planes> planes_of(const Inputs& in, const Run& run) {
    if (in.word("by") == "radial") return radial_planes(in);
    if (in.word("by") == "rail") return planes_along(in, run);
    return in.held<Placements>("planes").present_placements();
}

Status add_section(const Placement& plane, std::size_t number, LineTruth truth, const Inputs& in,
                   const Run& run, Contours& sections) {
    constexpr double level = 0;
    const auto form = heights_of(in.value("surface"), plane, run);
    if (!form) return about_slot(form.error(), "surface");
    auto made = contours_of(*form, std::span(&level, 1), truth, run);
    if (!made) return about_slot(made.error(), "surface");
    sections.deviation = std::max(sections.deviation, made->deviation);
    sections.level_faces += made->level_faces;
    sections.faces_without += made->faces_without;
    for (Contour& line : made->lines)
        sections.lines.push_back({std::move(line.curve), number});
    return Done{};
}

Result<Sections> sections_of(const Inputs& in, const Run& run) {
    const auto truth = wished_truth(in.value("surface"), in);
    if (!truth) return truth.error();
    if (in.word("by") == "parallel") return parallel_sections(in, *truth, run);
    auto planes = planes_of(in, run);
    if (!planes) return planes.error();
    Sections sections{*std::move(planes), {}};
    for (std::size_t number = 0; number < sections.planes.size(); ++number) {
        if (run.cancelled()) return cancelled_error();
        run.report(static_cast<double>(number) / static_cast<double>(sections.planes.size()));
        if (Status added = add_section(sections.planes[number], number, *truth, in, run, sections.lines);
            !added)
            return added.error();
    }
    return sections;
}

Result<Value> make(const Inputs& in, const Run& run) {
    auto sections = sections_of(in, run);
    if (!sections) return sections.error();
    if (sections->lines.lines.empty())
        return about_slot(
            Error{ErrorCode::empty_input, "", "is cut by none of the planes", "Move them, or turn them."},
            "surface");
    std::vector<double> numbers(sections->planes.size());
    std::iota(numbers.begin(), numbers.end(), 0.0);
    return drawn_contours(std::move(sections->lines), {"section", plain_number, numbers}, sections->planes,
                          "surface", in, run);
}

// Most sections are upright.
SlotSpec way_slot() {
    SlotSpec direction = direction_slot();
    direction.preset = "x";
    return direction;
}

Estimate estimate(const Inputs& in) {
    const std::string& by = in.word("by");
    double planes = 1;
    if (by == "placed")
        planes = static_cast<double>(in.held<Placements>("planes").origins().point_count());
    else if (by == "parallel")
        planes = bounds_of(in.value("surface")).diagonal() / in.number("spacing") + 1;
    else
        planes = in.number("count");
    const Estimate each = contours_estimate(in.value("surface"), 1);
    const Estimate all{each.bytes + planes * bays_across(in.value("surface")) * 600, planes * each.seconds};
    return with_points_estimate(all, in.value("surface"), planes, in);
}

}  // namespace

StepKind cut_sections() {
    return {
        .key = "curve.section",
        .verb = "Cut sections",
        .synonyms = "section plane cut slice intersection surface profile contour cross parallel radial",
        .sentence =
            std::string("Cut {surface} by {by}[by=parallel| {direction}][by=parallel&direction=placed| of "
                        "{placement}][by=parallel|, every {spacing} from {start}]"
                        "[by=radial| {axis}][by=radial&axis=placed| of {placement}]"
                        "[by=rail| {rail}][by=radial,rail|, {count} of them][by=placed| {planes}], ") +
            line_points_words + ".",
        .slots = with_line_points(
            {levelled_slot("surface"),
             choice_slot("by", "Planes",
                         {{"parallel", "planes square to", "parallel ones, so far apart"},
                          {"radial", "planes through", "an axis, evenly around it"},
                          {"rail", "planes square to the curve", "at even lengths along it"},
                          {"placed", "the planes of", "placements: square to the up axis of each"}}),
             way_slot(), length_above_zero_slot("spacing", "Spacing", "1 m"),
             length_slot("start", "Start", "0 m"), axis_slot(), placement_slot(),
             reference_slot("rail", "Curve", {Kind::curves}), count_slot("count", "Count", "12", 1),
             reference_slot("planes", "Planes", {Kind::placements})}),
        .results = {Kind::curves},
        .result_name = "sections",
        .help =
            "The curves in which planes cut a surface, mesh, body or lattice: parallel ones, planes through "
            "an "
            "axis, square to a curve at even lengths, or one square to the up axis of each placement. On "
            "exact "
            "surfaces true to a ten millionth of the size, joined into the longest curves, closed where they "
            "close; no loop is missed that is larger than a 256th of a bay between two knots. Fields: "
            "section, "
            "the number of the plane; length; closed; within and depth, as those of levels.",
        .stays_beside = true,
        .estimate = estimate,
        .make = make,
    };
}

}  // namespace plume

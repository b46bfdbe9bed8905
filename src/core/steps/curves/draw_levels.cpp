#include "core/steps/curves/contour_support.hpp"
#include "core/steps/curves/line_points.hpp"
#include "core/steps/moves/axis_slots.hpp"

namespace plume {
namespace {

Result<Value> make(const Inputs& in, const Run& run) {
    const Placement plane = plane_across(in);
    const auto form = heights_of(in.value("thing"), plane, run);
    if (!form) return about_slot(form.error(), "thing");
    const auto range = range_of(*form);
    if (!range)
        return about_slot(
            Error{ErrorCode::empty_input, "", "has no surface", "Choose something that has one."}, "thing");
    const auto levels = wished_levels(in, *range, a_length);
    if (!levels) return levels.error();
    const auto truth = wished_truth(in.value("thing"), in);
    if (!truth) return truth.error();
    auto contours = contours_of(*form, *levels, *truth, run);
    if (!contours) return about_slot(contours.error(), "thing");
    return drawn_contours(*std::move(contours), {"level", a_length, *levels}, std::span(&plane, 1), "thing",
                          in, run);
}

Estimate estimate(const Inputs& in) {
    const Value& thing = in.value("thing");
    const double levels = level_count(in, extent_along(thing, in));
    return with_points_estimate(contours_estimate(thing, levels), thing, levels, in);
}

}  // namespace

StepKind draw_levels() {
    return {
        .key = "curve.levels",
        .verb = "Draw levels",
        .synonyms = "contours contour lines height isohypse topography slices laminate relief",
        .sentence = std::string("Draw the levels of {thing} along ") + direction_words + ", " +
                    level_rule_words + ", " + line_points_words + ".",
        .slots = with_line_points(with_level_rule(with_direction({levelled_slot("thing")}), true)),
        .results = {Kind::curves},
        .result_name = "levels",
        .help =
            "The lines on which a surface, mesh, body or lattice has the same height along a direction. On "
            "exact "
            "surfaces they are true to a ten millionth of the size; no loop is missed that is larger than a "
            "256th of a bay between two knots. Pieces are joined into the longest lines, closed where they "
            "close, the higher side at the left, in the order of levels. Fields: level; length; closed, 1 or "
            "0; "
            "within, the number of the line around it seen along the direction, or -1; depth, how many lines "
            "of "
            "its own level are around it: an odd one is a hole.",
        .stays_beside = true,
        .estimate = estimate,
        .make = make,
    };
}

}  // namespace plume

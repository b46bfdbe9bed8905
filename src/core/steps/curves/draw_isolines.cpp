#include <algorithm>

#include "core/data/not_finite.hpp"
#include "core/steps/curves/contour_support.hpp"
#include "core/steps/curves/curve_support.hpp"
#include "core/steps/curves/line_points.hpp"
#include "core/steps/moves/axis_slots.hpp"

namespace plume {
namespace {

// The number in hand is the one of a field, or the only one there is.
Result<std::string> number_of(const Inputs& in) {
    if (in.word("of") == "named") return in.word("number");
    const std::vector<std::string> names = field_names(in.value("thing"));
    if (std::holds_alternative<FieldOnPoints>(in.value("thing"))) return names.back();
    if (names.size() == 1) return names.front();
    if (names.empty())
        return about_slot(Error{ErrorCode::empty_input, "", "carries no number",
                                "Compute one on its points, or draw levels of its height."},
                          "thing");
    return about_slot(Error{ErrorCode::wrong_kind, "", "carries several numbers: " + listed_names(names),
                            "Say which, by ‘the number called’."},
                      "of");
}

Result<FormToLevel> form_of(const Inputs& in, const Run& run) {
    const auto number = number_of(in);
    if (!number) return number.error();
    auto form = numbers_of(in.value("thing"), *number, run);
    if (form) return form;
    if (form.error().code != ErrorCode::out_of_range || in.word("of") != "named")
        return about_slot(form.error(), "thing");
    const std::vector<std::string> names = field_names(in.value("thing"));
    return about_slot(Error{ErrorCode::out_of_range, "", "is not carried by what is drawn",
                            names.empty() ? "Compute a number on its points first."
                                          : "Type one that it carries: " + listed_names(names) + "."},
                      "number");
}

Result<Value> make(const Inputs& in, const Run& run) {
    const auto form = form_of(in, run);
    if (!form) return form.error();
    const auto range = range_of(*form);
    if (!range)
        return about_slot(Error{ErrorCode::not_finite, "", "carries no finite number there",
                                "Look at the step that computes it."},
                          "thing");
    const auto levels = wished_levels(in, *range, form->dimension);
    if (!levels) return levels.error();
    const auto truth = wished_truth(in.value("thing"), in);
    if (!truth) return truth.error();
    auto contours = contours_of(*form, *levels, *truth, run);
    if (!contours) return about_slot(contours.error(), "thing");
    const Placement above;
    return drawn_contours(*std::move(contours), {"level", form->dimension, *levels}, std::span(&above, 1),
                          "thing", in, run);
}

// Between the ends of any of the numbers that are carried.
double widest(const Value& thing) {
    double span = 0;
    const auto look_at = [&](const std::vector<Field>& fields) {
        for (const Field& field : fields) {
            FiniteRange range;
            range.include(field.values);
            if (!range.empty()) span = std::max(span, range.most - range.least);
        }
    };
    if (const PointLattice* lattice = lattice_of(thing)) look_at(lattice->fields());
    if (const auto* mesh = std::get_if<Mesh>(&thing)) look_at(mesh->fields());
    if (const auto* surface = std::get_if<SurfaceSet>(&thing))
        for (const SplinePatch& patch : surface->patches)
            look_at(patch.fields());
    return span;
}

Estimate estimate(const Inputs& in) {
    const Value& thing = in.value("thing");
    const double levels = level_count(in, widest(thing));
    return with_points_estimate(contours_estimate(thing, levels), thing, levels, in);
}

}  // namespace

StepKind draw_isolines() {
    return {
        .key = "curve.isolines",
        .verb = "Draw iso-lines",
        .synonyms = "isolines contours contour lines level field number equal value potential",
        .sentence = std::string("Draw iso-lines of {thing} by {of}[of=named| {number}], ") +
                    level_rule_words + ", " + line_points_words + ".",
        .slots = with_line_points(with_level_rule(
            {reference_slot("thing", "Thing", {Kind::field, Kind::surface, Kind::mesh, Kind::points}),
             choice_slot("of", "Number",
                         {{"hand", "the number in hand", "of a field, or the only one it carries"},
                          {"named", "the number called", "any that it carries"}}),
             name_slot("number", "Number", "distance")},
            false)),
        .results = {Kind::curves},
        .result_name = "isolines",
        .help =
            "The lines on which a number that points, a surface or a mesh carry has the same value. Points "
            "are "
            "taken as the smooth surface through them, their number as smooth on it; where they have none, "
            "as "
            "facets. Fields: level, length, closed, within and depth, as those of levels, seen from above.",
        .counts_plain_numbers = true,
        .stays_beside = true,
        .estimate = estimate,
        .make = make,
    };
}

}  // namespace plume

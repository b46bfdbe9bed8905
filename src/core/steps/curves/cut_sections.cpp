#include "core/base/numbers.hpp"
#include "core/geometry/curves/curve_edit.hpp"
#include "core/geometry/surfaces/level_lines.hpp"
#include "core/geometry/surfaces/patch_edit.hpp"
#include "core/steps/curves/curve_support.hpp"
#include "core/steps/surfaces/surface_support.hpp"

namespace plume {
namespace {

// Of the surface's size: how true sections are.
constexpr double true_share = 1e-7;

struct Sections {
    CurveSet set;
    std::size_t flat_bays = 0;
};

Status add_section(const SurfaceSet& surface, const Placement& plane, double number, const Run& run,
                   Sections& sections) {
    constexpr double level = 0;
    for (const SplinePatch& patch : surface.patches) {
        const auto made = level_lines(patch, heights_above(patch, plane), std::span(&level, 1),
                                      true_share * poles_box(patch).diagonal(), run);
        if (!made) return about_slot(made.error(), "surface");
        sections.flat_bays += made->level_bays;
        for (const LevelLine& line : made->lines)
            sections.set.curves.push_back(
                with_fields(line.curve, {{"section", Doubles(line.curve.x().size(), number), plain_number}}));
    }
    return Done{};
}

Result<Value> make(const Inputs& in, const Run& run) {
    const SurfaceSet& surface = in.held<SurfaceSet>("surface");
    const std::vector<Placement> planes = in.held<Placements>("planes").present_placements();
    Sections sections;
    for (std::size_t number = 0; number < planes.size(); ++number) {
        if (run.cancelled()) return cancelled_error();
        run.report(static_cast<double>(number) / static_cast<double>(planes.size()));
        if (Status added = add_section(surface, planes[number], static_cast<double>(number), run, sections);
            !added)
            return added.error();
    }
    if (sections.flat_bays > 0)
        run.remark(grouped_text(static_cast<std::int64_t>(sections.flat_bays)) +
                   (sections.flat_bays == 1 ? " bay lies in a plane as a whole and gives no line."
                                            : " bays lie in planes as a whole and give no lines."));
    if (sections.set.curves.empty())
        return about_slot(Error{ErrorCode::empty_input, "", "is cut by none of the planes",
                                "Move them, or turn them: a plane lies square to the placement's up axis."},
                          "surface");
    return Value(std::move(sections.set));
}

Estimate estimate(const Inputs& in) {
    const auto planes = static_cast<double>(in.held<Placements>("planes").origins().point_count());
    double bays = 0;
    for (const SplinePatch& patch : in.held<SurfaceSet>("surface").patches)
        bays += static_cast<double>(patch.u().pole_count() + patch.v().pole_count());
    const Estimate read = surface_poles_estimate(in, 500, 5e-7);
    return {read.bytes + planes * bays * 600, planes * (read.seconds + bays * 2e-5)};
}

}  // namespace

StepKind cut_sections() {
    return {
        .key = "curve.section",
        .verb = "Cut sections",
        .synonyms = "section plane cut slice intersection surface profile contour cross",
        .sentence = "Cut {surface} by the planes of {planes}.",
        .slots = {surface_slot(), reference_slot("planes", "Planes", {Kind::placements})},
        .results = {Kind::curves},
        .result_name = "sections",
        .help =
            "The curves in which planes cut a surface: one plane square to the up axis of each placement. "
            "True "
            "to a ten millionth of the surface's size, joined into the longest curves, closed where they "
            "close; no loop is missed that is larger than a 256th of a bay between two knots. The field "
            "section numbers the planes.",
        .stays_beside = true,
        .estimate = estimate,
        .make = make,
    };
}

}  // namespace plume

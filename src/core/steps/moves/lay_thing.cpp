#include "core/base/numbers.hpp"
#include "core/data/place_text.hpp"
#include "core/geometry/curves/curve_sampling.hpp"
#include "core/geometry/curves/mapped_curve.hpp"
#include "core/geometry/measures/bounds.hpp"
#include "core/geometry/surfaces/patch_figures.hpp"
#include "core/geometry/surfaces/surface_map.hpp"
#include "core/steps/curves/curve_support.hpp"
#include "core/steps/moves/moved_points.hpp"
#include "core/steps/surfaces/surface_support.hpp"

namespace plume {
namespace {

// Of the surface's size: how true curves are.
constexpr double true_share = 1e-7;

Result<FlatRectangle> rectangle_of(const Inputs& in) {
    if (in.word("over") == "placed")
        return FlatRectangle{in.held<Placements>("placement").present_placements().front(),
                             in.number("width"), in.number("depth")};
    if (in.word("over") == "origin") return FlatRectangle{{}, in.number("width"), in.number("depth")};
    const Box extent = bounds_of(in.value("thing"));
    const Vec3 size = extent.size();
    if (!(size.x > 0) || !(size.y > 0))
        return about_slot(Error{ErrorCode::out_of_range, "", "has no extent in plan",
                                "Type the rectangle that it lies in."},
                          "over");
    return FlatRectangle{{{extent.low.x, extent.low.y, 0}, {1, 0, 0}, {0, 1, 0}, {0, 0, 1}}, size.x, size.y};
}

Error beside(std::string where) {
    return about_slot(Error{ErrorCode::out_of_range, "", "lies beside the rectangle" + std::move(where),
                            "Make the rectangle larger, or move it."},
                      "thing");
}

Result<Value> laid(const PointLattice& points, const SurfaceMap& map, const SplinePatch& patch,
                   const Run& run) {
    const TrimSides sides(patch);
    const auto made = moved_or_gaps(
        points,
        [&](std::size_t, Vec3 point) -> std::optional<Vec3> {
            const auto found = map.laid(point);
            return found && sides.hold(found->u, found->v) ? std::optional(found->place) : std::nullopt;
        },
        run);
    if (!made) return made.error();
    if (made->gaps == points.point_count()) return beside(" everywhere");
    if (made->gaps > 0)
        run.remark_loss(grouped_text(static_cast<std::int64_t>(made->gaps)) +
                        (made->gaps == 1 ? " point lies beside the rectangle or in a hole and is a gap."
                                         : " points lie beside the rectangle or in a hole and are gaps."));
    return Value(made->points);
}

Result<Value> laid(const CurveSet& set, const SurfaceMap& map, double size, const Inputs& in,
                   const Run& run) {
    CurveSet made;
    double deviation = 0;
    for (std::size_t number = 0; number < set.curves.size(); ++number) {
        const SplineCurve& curve = set.curves[number];
        const CurvePlace place = [&](double t) -> Result<Vec3> {
            const Vec3 from = evaluate(curve, t).position;
            const auto found = map.laid(from);
            if (found) return found->place;
            return beside(" at " + place_text(from, length(from), in.units()));
        };
        auto image = image_of(curve, place, true_share * size, run);
        if (!image) return about_slot(at_curve(image.error(), set, number), "thing");
        deviation = std::max(deviation, image->deviation);
        made.curves.push_back(std::move(image->to));
    }
    if (made.curves.empty())
        return about_slot(Error{ErrorCode::empty_input, "", "holds no curve", "Choose another."}, "thing");
    // A crease of the surface bends a curve more sharply than it can follow.
    if (deviation > 10 * true_share * size) run.remark(deviation_sentence(deviation, in));
    return Value(std::move(made));
}

Result<Value> make(const Inputs& in, const Run& run) {
    const auto patch = only_patch(in, "one is laid onto");
    if (!patch) return patch.error();
    const auto rectangle = rectangle_of(in);
    if (!rectangle) return rectangle.error();
    const SurfaceMap map(*patch, *rectangle,
                         in.word("steps") == "lengths" ? MapSteps::even_lengths : MapSteps::even_parameters);
    if (const auto* set = std::get_if<CurveSet>(&in.value("thing")))
        return laid(*set, map, bounds_of(*patch).diagonal(), in, run);
    return laid(in.lattice("thing"), map, *patch, run);
}

Estimate estimate(const Inputs& in) {
    const bool by_lengths = in.word("steps") == "lengths";
    const double each = by_lengths ? 1.5e-4 : 2e-6;
    if (const auto* set = std::get_if<CurveSet>(&in.value("thing"))) {
        // A curve gets knots where it crosses those of the surface.
        double crossed = 0;
        for (const SplinePatch& patch : in.held<SurfaceSet>("surface").patches)
            crossed += static_cast<double>(patch.u().pole_count() + patch.v().pole_count());
        const double poles = pole_count(*set) * 10 + crossed * static_cast<double>(set->curves.size());
        return {poles * 3000, poles * 6 * each};
    }
    const auto points = static_cast<double>(in.lattice("thing").address_count());
    return {points * 40, points * each};
}

}  // namespace

StepKind lay_thing() {
    return {
        .key = "thing.lay",
        .verb = "Lay onto a surface",
        .synonyms = "map wrap flat pattern u v plane curve points apply morph",
        .sentence =
            "Lay {thing}, flat over {over}[over=origin,placed| of {width} by {depth}]"
            "[over=placed| at {placement}], onto {surface} by {steps}.",
        .slots = {reference_slot("thing", "Thing", {Kind::curves, Kind::points, Kind::field}),
                  choice_slot("over", "Rectangle",
                              {{"own", "its own extent", "the rectangle around it in plan"},
                               {"origin", "a rectangle", "from the origin, along X and Y"},
                               {"placed", "a placed rectangle", "from a placement, along its axes"}}),
                  length_above_zero_slot("width", "Width", "10 m"),
                  length_above_zero_slot("depth", "Depth", "10 m"),
                  reference_slot("placement", "Placement", {Kind::placements}),
                  reference_slot("surface", "Surface", {Kind::surface}),
                  choice_slot("steps", "Steps",
                              {{"parameters", "even parameters", "even shares of u and v"},
                               {"lengths", "even lengths", "in the mean of the lines across"}})},
        .results = {Kind::curves, Kind::points},
        .result_name = "laid",
        .help =
            "What was drawn flat, laid onto a surface: the sides of a rectangle become u and v, heights "
            "above "
            "it go along the normal. Around a closed surface it goes on; beside an open one points are gaps "
            "and a curve is refused. Curves lie there to a ten millionth of the surface's size.",
        .estimate = estimate,
        .make = make,
    };
}

}  // namespace plume

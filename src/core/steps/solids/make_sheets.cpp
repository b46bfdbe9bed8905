#include <algorithm>
#include <cmath>
#include <numbers>

#include "core/base/text.hpp"
#include "core/geometry/curves/curve_interpolation.hpp"
#include "core/geometry/curves/exact_curves.hpp"
#include "core/geometry/curves/outline.hpp"
#include "core/geometry/levels/contours.hpp"
#include "core/geometry/measures/bounds.hpp"
#include "core/geometry/moves/transformed.hpp"
#include "core/geometry/solids/combined.hpp"
#include "core/geometry/solids/extruded_body.hpp"
#include "core/geometry/surfaces/plane_fill.hpp"
#include "core/steps/curves/contour_support.hpp"
#include "core/steps/moves/axis_slots.hpp"
#include "core/steps/solids/body_support.hpp"

namespace plume {
namespace {

// Sheets lie on each other from the lowest place of the form up.
struct Stack {
    Placement plane;                          // square to the direction, through the origin
    double low = 0, high = 1, thickness = 1;  // of the form
    std::size_t count = 0;

    double foot(std::size_t sheet) const { return low + thickness * static_cast<double>(sheet); }
    // Under or over a place, at a height.
    Placement at(Vec3 place, double height) const {
        return placement_of(place + plane.up * (height - plane.to_local(place).z), plane.up, plane.along);
    }
};

struct Pins {
    std::vector<Vec3> places;
    double radius = 0;
    std::size_t left_out = 0;  // times a pin would break out of a sheet
};

Result<Stack> stack_of(const Inputs& in, const FormToLevel& form) {
    const auto range = range_of(form);
    if (!range)
        return about_slot(Error{ErrorCode::empty_input, "", "holds no body", "Choose another."}, "bodies");
    Stack stack{plane_across(in), range->first, range->second, in.number("thickness"), 0};
    const double sheets = std::ceil((range->second - range->first) / stack.thickness - 1e-9);
    constexpr double most_sheets = 100'000;
    if (sheets > most_sheets)
        return about_slot(Error{ErrorCode::over_budget, "", "would give more than a hundred thousand sheets",
                                "Type a larger one."},
                          "thickness");
    stack.count = std::max<std::size_t>(static_cast<std::size_t>(sheets), 1);
    return stack;
}

Pins pins_of(const Inputs& in) {
    Pins pins;
    if (in.word("pins") == "none") return pins;
    const PointLattice& points = in.lattice("places");
    for (std::size_t index = 0; index < points.address_count(); ++index)
        if (points.present(index)) pins.places.push_back(points.point(index));
    pins.radius = in.number("diameter") / 2;
    return pins;
}

// Where in the sheet its outline is taken, of which the last one may hold less than its thickness. A hair
// inside, so that a face that lies there counts.
double outline_height(const Stack& stack, std::size_t sheet, const std::string& at) {
    const double share = at == "foot" ? 1e-6 : at == "top" ? 1 - 1e-6 : 0.5;
    return std::lerp(stack.foot(sheet), std::min(stack.foot(sheet + 1), stack.high), share);
}

// A ring of a pin that lies within the outlines, with room all around; counted where it breaks out.
void add_pin_rings(const Stack& stack, double height, Pins& pins, CurveSet& outlines) {
    std::vector<Outline> regions;
    for (const SplineCurve& curve : outlines.curves)
        if (auto region = Outline::make(curve)) regions.push_back(*std::move(region));
    constexpr int looked_at = 32;
    for (const Vec3 pin : pins.places) {
        const Placement at = stack.at(pin, height);
        int inside = 0;
        for (int step = 0; step < looked_at; ++step) {
            const double angle = 2 * std::numbers::pi * step / looked_at;
            const Vec3 place = at.to_world({pins.radius * std::cos(angle), pins.radius * std::sin(angle), 0});
            const auto around =
                std::ranges::count_if(regions, [&](const Outline& region) { return region.contains(place); });
            if (around % 2 == 1) ++inside;
        }
        if (inside == looked_at)
            outlines.curves.push_back(ellipse(at, pins.radius, pins.radius));
        else if (inside > 0)
            ++pins.left_out;
    }
}

struct Sheets {
    SolidSet set;
    std::vector<double> numbers;  // of the sheet each body belongs to, from 1

    void add(Body body, std::size_t sheet) {
        set.bodies.push_back(std::move(body));
        numbers.push_back(static_cast<double>(sheet + 1));
    }
};

Status add_upright(const Stack& stack, const FormToLevel& form, Pins& pins, const Inputs& in, const Run& run,
                   Sheets& sheets) {
    std::vector<double> heights;
    for (std::size_t sheet = 0; sheet < stack.count; ++sheet)
        heights.push_back(outline_height(stack, sheet, in.word("outline")));
    const auto contours = contours_of(form, heights, {}, run);
    if (!contours) return about_slot(contours.error(), "bodies");
    std::vector<CurveSet> outlines(stack.count);
    for (const Contour& line : contours->lines)
        if (line.curve.closed()) outlines[line.level].curves.push_back(line.curve);
    for (std::size_t sheet = 0; sheet < stack.count; ++sheet) {
        if (run.cancelled()) return cancelled_error();
        run.report(static_cast<double>(sheet) / static_cast<double>(stack.count));
        add_pin_rings(stack, heights[sheet], pins, outlines[sheet]);
        const auto faces = plane_fills(outlines[sheet], run);
        if (!faces) return about_slot(faces.error(), "bodies");
        for (const SplinePatch& face : *faces) {
            const Vec3 to_foot = stack.plane.up * (stack.foot(sheet) - heights[sheet]);
            const auto foot =
                transformed(Value(SurfaceSet{{face}}), Affine{{1, 0, 0}, {0, 1, 0}, {0, 0, 1}, to_foot});
            if (!foot) return about_slot(foot.error(), "bodies");
            auto body =
                extruded(std::get<SurfaceSet>(*foot).patches.front(), stack.plane.up * stack.thickness, run);
            if (!body) return about_slot(body.error(), "bodies");
            sheets.add(*std::move(body), sheet);
        }
    }
    return Done{};
}

// Holes through the whole stack.
Result<SolidSet> pin_bodies(const Stack& stack, const Pins& pins, const Run& run) {
    SolidSet bodies;
    for (const Vec3 pin : pins.places) {
        const Placement at = stack.at(pin, stack.low - stack.thickness);
        const auto faces = plane_fills(CurveSet{{ellipse(at, pins.radius, pins.radius)}}, run);
        if (!faces) return faces.error();
        auto body = extruded(faces->front(),
                             stack.plane.up * (stack.thickness * static_cast<double>(stack.count + 2)), run);
        if (!body) return body.error();
        bodies.bodies.push_back(*std::move(body));
    }
    return bodies;
}

// The room of a sheet, wider than the form.
Result<Body> slab_of(const Stack& stack, std::size_t sheet, const Box& around, const Run& run) {
    const double reach = around.diagonal();
    const Placement at = stack.at(around.centre(), stack.foot(sheet));
    CurvePoints corners;
    corners.closed = true;
    for (const auto& [x, y] : {std::pair{-1.0, -1.0}, {1.0, -1.0}, {1.0, 1.0}, {-1.0, 1.0}})
        corners.points.push_back(at.to_world({x * reach, y * reach, 0}));
    const auto outline = curve_through(std::move(corners), CurveShape::straight);
    if (!outline) return outline.error();
    const auto faces = plane_fills(CurveSet{{*outline}}, run);
    if (!faces) return faces.error();
    return extruded(faces->front(), stack.plane.up * stack.thickness, run);
}

// What of the form lies in the room of each sheet, from which the pins are cut before: what was cut is not
// cut again, which rounding would not bear.
Status add_slices(const Stack& stack, const Inputs& in, const Pins& pins, const Run& run, Sheets& sheets) {
    const SolidSet& form = in.held<SolidSet>("bodies");
    remark_polygons(form, run);
    const auto holes = pin_bodies(stack, pins, run);
    if (!holes) return about_slot(holes.error(), "places");
    const Box around = bounds_of(in.value("bodies"));
    for (std::size_t sheet = 0; sheet < stack.count; ++sheet) {
        if (run.cancelled()) return cancelled_error();
        run.report(static_cast<double>(sheet) / static_cast<double>(stack.count));
        const auto slab = slab_of(stack, sheet, around, run);
        if (!slab) return about_slot(slab.error(), "bodies");
        Result<SolidSet> room = SolidSet{{*slab}};
        if (!holes->bodies.empty()) room = combined(*room, *holes, Combination::cut, body_polygons, run);
        if (!room) return about_slot(room.error(), "places");
        auto slice = combined(form, *room, Combination::shared, body_polygons, run);
        if (!slice) return about_slot(slice.error(), "bodies");
        for (Body& body : slice->bodies)
            sheets.add(std::move(body), sheet);
    }
    return Done{};
}

void remark_on(const Stack& stack, const Sheets& sheets, const Pins& pins, const Inputs& in, const Run& run) {
    const auto volume = [&](const SolidSet& set) {
        return quantity_text({figures_of(set).volume, {3, 0}}, in.units());
    };
    run.remark(count_text(stack.count, "sheet", "sheets") + " of " +
               count_text(sheets.set.bodies.size(), "body", "bodies") + ": " + volume(sheets.set) +
               ", the form " + volume(in.held<SolidSet>("bodies")) + ".");
    if (pins.left_out > 0)
        run.remark_loss("Pins would break out of a sheet " + count_text(pins.left_out, "time", "times") +
                        " and make no hole there.");
}

Result<Value> make(const Inputs& in, const Run& run) {
    const auto form = heights_of(in.value("bodies"), plane_across(in), run);
    if (!form) return about_slot(form.error(), "bodies");
    const auto stack = stack_of(in, *form);
    if (!stack) return stack.error();
    Pins pins = pins_of(in);
    Sheets sheets;
    const Status added = in.word("walls") == "upright" ? add_upright(*stack, *form, pins, in, run, sheets)
                                                       : add_slices(*stack, in, pins, run, sheets);
    if (!added) return added.error();
    remark_on(*stack, sheets, pins, in, run);
    sheets.set.fields.push_back(
        {"sheet", Doubles(sheets.numbers.begin(), sheets.numbers.end()), plain_number});
    return some_bodies(std::move(sheets.set), "thickness", "leaves no sheet");
}

Estimate estimate(const Inputs& in) {
    const Value& bodies = in.value("bodies");
    const double sheets = extent_along(bodies, in) / in.number("thickness") + 1;
    const double holes =
        in.word("pins") == "none" ? 0 : sheets * static_cast<double>(in.lattice("places").point_count());
    if (in.word("walls") == "upright") {
        const Estimate lines = contours_estimate(bodies, sheets);
        return {lines.bytes * 6 + holes * 3e4, lines.seconds * 20 + sheets * 1e-3 + holes * 2e-3};
    }
    const Estimate cut = bodies_estimate(in, "bodies", 1600, 8e-5);
    return {cut.bytes + sheets * 1e5 + holes * 3e4, cut.seconds * sheets + holes * 5e-3};
}

}  // namespace

StepKind make_sheets() {
    return {
        .key = "body.sheets",
        .verb = "Cut into sheets",
        .synonyms = "laminate layers levels contours plywood stack slices boards relief model pins",
        .sentence = std::string("Cut {bodies} into sheets of {thickness} along ") + direction_words +
                    ", with {walls} walls[walls=upright|, by their outline {outline}], {pins}"
                    "[pins=holes| of {diameter} at {places}].",
        .slots = with_direction({bodies_slot(), length_above_zero_slot("thickness", "Thickness", "18 mm"),
                                 choice_slot("walls", "Walls",
                                             {{"upright", "upright", "as they are sawn: square to the sheet"},
                                              {"slope", "sloping", "as the form slopes: slices of it"}}),
                                 choice_slot("outline", "Outline",
                                             {{"middle", "in the middle", "halfway up the sheet"},
                                              {"foot", "at the foot", "of the sheet"},
                                              {"top", "at the top", "of the sheet"}}),
                                 choice_slot("pins", "Pins",
                                             {{"none", "without pins", "no holes"},
                                              {"holes", "with pin holes",
                                               "through all sheets, where there is room around them"}}),
                                 length_above_zero_slot("diameter", "Diameter", "8 mm"),
                                 reference_slot("places", "Places", {Kind::points, Kind::field})}),
        .results = {Kind::bodies},
        .result_name = "sheets",
        .help =
            "A laminated model: the form from its lowest place up in sheets of one thickness. Upright walls "
            "follow "
            "the form's outline at one height of each sheet, what is hollow there is cut out, exactly; "
            "sloping "
            "ones are slices of the form. The field sheet numbers them from 1 at the foot. Their volume is "
            "told "
            "beside the form's.",
        .estimate = estimate,
        .make = make,
    };
}

}  // namespace plume

#include "core/geometry/levels/contours.hpp"
#include "core/geometry/solids/filled_down.hpp"
#include "core/steps/moves/axis_slots.hpp"
#include "core/steps/solids/body_support.hpp"

namespace plume {
namespace {

Result<Value> make(const Inputs& in, const Run& run) {
    const Value& thing = in.value("surface");
    Placement plane = plane_across(in);
    const bool below = in.word("rule") == "below";
    double level = below ? 0 : in.number("level");
    if (below) {
        const auto form = heights_of(thing, plane, run);
        if (!form) return about_slot(form.error(), "surface");
        const auto range = range_of(*form);
        if (!range)
            return about_slot(Error{ErrorCode::empty_input, "", "has no face", "Choose another."}, "surface");
        level = range->first - in.number("by");
    }
    plane.origin = plane.up * level;
    SolidSet bodies;
    const auto add = [&](const Result<Body>& body) -> Status {
        if (!body) return about_slot(body.error(), "surface");
        bodies.bodies.push_back(*body);
        return Done{};
    };
    if (const auto* mesh = std::get_if<Mesh>(&thing)) {
        if (Status done = add(filled_down(*mesh, plane, run)); !done) return done.error();
    } else {
        for (const SplinePatch& patch : in.held<SurfaceSet>("surface").patches)
            if (Status done = add(filled_down(patch, plane, run)); !done) return done.error();
    }
    return Value(std::move(bodies));
}

Estimate estimate(const Inputs& in) {
    const auto bytes = static_cast<double>(bytes_of(in.value("surface")));
    return {bytes * 12, bytes * 4e-8};
}

}  // namespace

StepKind fill_down() {
    return {
        .key = "body.fill",
        .verb = "Fill down to a level",
        .synonyms = "solid ground base plinth relief terrain under surface close volume earth",
        .sentence =
            std::string(
                "Fill what lies under {surface} {rule}[rule=level| {level}][rule=below| {by}] along ") +
            direction_words + ".",
        .slots = with_direction(
            {reference_slot("surface", "Surface", {Kind::surface, Kind::mesh}),
             choice_slot("rule", "Level",
                         {{"below", "to below its lowest by", "so far under its lowest place"},
                          {"level", "to a level of", "a height along the direction"}}),
             length_above_zero_slot("by", "Depth", "0.5 m"), length_slot("level", "Level", "0 m")}),
        .results = {Kind::bodies},
        .result_name = "filled",
        .help =
            "The body between a surface and a level below it, or above: the surface itself, its shadow on "
            "the "
            "level, and walls along its rims. Exact on exact surfaces; a mesh gives a mesh. What overhangs, "
            "seen "
            "along the direction, cannot be filled.",
        .estimate = estimate,
        .make = make,
    };
}

}  // namespace plume

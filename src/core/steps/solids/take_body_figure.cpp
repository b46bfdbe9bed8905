#include "core/data/place_text.hpp"
#include "core/geometry/solids/combined.hpp"
#include "core/steps/solids/body_support.hpp"

namespace plume {
namespace {

// As for posts: how many overlap, and where the first does.
Result<Value> overlaps(const SolidSet& set, const Inputs& in, const Run& run) {
    const auto found = overlaps_of(set, body_polygons, run);
    if (!found) return about_slot(found.error(), "bodies");
    if (!found->empty()) {
        const Overlap& first = found->front();
        run.remark("Numbers " + std::to_string(first.first) + " and " + std::to_string(first.second) +
                   " share " + quantity_text({first.volume, {3, 0}}, in.units(), 3) + " near " +
                   place_text(first.place, length(first.place), in.units()) + ".");
    }
    return Value(Quantity{static_cast<double>(found->size()), plain_number});
}

Result<Value> make(const Inputs& in, const Run& run) {
    const SolidSet& set = in.held<SolidSet>("bodies");
    const BodyFigures figures = figures_of(set);
    const std::string& figure = in.word("figure");
    if (figure == "area") return Value(Quantity{figures.area, {2, 0}});
    if (figure == "height") return Value(Quantity{figures.centroid.z, a_length});
    if (figure == "count") return Value(Quantity{static_cast<double>(set.bodies.size()), plain_number});
    if (figure == "volume") return Value(Quantity{figures.volume, {3, 0}});
    if (figure == "overlaps") return overlaps(set, in, run);
    if (figure == "moment") {
        const Vec3 moments = moments_of(figures);
        const std::string& axis = in.word("axis");
        return Value(Quantity{axis == "x" ? moments.x : axis == "y" ? moments.y : moments.z, {5, 0}});
    }
    const double metre = metres_per(in.units().length);
    run.remark("In kilograms.");
    return Value(Quantity{figures.volume * metre * metre * metre * in.number("density"), plain_number});
}

}  // namespace

StepKind take_body_figure() {
    return {
        .key = "number.body",
        .verb = "Take a figure of bodies",
        .synonyms =
            "volume mass weight area surface centroid height density kilograms measure total moment inertia "
            "overlap "
            "clash",
        .sentence =
            "Take {figure} of {bodies}[figure=mass|, at {density} kg/m³][figure=moment| about {axis}].",
        .slots = {choice_slot(
                      "figure", "Figure",
                      {{"volume", "the volume", "of all bodies together"},
                       {"area", "the surface area", "of all bodies together"},
                       {"mass", "the mass", "in kilograms"},
                       {"height", "the height of the centroid", "its z"},
                       {"count", "the number", "how many there are"},
                       {"overlaps", "the number of overlaps", "pairs that have a volume in common"},
                       {"moment", "the moment", "of the volume, about an axis through its centroid"}}),
                  bodies_slot(), density_slot(),
                  choice_slot("axis", "Axis",
                              {{"z", "the axis along Z", ""},
                               {"x", "the axis along X", ""},
                               {"y", "the axis along Y", ""}})},
        .results = {Kind::number},
        .result_name = "figure",
        .help =
            "One number of bodies: exact for exact bodies. Expressions of later steps read it by its name. "
            "Moments are those of the volume; times a density they are moments of inertia. Overlaps are "
            "looked "
            "for on the polygons of bodies.",
        .estimate =
            [](const Inputs& in) {
                if (in.word("figure") != "overlaps") return Estimate{1e3, 1e-6};
                return bodies_estimate(in, "bodies", 1500, 1e-4);
            },
        .make = make,
    };
}

}  // namespace plume

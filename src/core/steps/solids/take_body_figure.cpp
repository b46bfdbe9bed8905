#include "core/steps/solids/body_support.hpp"

namespace plume {
namespace {

Result<Value> make(const Inputs& in, const Run& run) {
    const SolidSet& set = in.held<SolidSet>("bodies");
    const BodyFigures figures = figures_of(set);
    const std::string& figure = in.word("figure");
    if (figure == "area") return Value(Quantity{figures.area, {2, 0}});
    if (figure == "height") return Value(Quantity{figures.centroid.z, a_length});
    if (figure == "count") return Value(Quantity{static_cast<double>(set.bodies.size()), plain_number});
    if (figure == "volume") return Value(Quantity{figures.volume, {3, 0}});
    const double metre = metres_per(in.units().length);
    run.remark("In kilograms.");
    return Value(Quantity{figures.volume * metre * metre * metre * in.number("density"), plain_number});
}

SlotSpec density_slot() {
    SlotSpec spec = number_slot("density", "Density", "500");
    spec.least = 0;
    return spec;
}

}  // namespace

StepKind take_body_figure() {
    return {
        .key = "number.body",
        .verb = "Take a figure of bodies",
        .synonyms = "volume mass weight area surface centroid height density kilograms measure total",
        .sentence = "Take {figure} of {bodies}[figure=mass|, at {density} kg/m³].",
        .slots = {choice_slot("figure", "Figure",
                              {{"volume", "the volume", "of all bodies together"},
                               {"area", "the surface area", "of all bodies together"},
                               {"mass", "the mass", "in kilograms"},
                               {"height", "the height of the centroid", "its z"},
                               {"count", "the number", "how many there are"}}),
                  bodies_slot(), density_slot()},
        .results = {Kind::number},
        .result_name = "figure",
        .help =
            "One number of bodies: exact for exact bodies. Expressions of later steps read it by its name.",
        .estimate =
            [](const Inputs&) {
                return Estimate{1e3, 1e-6};
            },
        .make = make,
    };
}

}  // namespace plume

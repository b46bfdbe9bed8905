#include "core/steps/handoff/delivery_support.hpp"

namespace plume {
namespace {

Result<Value> make(const Inputs& in, const Run& /*run*/) {
    const Result<std::string> layers = one_pick(in, "layers");
    if (!layers) return layers.error();
    DeliveryWishes wishes;
    wishes.layers_by = *layers;
    if (in.has("scale")) wishes.scale = in.number("scale");
    return delivery_of(in, std::move(wishes));
}

}  // namespace

StepKind give_outlines() {
    return {
        .key = "handoff.outlines",
        .verb = "Give outlines for cutting",
        .synonyms = "dxf svg pdf laser cutter levels sheets lines drawing hand off deliver export",
        .sentence =
            "Cut {results}, on {layers}, as {format}[format=.dxf| in {unit}][format=.svg,.pdf| at 1 : "
            "{scale}], to {file}.",
        .slots = {results_slot("results", "Results", movable_kinds()),
                  picks_slot("layers", "Layers by", "a layer a result"),
                  format_slot({{".dxf", "DXF", "true arcs and splines"},
                               {".svg", "SVG", "to scale, in millimetres"},
                               {".pdf", "PDF", "to scale, to be printed"}}),
                  delivered_unit_slot(LengthUnit::millimetre), paper_scale_slot("50"), file_name_slot()},
        .results = {Kind::delivery},
        .result_name = "outlines",
        .help =
            "Lines for laser, cutter or paper, closed where they are closed, on layers that go by result or "
            "by "
            "the values of a number they carry.",
        .make = make,
        .contexts = {{"layers", context(numbers_given)}},
    };
}

}  // namespace plume

#include "core/steps/handoff/delivery_support.hpp"

namespace plume {
namespace {

Result<Value> make(const Inputs& in, const Run& /*run*/) {
    DeliveryWishes wishes;
    wishes.for_print = true;
    wishes.unit = LengthUnit::millimetre;
    return delivery_of(in, std::move(wishes));
}

}  // namespace

StepKind give_for_print() {
    return {
        .key = "handoff.print",
        .verb = "Give bodies for print",
        .synonyms = "3mf stl printer additive closed hand off deliver export",
        .sentence =
            std::string("Print {results}, ") + facets_words + ", as {format} in millimetres, to {file}.",
        .slots = {results_slot("results", "Results", {Kind::mesh, Kind::surface, Kind::bodies}),
                  format_slot({{".3mf", "3MF", "with parts, materials and colours"},
                               {".stl", "STL", "one body of triangles"}}),
                  facets_slot(), within_slot(), file_name_slot()},
        .results = {Kind::delivery},
        .result_name = "print",
        .help =
            "Closed bodies for a printer. They are checked before they are written: what is open, inside out "
            "or crosses itself is named, and the file that was there stays.",
        .make = make,
    };
}

}  // namespace plume

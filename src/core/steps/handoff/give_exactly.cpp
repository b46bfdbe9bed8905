#include "core/steps/handoff/delivery_support.hpp"

namespace plume {
StepKind give_exactly() {
    return {
        .key = "handoff.exact",
        .verb = "Give exact surfaces and curves",
        .synonyms = "step iges nurbs spline solid mill hand off deliver export",
        .sentence = "Give {results} exactly, as {format} in {unit}, to {file}.",
        .slots = {results_slot("results", "Results", movable_kinds()),
                  format_slot(
                      {{".step", "STEP", "AP242: curves, surfaces with their trims, solids, assemblies"},
                       {".igs", "IGES", "for older programs"}}),
                  delivered_unit_slot(LengthUnit::millimetre), file_name_slot()},
        .results = {Kind::delivery},
        .result_name = "exact_forms",
        .help =
            "Curves, surfaces and bodies as they are, poles and knots, without facets. Meshes go along as "
            "flat faces.",
        .make = plain_delivery,
    };
}

}  // namespace plume

#include "core/steps/formula_support.hpp"
#include "core/steps/parts/kept_points.hpp"

namespace plume {
namespace {

Result<Value> make(const Inputs& in, const Run& run) {
    Result<PointLattice> kept = kept_by_formula(in, run);
    if (!kept) return kept.error();
    return Value(in.word("gaps") == "close" ? closed_up(*kept) : *std::move(kept));
}

}  // namespace

StepKind keep_where() {
    return {
        .key = "points.keep_where",
        .verb = "Keep points where",
        .synonyms = "filter select mask remove condition",
        .sentence = "Keep the points of {points} where {formula}, and {gaps}.",
        .slots = {reference_slot("points", "Points", {Kind::points, Kind::field}),
                  formula_slot("formula", formula_label, "hypot(x, y) > 4 m"), gaps_slot()},
        .results = {Kind::points},
        .result_name = "kept",
        .help =
            "Keeps the points where a condition holds. It reads what every formula on points reads; its last "
            "line "
            "is the condition.",
        .companion = {},
        .estimate = condition_estimate,
        .make = make,
        .contexts = {{"formula", context(condition_site)}},
    };
}

}  // namespace plume

#include "core/steps/formula_support.hpp"

namespace plume {
namespace {

Result<Value> make(const Inputs& in, const Run& run) {
    Result<PointLattice> kept = kept_by_formula(in, run);
    if (!kept) return kept.error();
    return Value(*std::move(kept));
}

}  // namespace

StepKind split_where() {
    return {
        .key = "points.split",
        .verb = "Split points by a test",
        .synonyms = "divide separate odd even pattern alternate sort",
        .sentence = "Split the points of {points}: here stay those where {formula}.",
        .slots = {reference_slot("points", "Points", {Kind::points, Kind::field}),
                  formula_slot("formula", formula_label, "mod(i + j, 2) == 0")},
        .results = {Kind::points},
        .result_name = "even",
        .help =
            "Parts points in two by a test. This result holds those that pass; a second step below it takes "
            "those "
            "that do not. Both keep the arrangement.",
        .companion = "points.rest",
        .estimate = condition_estimate,
        .make = make,
        .contexts = {{"formula", context(condition_site)}},
    };
}

}  // namespace plume

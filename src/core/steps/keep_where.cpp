#include "core/geometry/subset.hpp"
#include "core/steps/formula_support.hpp"

namespace plume {
namespace {

Result<Value> make(const Inputs& in, const Run& run) {
    const auto mask = mask_by_formula(in, run);
    if (!mask) return mask.error();
    PointLattice lattice = with_gaps(in.lattice("points"), *mask);
    if (lattice.point_count() == 0)
        return Error{ErrorCode::empty_input, formula_label,
                     "keeps no point: those it would keep are gaps already", "Change its condition."};
    return Value(in.word("gaps") == "close" ? closed_up(lattice) : lattice);
}

}  // namespace

StepKind keep_where() {
    return {
        .key = "points.keep_where",
        .verb = "Keep points where",
        .synonyms = "filter select cull mask remove condition",
        .sentence = "Keep the points of {points} where {formula}, and {gaps}.",
        .slots =
            {reference_slot("points", "Points", {Kind::points, Kind::field}),
             formula_slot("formula", formula_label, "hypot(x, y) > 4 m"),
             choice_slot(
                 "gaps", "Gaps",
                 {{"keep", "leave gaps", "neighbours stay known: the rest can still be skinned"},
                  {"close", "close up",
                   "whole rows and columns that are gone are taken out; else the points are a scatter"}})},
        .results = {Kind::points},
        .result_name = "kept",
        .help =
            "Keeps the points where a condition holds. It reads what every formula on points reads; its last "
            "line "
            "is the condition.",
        .companion = {},
        .estimate = condition_estimate,
        .make = make,
        .formula_place = condition_place,
    };
}

}  // namespace plume

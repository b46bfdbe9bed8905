#include "core/geometry/parts/subset.hpp"
#include "core/study/step_kind.hpp"

namespace plume {
namespace {

Result<Value> make(const Inputs& in, const Run& /*run*/) {
    const PointLattice &whole = in.lattice("points"), &part = in.lattice("part");
    if (!whole.same_arrangement(part))
        return about_slot(Error{ErrorCode::unlike_arrangement, "",
                                "is arranged otherwise: " + arrangement_text(part) + ", and the whole is " +
                                    arrangement_text(whole),
                                "Choose a part of these points that leaves gaps."},
                          "part");
    PointLattice rest = left_over(whole, part);
    if (rest.point_count() == 0)
        return about_slot(Error{ErrorCode::empty_input, "", "leaves no point over: it has them all",
                                "Change the test that makes it."},
                          "part");
    return Value(std::move(rest));
}

}  // namespace

StepKind take_rest() {
    return {
        .key = "points.rest",
        .verb = "Take the rest",
        .synonyms = "remaining complement others left over",
        .sentence = "Take what {part} leaves of {points}.",
        .slots = {reference_slot("part", "Part", {Kind::points, Kind::field}),
                  reference_slot("points", "Points", {Kind::points, Kind::field})},
        .results = {Kind::points},
        .result_name = "odd",
        .help = "The points of a whole that a part of it does not have.",
        .companion = {},
        .estimate =
            [](const Inputs& in) {
                return Estimate{static_cast<double>(in.lattice("points").address_count()), 0};
            },
        .make = make,
    };
}

}  // namespace plume

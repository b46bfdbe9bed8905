#include <cmath>
#include <numbers>

#include "core/steps/points/lattice_plane.hpp"

namespace plume {
namespace {

Estimate estimate(const Inputs& in) {
    return points_estimate((in.number("spokes") + 1) * (in.number("rings") + 1));
}

Result<Value> make(const Inputs& in, const Run& run) {
    const bool round = in.word("extent") == "around";
    const std::size_t spokes = in.count("spokes") + (round ? 0 : 1), rings = in.count("rings") + 1;
    if (round && spokes < 3)
        return about_slot(Error{ErrorCode::out_of_range, "",
                                "have to be at least 3 to close, and are " + std::to_string(spokes),
                                "Type a larger number, or lay a part of the circle."},
                          "spokes");
    const double inner = in.number("inner"), outer = in.number("outer");
    if (!(outer > inner))
        return about_slot(Error{ErrorCode::out_of_range, "", "has to be larger than the inner one",
                                "Type a larger radius."},
                          "outer");
    const double turn = round ? 2 * std::numbers::pi : in.number("angle");
    const auto bays = static_cast<double>(in.count("spokes"));
    return laid_out({Arrangement::polar,
                     {spokes, rings, 1},
                     {round, false, false},
                     {},
                     [=](Address at) {
                         const double angle = turn * static_cast<double>(at.i) / bays;
                         const double radius = inner + (outer - inner) * static_cast<double>(at.j) /
                                                           static_cast<double>(rings - 1);
                         return Vec3{radius * std::cos(angle), radius * std::sin(angle), 0};
                     }},
                    plane_of(in), run);
}

}  // namespace

StepKind lay_polar_lattice() {
    SlotSpec inner = length_slot("inner", "Inner radius", "2 m");
    inner.least = 0;
    return {
        .key = "lattice.polar",
        .verb = "Lay a polar lattice",
        .synonyms = "rings spokes circle radial round points",
        .sentence =
            std::string("Lay {spokes} spokes {extent}[extent=part| {angle}] by {rings} bays of rings from "
                        "{inner} to {outer}, ") +
            round_plane_words + ".",
        .slots = with_facing_plane(
            {count_slot("spokes", "Spokes", "36", 1),
             choice_slot("extent", "Extent",
                         {{"around", "all around", "closed: the first spoke is not repeated"},
                          {"part", "over", "a part of the circle, open"}}),
             angle_slot("angle", "Angle", "120°"), count_slot("rings", "Bays of rings", "10", 1), inner,
             length_above_zero_slot("outer", "Outer radius", "12 m")}),
        .results = {Kind::points},
        .result_name = "wheel",
        .help =
            "Points on rings and spokes around the origin: i runs around, j outwards. All around, n spokes "
            "are "
            "n points and n bays; over a part, n bays have n + 1 spokes.",
        .estimate = estimate,
        .make = make,
    };
}

}  // namespace plume

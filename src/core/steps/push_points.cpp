#include "core/geometry/push.hpp"
#include "core/study/step_kind.hpp"

namespace plume {
namespace {

PushDirection direction_of(const std::string& word) {
    if (word == "x") return PushDirection::along_x;
    if (word == "y") return PushDirection::along_y;
    if (word == "normal") return PushDirection::along_normal;
    return PushDirection::along_z;
}

Estimate estimate(const Inputs& in) {
    const auto points = static_cast<double>(in.points("points").address_count());
    return {points * sizeof(double) * 3, points * 4e-9};
}

Status check_match(const PointLattice& points, const FieldOnPoints& amounts) {
    if (points.same_arrangement(amounts.points)) return Done{};
    return Error{ErrorCode::unlike_arrangement, "‘" + amounts.name + "’",
                 "stands on " + arrangement_text(amounts.points) + ", and the points to push are " +
                     arrangement_text(points),
                 "Measure the numbers on the points you push."};
}

Result<Value> make(const Inputs& in, const Run& run) {
    const PointLattice& points = in.points("points");
    const FieldOnPoints& amounts = in.field("amount");
    if (Status status = check_match(points, amounts); !status) return status.error();
    const Result<PointLattice> moved =
        pushed(points, amounts.field().values, in.number("factor"), direction_of(in.word("direction")), run);
    if (!moved) return moved.error();
    // The numbers come along, so that what is made of the points can be coloured by them.
    return Value(moved->with_field(amounts.field()));
}

}  // namespace

StepKind push_points() {
    return {
        .key = "points.push",
        .verb = "Push points",
        .synonyms = "move displace offset height relief raise normal axis",
        .sentence = "Push {points} {direction} by {amount} × {factor}.",
        .slots = {reference_slot("points", "Points", {Kind::points}),
                  choice_slot("direction", "Direction",
                              {{"z", "up", "along Z"},
                               {"x", "along X", ""},
                               {"y", "along Y", ""},
                               {"normal", "along their normals", "square to the lattice at each point"}}),
                  reference_slot("amount", "Amount", {Kind::field}), number_slot("factor", "Factor", "1")},
        .results = {Kind::points},
        .result_name = "pushed",
        .help = "Moves each point by its number times a factor. Plain numbers count as study lengths.",
        .companion = {},
        .estimate = estimate,
        .make = make,
        .formula_place = {},
    };
}

}  // namespace plume

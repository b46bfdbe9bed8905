#include "core/geometry/moves/push.hpp"
#include "core/steps/moves/moved_nodes.hpp"

namespace plume {
namespace {

PushDirection direction_of(const std::string& word) {
    if (word == "x") return PushDirection::along_x;
    if (word == "y") return PushDirection::along_y;
    if (word == "normal") return PushDirection::along_normal;
    return PushDirection::along_z;
}

Estimate estimate(const Inputs& in) {
    const auto points = static_cast<double>(in.lattice("points").address_count());
    return {points * sizeof(double) * 3, points * 4e-9};
}

Status check_match(const PointLattice& points, const FieldOnPoints& amounts) {
    if (points.same_arrangement(amounts.points)) return Done{};
    return about_slot(Error{ErrorCode::unlike_arrangement, "‘" + amounts.name + "’",
                            "stands on " + arrangement_text(amounts.points) +
                                ", and the points to push are " + arrangement_text(points),
                            "Measure the numbers on the points you push."},
                      "amount");
}

Status check_strength(double strength) {
    if (strength >= 0 && strength <= 1) return Done{};
    return about_slot(
        Error{ErrorCode::out_of_range, "", "has to be from 0 to 1", "Type 1 for the whole way."}, "strength");
}

// Whatever is no length counts as many plain lengths as it shows.
double length_of_one(const Inputs& in, Dimension amount) {
    const Dimension lengths{amount.length, 0};
    return internal_per_plain(a_length, in.text_units(), in.units()) /
           internal_per_plain(lengths, in.text_units(), in.units());
}

Result<PointLattice> moved_points(const Inputs& in, const PointLattice& points, const Field& amount,
                                  const Run& run) {
    const Column& amounts = amount.values;
    const double factor = in.number("factor") * in.number("strength") * length_of_one(in, amount.dimension);
    const std::string& direction = in.word("direction");
    if (direction == "place")
        return pushed_towards(points, amounts, factor, in.places("place").front().position, run);
    if (direction != "field") return pushed(points, amounts, factor, direction_of(direction), run);
    const auto& directions = std::get<DirectionsOnPoints>(in.value("directions"));
    if (!points.same_arrangement(directions.points))
        return about_slot(Error{ErrorCode::unlike_arrangement, "‘" + directions.name + "’",
                                "stands on " + arrangement_text(directions.points) +
                                    ", and the points to push are " + arrangement_text(points),
                                "Direct the points you push."},
                          "directions");
    return pushed_along(points, amounts, factor,
                        {directions.part('x'), directions.part('y'), directions.part('z')}, run);
}

Result<Value> make(const Inputs& in, const Run& run) {
    const PointLattice& points = in.lattice("points");
    const FieldOnPoints& amounts = in.field("amount");
    if (Status status = check_match(points, amounts); !status) return status.error();
    if (Status status = check_strength(in.number("strength")); !status) return status.error();
    if (in.word("direction") == "place" && in.places("place").empty())
        return about_slot(Error{ErrorCode::missing_input, "", "is not given", "Add one."}, "place");
    const Result<PointLattice> moved = moved_points(in, points, amounts.field(), run);
    if (!moved) return moved.error();
    // The numbers come along, so that what is made of the points can be coloured by them.
    return in_form_of(in.value("points"), moved->with_field(amounts.field()));
}

}  // namespace

StepKind push_points() {
    return {
        .key = "points.push",
        .verb = "Push points",
        .synonyms = "move displace offset height relief raise normal axis",
        .sentence =
            "Push {points} {direction}[direction=field| {directions}][direction=place| {place}] by {amount} "
            "× "
            "{factor}, with a strength of {strength}.",
        .slots = {reference_slot("points", "Points", {Kind::points, Kind::frame}),
                  choice_slot("direction", "Direction",
                              {{"z", "up", "along Z"},
                               {"x", "along X", ""},
                               {"y", "along Y", ""},
                               {"normal", "along their normals", "square to the lattice at each point"},
                               {"field", "along", "the directions of a direction field, as long as they are"},
                               {"place", "towards", "a place, and no further than it"}}),
                  reference_slot("directions", "Directions", {Kind::directions}),
                  places_slot("place", "Place", {{"place", "0 m", "0 m", "6 m", "1"}}),
                  reference_slot("amount", "Amount", {Kind::field}), number_slot("factor", "Factor", "1"),
                  number_slot("strength", "Strength", "1")},
        .results = moved_kinds(),
        .result_name = "pushed",
        .help =
            "Moves each point by its number times a factor. Plain numbers count as study lengths. The "
            "strength, from "
            "0 to 1, is how much of the way they go.",
        .counts_plain_numbers = true,
        .estimate = estimate,
        .make = make,
    };
}

}  // namespace plume

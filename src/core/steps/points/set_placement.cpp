#include "core/geometry/parts/subset.hpp"
#include "core/steps/moves/axis_slots.hpp"

namespace plume {
namespace {

Vec3 direction_of(const Inputs& in) {
    const std::string& up = in.word("up");
    if (up == "x") return {1, 0, 0};
    if (up == "y") return {0, 1, 0};
    if (up == "typed") return {in.number("up_x"), in.number("up_y"), in.number("up_z")};
    return {0, 0, 1};
}

Result<Value> placed(const Placement& placement) {
    const PointLattice origin = points_at({Arrangement::row, {1, 1, 1}, {}}, std::span(&placement.origin, 1));
    return as_value(Placements::make(origin, {placement}));
}

Result<Value> upright(const Inputs& in) {
    const Vec3 up = direction_of(in);
    if (!(length(up) > 0))
        return about_slot(Error{ErrorCode::out_of_range, "", "and the others are all 0: that is no direction",
                                "Type a number other than 0."},
                          "up_x");
    const ResolvedPlace& place = in.places("place").front();
    const Placement placement = placement_of(place.position, up, {1, 0, 0});
    const Affine turn = turned_about(placement.origin, placement.up, in.number("turn"));
    return placed(placement_of(placement.origin, placement.up, turn.turned(placement.along)));
}

// The first axis runs from the first point to the second, the third point lies on the side of the second
// axis.
Result<Value> through(const std::vector<Vec3>& points, const char* slot) {
    if (points.size() < 3)
        return about_slot(
            Error{ErrorCode::too_few_points, "",
                  "are " + std::to_string(points.size()) + ", and a placement takes three", "Add some."},
            slot);
    const Vec3 along = points[1] - points[0], beside = points[2] - points[0];
    const Vec3 up = cross(along, beside);
    if (!(length(up) > 1e-12 * length(along) * length(beside)))
        return about_slot(Error{ErrorCode::out_of_range, "", "lie on one line, which leaves the plane open",
                                "Move the third off the line of the first two."},
                          slot);
    return placed(placement_of(points[0], up, along));
}

Result<Value> by_axes(const Inputs& in) {
    const Vec3 along{in.number("along_x"), in.number("along_y"), in.number("along_z")};
    const Vec3 beside{in.number("beside_x"), in.number("beside_y"), in.number("beside_z")};
    const Vec3 up = cross(along, beside);
    if (!(length(up) > 1e-12 * length(along) * length(beside)))
        return about_slot(Error{ErrorCode::out_of_range, "Second axis",
                                length(along) > 0 ? "runs along the first, which leaves the plane open"
                                                  : "has no first axis beside it: that is 0, 0, 0",
                                "Type two axes that differ."},
                          "beside_x");
    return placed(placement_of(in.places("place").front().position, up, along));
}

Result<Value> make(const Inputs& in, const Run& /*run*/) {
    const std::string& how = in.word("how");
    if (how == "upright" || how == "axes") {
        if (in.places("place").empty())
            return about_slot(Error{ErrorCode::missing_input, "", "is not given", "Add one."}, "place");
        return how == "axes" ? by_axes(in) : upright(in);
    }
    if (how == "points") return through(finite_points(in.lattice("points")).places, "points");
    std::vector<Vec3> corners;
    for (const ResolvedPlace& place : in.places("corners"))
        corners.push_back(place.position);
    return through(corners, "corners");
}

}  // namespace

StepKind set_placement() {
    return {
        .key = "placement.frame",
        .verb = "Set a placement",
        .synonyms = "coordinate system frame plane axes origin three points",
        .sentence =
            "Set a placement {how}[how=upright| at {place} with {up}][how=upright&up=typed| {up_x}, {up_y}, "
            "{up_z}]"
            "[how=upright| upwards, turned by {turn}][how=places| {corners}][how=points| of {points}]"
            "[how=axes| {along_x}, {along_y}, {along_z} and {beside_x}, {beside_y}, {beside_z} at {place}].",
        .slots = {choice_slot(
                      "how", "How",
                      {{"upright", "upright", "a place and the direction that is up"},
                       {"places", "through the places",
                        "its origin, a place along its first axis, a place on the side of its second"},
                       {"points", "through the first three points", "the same, of a result"},
                       {"axes", "along the axes", "its first axis, and which way its second goes"}}),
                  places_slot("place", "Place", {{"placement", "0 m", "0 m", "0 m", "1"}}),
                  choice_slot(
                      "up", "Up",
                      {{"z", "Z", ""}, {"x", "X", ""}, {"y", "Y", ""}, {"typed", "the direction", ""}}),
                  number_slot("up_x", "Up along X", "0"), number_slot("up_y", "Up along Y", "0"),
                  number_slot("up_z", "Up along Z", "1"), angle_slot("turn", "Turn", "0°"),
                  places_slot("corners", "Three places",
                              {{"origin", "0 m", "0 m", "0 m", "1"},
                               {"along", "4 m", "0 m", "0 m", "1"},
                               {"beside", "0 m", "3 m", "1 m", "1"}}),
                  reference_slot("points", "Points", {Kind::points, Kind::field}),
                  number_slot("along_x", "First axis along X", "1"),
                  number_slot("along_y", "First axis along Y", "0"),
                  number_slot("along_z", "First axis along Z", "0"),
                  number_slot("beside_x", "Second axis along X", "0"),
                  number_slot("beside_y", "Second axis along Y", "1"),
                  number_slot("beside_z", "Second axis along Z", "0")},
        .results = {Kind::placements},
        .result_name = "placement",
        .help =
            "Axes that stand at a place: where a thing is copied to, or the plane and axis of other steps. "
            "An "
            "upright one has its first axis along X as far as its up axis lets it. Three points are its "
            "origin, a "
            "place along the first axis and one on the side of the second; of two axes the second is brought "
            "square to the first.",
        .make = make,
    };
}

}  // namespace plume

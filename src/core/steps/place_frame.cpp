#include "core/geometry/subset.hpp"
#include "core/steps/axis_slots.hpp"

namespace plume {
namespace {

Vec3 direction_of(const Inputs& in) {
    const std::string& up = in.word("up");
    if (up == "x") return {1, 0, 0};
    if (up == "y") return {0, 1, 0};
    if (up == "typed") return {in.number("up_x"), in.number("up_y"), in.number("up_z")};
    return {0, 0, 1};
}

Result<Value> make(const Inputs& in, const Run& /*run*/) {
    const Vec3 up = direction_of(in);
    if (!(length(up) > 0))
        return Error{ErrorCode::out_of_range, "Up along X", "and the others are all 0: that is no direction",
                     "Type a number other than 0."};
    const ResolvedPlace& place = in.places("place").front();
    Frame frame = frame_of(place.position, up, {1, 0, 0});
    const Affine turn = turned_about(frame.origin, frame.up, in.number("turn"));
    frame = frame_of(frame.origin, frame.up, turn.turned(frame.along));
    const PointLattice origin = points_at({Arrangement::row, {1, 1, 1}, {}}, std::span(&frame.origin, 1));
    Result<Placements> placements = Placements::make(origin, {frame});
    if (!placements) return placements.error();
    return Value(*std::move(placements));
}

}  // namespace

StepKind place_frame() {
    return {
        .key = "placement.frame",
        .verb = "Place a frame",
        .synonyms = "coordinate system plane placement axes origin",
        .sentence =
            "Place a frame at {place} with {up}[up=typed| {up_x}, {up_y}, {up_z}] upwards, turned by {turn}.",
        .slots = {places_slot("place", "Place", {{"frame", "0 m", "0 m", "0 m", "1"}}),
                  choice_slot(
                      "up", "Up",
                      {{"z", "Z", ""}, {"x", "X", ""}, {"y", "Y", ""}, {"typed", "the direction", ""}}),
                  number_slot("up_x", "Up along X", "0"), number_slot("up_y", "Up along Y", "0"),
                  number_slot("up_z", "Up along Z", "1"), angle_slot("turn", "Turn", "0°")},
        .results = {Kind::placements},
        .result_name = "frame",
        .help =
            "A coordinate frame: where a thing is copied to, or the plane and axis of other steps. Its first "
            "axis "
            "points along X as far as its up axis lets it.",
        .make = make,
    };
}

}  // namespace plume
